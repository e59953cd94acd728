// Family "implicit", anterior crowns with a lingual fossa against a lower tooth, as functions of place.
import { bisected } from './bisected.ts';
import type { NamedCase, Truth } from './case.ts';
import { type Bite, lingualBite, opposingSheet } from './implicit-bite.ts';
import { edgeTruths } from './implicit-blade.ts';
import {
  crown,
  crownTruths,
  type Fossa,
  finishHeight,
  fossaOf,
  type ImplicitCrown,
  middleOf,
  prepared,
  sides,
  wallOf,
} from './implicit-crown.ts';
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
  const [wall, fossa] = [wallOf(t, c), fossaOf(c.fossa)];
  const outOf = (f: Body, phi: number, z: number): number =>
    bisected((r) => f(x0 + r * Math.sin(phi * RAD), y0 + r * Math.cos(phi * RAD), z), 0, 9);
  const ends = Array.from({ length: 31 }, (_, i) => 150 + 2 * i)
    .map((phi) => bisected((z) => outOf(wall, phi, z) - outOf(fossa, phi, z), 1, t.h))
    .sort((a, b) => a - b);
  return ends[ends.length >> 1];
}

/** Degrees to both sides of lingual (and of facial) between which the lingual form is taken, and mm between the places of a profile. */
const ARC = 14;
const PLACE = 0.02;
/** mm under a profile's highest place at which the edge begins. */
const UNDER_EDGE = 0.1;
const topAt = (f: Body, x: number, y: number, h: number): number => bisected((z) => f(x, y, z), h / 2, h + 1);

/** Largest depth of places (along, inward) under any straight line between two of them, and which of them lies there. */
function hollowOf(places: readonly (readonly [number, number])[]): { depth: number; at: number } {
  const under = places.map(([s, u], k) => {
    // The line that leaves the most room goes through the least slopes to either side.
    let most = 0;
    for (const [s0, u0] of places.slice(0, k))
      for (const [s1, u1] of places.slice(k + 1)) if (s1 > s0) most = Math.max(most, u - u0 - ((u1 - u0) * (s - s0)) / (s1 - s0));
    return most;
  });
  const depth = Math.max(...under);
  return { depth, at: under.indexOf(depth) };
}

/** How far the lingual face stands out in its middle over the places 22° to both sides, at the fossa's deepest height. */
function ridgeTruth(left: Body, [x0, y0]: ReturnType<typeof middleOf>, z: number): Truth {
  const out = (at: number): number => {
    const radii = [-4, -2, 0, 2, 4].map((d) => {
      const phi = (at + d) * RAD;
      return bisected((r) => left(x0 + r * Math.sin(phi), y0 + r * Math.cos(phi), z), 0, 9);
    });
    return radii.sort((a, b) => a - b)[2];
  };
  return { name: 'form.lingual.ridge', zone: null, stat: 'value', value: out(180) - (out(158) + out(202)) / 2 };
}

/** The lingual wall's height and its angle to the facial one, and how hollow the fossa is over it. */
function lingualForm(t: ImplicitTooth, c: Cut): Truth[] {
  const o = middleOf(landmarks(t).gingivalMargin);
  const [x0, y0] = o;
  const [wall, left] = [wallOf(t, c), prepared(t, c)];
  const fossa = fossaOf(c.fossa);
  const [heights, leans, hollows, deepest] = [[], [], [], []] as [number[], number[], number[], number[]];
  for (let phi = 180 - ARC; phi <= 180 + ARC; phi += 2) {
    const out = (f: Body, at: number, z: number): number =>
      bisected((r) => f(x0 + r * Math.sin(at * RAD), y0 + r * Math.cos(at * RAD), z), 0, 9);
    const finish = finishHeight(t, c, o, phi);
    const end = bisected((z) => out(wall, phi, z) - out(fossa, phi, z), 1, t.h);
    heights.push(end - finish);
    const lean = (at: number): number => Math.atan((out(wall, at, finish + 0.5) - out(wall, at, finish + 1.5)) / 1) / RAD;
    leans.push(lean(phi) + lean(phi - 180));
    // The profile from the wall's end up to 0.1 mm under its highest place.
    const places: [number, number][] = [];
    const high = Math.max(
      ...Array.from({ length: 40 }, (_, i) => 0.05 * i).map((r) =>
        topAt(left, x0 + r * Math.sin(phi * RAD), y0 + r * Math.cos(phi * RAD), t.h),
      ),
    );
    for (let z = end; z < high - UNDER_EDGE; z += PLACE) places.push([out(left, phi, z), z]);
    const [[r0, z0], [r1, z1]] = [places[0], places[places.length - 1]];
    const l = Math.hypot(r1 - r0, z1 - z0);
    const hollow = hollowOf(
      places.map(([r, z]) => [((r - r0) * (r1 - r0) + (z - z0) * (z1 - z0)) / l, ((z - z0) * (r1 - r0) - (r - r0) * (z1 - z0)) / l]),
    );
    hollows.push(hollow.depth);
    deepest.push(places[hollow.at][1]);
  }
  const middle = (of: number[]): number => of.sort((a, b) => a - b)[of.length >> 1];
  return [
    { name: 'form.lingual.height', zone: null, stat: 'value', value: middle(heights) },
    { name: 'form.lingual.angle', zone: null, stat: 'value', value: middle(leans) },
    { name: 'form.lingual.concavity', zone: null, stat: 'value', value: middle(hollows) },
    ...(t.tooth[1] === '3' ? [ridgeTruth(left, o, middle(deepest))] : []),
  ];
}

