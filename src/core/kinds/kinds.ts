import { cavity } from './cavity/cavity.ts';
import { crown } from './crown/crown.ts';
import type { Kind } from './kind.ts';
import { onlay } from './onlay/onlay.ts';
import { partial } from './partial/partial.ts';

const byHand = (name: string, title: string, steps: Kind['steps']): Kind => ({
  name,
  title,
  steps,
  colours: [],
  hollow: false,
  measure: null,
});

/** Every kind of preparation by its name in files and on the command line. */
export const KINDS = {
  crown,
  cavity,
  onlay,
  partial,
  preformed: byHand('preformed', 'Preparation for a preformed crown', ['occlusal', 'axial']),
  restoration: byHand('restoration', 'Finished restoration', []),
} as const satisfies Record<string, Kind>;
export type KindName = keyof typeof KINDS;

export const KIND_NAMES = Object.keys(KINDS) as readonly KindName[];
export const MEASURED_KINDS = KIND_NAMES.filter((k) => KINDS[k].measure !== null);
