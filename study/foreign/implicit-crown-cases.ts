// Family "implicit", crowns of posterior teeth: each alone, and two that share one path.
import type { NamedCase } from './case.ts';
import { crown, crownTruths, type ImplicitCrown, prepared, sides, stumpOf } from './implicit-crown.ts';
import { surfaceTruths } from './implicit-surface.ts';
import { tipsBeside } from './implicit-tooth.ts';
import { scansOf } from './implicit-work.ts';
import { inclineTruths, rowTruths } from './occlusal-truths.ts';
import { ballSheet, pulpTruth } from './pulp-truth.ts';

const PULP = { at: [0.3, -0.2, 1.6], radius: 1.4 } as const;

const CROWNS: readonly (readonly [string, string, ImplicitCrown])[] = [
  ['shoulder', 'molar36', crown(0.5, sides(0.9), sides(6), 1.5, 0.1, 0.3)],
  ['chamfer, sharp edge', 'molar17', crown(0.6, sides(0.5), sides(5, 4, 7), 1.2, 0.4, 0.05)],
  ['deep chamfer, tipped to lingual', 'premolar25', crown(0.4, sides(1, 0.7, 0.6), sides(12, 5, 2), 1.6, 0.5, 0.5)],
  ['knife-near, tapered', 'molar36', crown(0.8, sides(0.35), sides(12, 9, 10, 12), 1.1, 0.25, 0.6)],
  ['wide shoulder, round edge', 'molar17', crown(0.3, sides(1.3, 1, 1.1), sides(4, 3, 5), 2, 0.2, 0.8)],
  ['uneven', 'premolar25', crown(0.7, sides(1.1, 0.5, 0.5, 0.8), sides(7, 3, 6, 9), 1.4, 0.3, 0.2)],
];

export const IMPLICIT_CROWNS: readonly NamedCase[] = scansOf(
  CROWNS.map(([words, form, cut]) => ({
    kind: 'crown',
    name: `${form} crown, ${words}`,
    form,
    body: (t) => prepared(t, cut),
    truths: (t) => [
      ...crownTruths(t, cut),
      ...surfaceTruths(t, cut),
      ...rowTruths(t, cut),
      ...inclineTruths(t, cut),
      pulpTruth(PULP, stumpOf(t, cut)),
    ],
    marks: (t) => ({ neighbourCusps: tipsBeside(t) }),
    beside: () => ({ pulp: ballSheet(PULP) }),
  })),
  950,
);
