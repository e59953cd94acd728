import type { CariesRecipe } from '../anatomy/inner.ts';
import { CLEAN_CROWN } from './crown/recipe.ts';
import type { FaultRecipe } from './faults/faults.ts';
import type { Preparation } from './preparation.ts';

export interface Recipe {
  readonly format: 'veritor-recipe/1';
  /** FDI. */
  readonly tooth: string;
  readonly seed: number;
  /** Decay in the tooth; left out or null for a sound one. It belongs to the master as much as to the scan. */
  readonly caries?: CariesRecipe | null;
  readonly preparation: Preparation;
  /** How much of the arch the master shows; the tooth with its neighbours when left out. */
  readonly arch?: 'neighbours' | 'quadrant';
  /** Which tooth was cut, when it was not the one that was asked for. */
  readonly cut?: 'mesial' | 'distal';
  /** Another tooth of the same quadrant that was prepared to share the path of insertion; a bridge's second abutment. It needs the whole quadrant. */
  readonly abutment?: { readonly tooth: string; readonly preparation: Preparation };
  readonly neighbourDamage: { readonly mesial: number; readonly distal: number };
  /** Named faults over the preparation as it is described. */
  readonly faults?: readonly FaultRecipe[];
  readonly scan: ScanRecipe;
}

export const SCAN_FILES = ['stl', 'stl-ascii', 'ply', 'obj'] as const;
export type ScanFileKind = (typeof SCAN_FILES)[number];

export interface ScanRecipe {
  readonly triangles: number;
  /** mm: standard deviation of a point's noise, and the distance over which it is shared. */
  readonly noise: number;
  readonly correlation: number;
  /** Random pose when not given: row-major 4 × 4, tooth frame of the file to scanner. */
  readonly pose: 'random' | 'none';
  /** mm beyond the neighbours' middles at which the scan is cut off. */
  readonly border: number;
  /** Degrees from the axis up to which the camera looks in; what it cannot see from there is missing. All is seen when left out. */
  readonly sight?: number;
  readonly file?: ScanFileKind;
}

export const defaultRecipe = (tooth: string, seed: number, preparation: Preparation = CLEAN_CROWN): Recipe => ({
  format: 'veritor-recipe/1',
  tooth,
  seed,
  preparation,
  neighbourDamage: { mesial: 0, distal: 0 },
  scan: { triangles: 150_000, noise: 0.02, correlation: 0.25, pose: 'random', border: 1 },
});
