import { SECTORS } from '../../linalg/sectors.ts';

/** A fault as a parameter of a recipe: a size and a place over clean work. */
export interface FaultOf<T> {
  /** In the trade's words. */
  readonly words: string;
  readonly unit: 'mm' | 'deg' | 'share';
  /** Where it is met most. */
  readonly at: string;
  make(clean: T, size: number, at: string, tooth: string): T;
}

export const azimuthOfSector = (at: string): number => {
  const s = SECTORS.find((q) => q.name === at);
  if (!s) throw new RangeError(`"${at}" is no sector: ${SECTORS.map((q) => q.name).join(', ')}`);
  return s.centre;
};
