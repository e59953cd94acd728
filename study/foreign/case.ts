import type { KindName } from '#core/kinds/kinds.ts';
import type { Matrix } from '#core/linalg/rigid.ts';
import type { Master } from '#core/master/master.ts';
import type { Mesh } from '#core/mesh/mesh.ts';
import type { Abutment } from '#core/pipeline.ts';

/** A reading's true value from the construction. */
export interface Truth {
  readonly name: string;
  readonly zone: string | null;
  readonly stat: string;
  readonly value: number;
}

/** A preparation and its scan, made by one of the families of constructions that share no code with the simulator. */
export interface ForeignCase {
  readonly family: string;
  readonly name: string;
  readonly kind: KindName;
  readonly master: Master;
  readonly scan: Mesh<'scanner'>;
  /** Master file frame → scanner frame: the pose that alignment has to undo. */
  readonly pose: Matrix;
  /** Worked out when they are asked for: some take longer than the scan. */
  truths(): readonly Truth[];
  /** Size of the scan against the truth. */
  readonly size: number;
  /** Another preparation of the same scan whose path of insertion is shared. */
  readonly abutment?: Abutment;
  /** Code of the fault with which the scan must be refused. */
  readonly refused?: string;
}

/** How a case's scan is made from its surface. */
export interface ScanOptions {
  readonly seed: number;
  /** mm: standard deviation of a point along its normal. */
  readonly noise: number;
  /** Passes of averaging over neighbours that the noise goes through: 0 is white. */
  readonly correlation: number;
  /** mm between points. */
  readonly spacing: number;
  /** Passes of averaging that blunt the surface itself, as a scanner's own smoothing does. */
  readonly blunt: number;
  readonly mirrored: boolean;
  /** Size of the scan against the truth. */
  readonly scale: number;
  readonly defects: readonly Defect[];
}

export type Defect = 'pinholes' | 'debris' | 'spikes' | 'doubled' | 'step' | 'turned' | 'crop';

export const SCAN: ScanOptions = {
  seed: 1,
  noise: 0.02,
  correlation: 0,
  spacing: 0.13,
  blunt: 0,
  mirrored: false,
  scale: 1,
  defects: [],
};

/** A case by its name, made when it is asked for. */
export interface NamedCase {
  readonly name: string;
  make(): ForeignCase;
}

/** A work scanned as usual, and once more coarser with noise that neighbouring points share; `seed` is the first scan's. */
export const usualAndCoarse = (
  words: string,
  seed: number,
  spacing: number,
  make: (options: Partial<ScanOptions>) => Omit<ForeignCase, 'name'>,
): NamedCase[] =>
  [{}, { noise: 0.03, correlation: 3, spacing }].map((more, j) => {
    const name = `implicit ${words}${j ? ', noise 0.03, coarse' : ''}`;
    return { name, make: () => ({ name, ...make({ seed: seed + j, ...more }) }) };
  });
