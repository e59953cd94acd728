import { CAVITY_FAULTS } from './cavity.ts';
import { CROWN_FAULTS } from './crown.ts';
import { PARTIAL_FAULTS } from './partial.ts';

/** A fault as a recipe asks for it: which, how large (in the fault's own unit) and where. */
export interface FaultRecipe {
  readonly fault: FaultName;
  readonly size: number;
  /** A sector, a cusp's name or a box's side, as the fault wants; its usual place when left out. */
  readonly at?: string;
}

/** What students get wrong most, and the critical errors, each as one parameter: a size and a place over a clean recipe. */
export const FAULTS = {
  ...CROWN_FAULTS,
  ...CAVITY_FAULTS,
  ...PARTIAL_FAULTS,
  'wrong-tooth': {
    of: 'surroundings' as const,
    words: 'neighbour prepared in place of the tooth that was asked for',
    unit: 'share' as const,
    at: 'mesial',
  },
  neighbour: {
    of: 'surroundings' as const,
    words: 'neighbour scratched',
    unit: 'mm' as const,
    at: 'mesial',
  },
} as const;

export type FaultName = keyof typeof FAULTS;
export const FAULT_NAMES = Object.keys(FAULTS) as FaultName[];
