import type { Stat, Unit } from '../../catalogue/terms.ts';
import type { Vec3 } from '../../linalg/vec.ts';

/** A true value, in the same words as a reading. */
export interface Truth {
  readonly name: string;
  readonly zone: string | null;
  readonly stat: Stat;
  readonly unit: Unit;
  readonly value: number;
}

/** Notes a true value. */
export type Tell = (name: string, zone: string | null, stat: Stat, unit: Unit, value: number) => void;

/** A place of the cut surface and the area that it stands for. */
export interface Sample {
  readonly p: Vec3;
  readonly weight: number;
}
