/** Address of a photograph of a step. */
export const photoAddress = (attempt: number, photo: number): string => `/api/attempts/${attempt}/step-photos/${photo}`;
