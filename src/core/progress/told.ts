/** A statistic about a person, or why it is not given: how many are there, and how many are needed at the least. */
export type Told<T> = { readonly given: T } | { readonly given: null; readonly there: number; readonly least: number };

export const tooFew = <T>(there: number, least: number): Told<T> => ({ given: null, there, least });