const WORKS: readonly (readonly [string, string, Cut, Bite | null])[] = [
  [
    'fossa over a short lingual wall',
    'incisor21',
    {
      ...crown(0.6, sides(0.9, 0.8), sides(8, 5, 4), 2, 0.25, 0.15),
      incisal: { fall: 0, slopes: 0 },
      fossa: { y: 2.45, z: 2.9, in: 45, up: 12, by: 1 },
    },
    { form: 'incisor31', facial: -3.1, over: 13.8, lean: 24 },
  ],
  [
    'fossa over a long lingual wall, bite near the cingulum',
    'incisor21',
    {
      ...crown(0.5, sides(0.8, 0.7, 0.7), sides(7, 4, 3), 1.8, 0.3, 0.2),
      incisal: { fall: 6, slopes: 0 },
      fossa: { y: 2.5, z: 3.6, in: 50, up: 15, by: 0.9 },
    },
    { form: 'incisor31', facial: -3.6, over: 13.4, lean: 26 },
  ],
  [
    'fossa left bulging',
    'incisor21',
    {
      ...crown(0.6, sides(0.9, 0.8), sides(8, 5, 4), 2, 0.25, 0.15),
      incisal: { fall: 0, slopes: 0 },
      fossa: { y: 2.45, z: 3.1, in: 24, up: 42, by: 0.8 },
    },
    { form: 'incisor31', facial: -3.1, over: 13.8, lean: 24 },
  ],
  [
    'lingual ridge kept',
    'canine43',
    {
      ...crown(0.6, sides(0.8, 0.7), sides(8, 5, 4), 1.8, 0.25, 0.15),
      incisal: { fall: 4, slopes: 18 },
      fossa: { y: 2.6, z: 3.4, in: 46, up: 14, by: 0.8, ridge: { high: 0.45, wide: 0.7 } },
    },
    null,
  ],
  [
    'lingual ridge cut away',
    'canine43',
    {
      ...crown(0.5, sides(0.8, 0.7), sides(7, 5, 5), 1.8, 0.25, 0.15),
      incisal: { fall: 4, slopes: 18 },
      fossa: { y: 2.6, z: 3.4, in: 46, up: 14, by: 0.8 },
    },
    null,
  ],
];

export const IMPLICIT_FOSSAE: readonly NamedCase[] = scansOf(
  WORKS.map(([words, form, cut, bite]) => ({
    kind: 'crown',
    name: `${form} crown, ${words}`,
    form,
    body: (t) => prepared(t, cut),
    truths: (t) => [
      ...crownTruths(t, cut),
      ...edgeTruths(t, cut, [0, 0, 1]).filter((q) => q.name === 'reduction.incisal'),
      ...lingualForm(t, cut),
      ...(bite ? lingualBite(t, prepared(t, cut), bite, wallEnd(t, cut)) : []),
    ],
    ...(bite && { beside: () => ({ opposing: opposingSheet(bite, 0.12) }) }),
  })),
  1090,
);
