import type { Step } from '#core/catalogue/terms.ts';
import type { KindName } from '#core/kinds/kinds.ts';

/** What is looked at at each step, and whether a word is needed to go on. */
export const CHECKS: Readonly<Record<Step, { check: string; needsWord: boolean }>> = {
  occlusal: { check: 'In occlusion: the gauge asked for passes over every cusp and in the grooves.', needsWord: true },
  axial: { check: 'From above, with one eye: every wall shows from margin to edge; neighbours untouched.', needsWord: false },
  outline: { check: 'Probe at three places: the same depth; outline smooth and within the pencil.', needsWord: false },
  box: { check: 'Explorer along the box: floor level, corners clean, contact open by the gauge asked for.', needsWord: true },
  final: { check: 'Everything once more by hand before it is handed in.', needsWord: false },
};
const CROWN_CUTTERS = ['depth-10', 'taper-round-12', 'needle', 'fine-round-12'];
export const CUTTERS_OF: Readonly<Record<KindName, readonly string[]>> = {
  crown: CROWN_CUTTERS,
  onlay: ['straight-09', 'taper-flat-10', 'fine-round-12'],
  partial: [...CROWN_CUTTERS, 'straight-09'],
  cavity: ['pear-10', 'straight-09', 'inverted-10'],
  preformed: ['taper-round-12', 'needle'],
  restoration: [],
};
