// Family "implicit", anterior crowns with a lingual fossa against a lower tooth, as functions of place.
import { bisected } from './bisected.ts';
import type { NamedCase } from './case.ts';
import { type Bite, lingualBite, opposingSheet } from './implicit-bite.ts';
import { edgeTruths } from './implicit-blade.ts';
import { bevelPlane, crown, crownTruths, type Fossa, type ImplicitCrown, middleOf, prepared, sides, wallOf } from './implicit-crown.ts';
import type { Body } from './implicit-mesh.ts';
import { type ImplicitTooth, landmarks } from './implicit-tooth.ts';
import { scansOf } from './implicit-work.ts';

const RAD = Math.PI / 180;

interface Cut extends ImplicitCrown {
  readonly fossa: Fossa;
}

/** Height at which the lingual wall runs into the fossa: where both stand equally far out, median over 30° to both sides. */
function wallEnd(t: ImplicitTooth, c: Cut): number {
  const [x0, y0] = middleOf(landmarks(t).gingivalMargin);
  const [wall, fossa] = [wallOf(t, c), bevelPlane({ angle: c.fossa.in, side: -1, y: c.fossa.y, z: c.fossa.z })];
  const outOf = (f: Body, phi: number, z: number): number =>
    bisected((r) => f(x0 + r * Math.sin(phi * RAD), y0 + r * Math.cos(phi * RAD), z), 0, 9);
  const ends = Array.from({ length: 31 }, (_, i) => 150 + 2 * i)
    .map((phi) => bisected((z) => outOf(wall, phi, z) - outOf(fossa, phi, z), 1, t.h))
    .sort((a, b) => a - b);
  return ends[ends.length >> 1];
}

const WORKS: readonly (readonly [string, Cut, Bite])[] = [
  [
    'fossa over a short lingual wall',
    {
      ...crown(0.6, sides(0.9, 0.8), sides(8, 5, 4), 2, 0.25, 0.15),
      incisal: { fall: 0, slopes: 0 },
      fossa: { y: 2.45, z: 2.9, in: 45, up: 12, by: 1 },
    },
    { form: 'incisor31', facial: -3.1, over: 13.8, lean: 24 },
  ],
  [
    'fossa over a long lingual wall, bite near the cingulum',
    {
      ...crown(0.5, sides(0.8, 0.7, 0.7), sides(7, 4, 3), 1.8, 0.3, 0.2),
      incisal: { fall: 6, slopes: 0 },
      fossa: { y: 2.5, z: 3.6, in: 50, up: 15, by: 0.9 },
    },
    { form: 'incisor31', facial: -3.6, over: 13.4, lean: 26 },
  ],
];

export const IMPLICIT_FOSSAE: readonly NamedCase[] = scansOf(
  WORKS.map(([words, cut, bite]) => ({
    kind: 'crown',
    name: `incisor21 crown, ${words}`,
    form: 'incisor21',
    body: (t) => prepared(t, cut),
    truths: (t) => [
      ...crownTruths(t, cut),
      ...edgeTruths(t, cut, [0, 0, 1]).filter((q) => q.name === 'reduction.incisal'),
      ...lingualBite(t, prepared(t, cut), bite, wallEnd(t, cut)),
    ],
    beside: () => ({ opposing: opposingSheet(bite, 0.12) }),
  })),
  1090,
);
