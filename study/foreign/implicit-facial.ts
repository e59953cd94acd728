// Family "implicit", anterior crowns whose facial wall is cut in one plane or in two, as functions of place.
import { bisected } from './bisected.ts';
import type { NamedCase, Truth } from './case.ts';
import { depthQuantiles } from './depth-zones.ts';
import { bevelPlane, crown, crownTruths, finishHeight, type ImplicitCrown, middleOf, prepared, sides, wallOf } from './implicit-crown.ts';
import type { Body } from './implicit-mesh.ts';
import { wayTo } from './implicit-surface.ts';
import { type ImplicitTooth, landmarks, normalOf, uncut } from './implicit-tooth.ts';
import { scansOf } from './implicit-work.ts';

const RAD = Math.PI / 180;
/** mm from the axis beyond which no tooth reaches, degrees and mm between places of the facial side. */
const FARTHEST = 9;
const TURN = 3;
const RISE = 0.06;
/** Degrees to each side within which the planes are counted, and mm between which their leans are taken. */
const NEAR = 16;
const OVER = 0.3;

/** Planes of the facial wall and the thinnest place of its outer third. */
export function facialTruths(t: ImplicitTooth, c: ImplicitCrown): Truth[] {
  const [left, tooth, wall] = [prepared(t, c), uncut(t), wallOf(t, c)];
  const o = middleOf(landmarks(t).gingivalMargin);
  const bends: number[] = [];
  const outer: { depth: number; area: number }[] = [];
  for (let phi = -45; phi <= 45; phi += TURN) {
    const [sx, sy] = [Math.sin(phi * RAD), Math.cos(phi * RAD)];
    const out = (f: Body, z: number): number => bisected((r) => f(o[0] + r * sx, o[1] + r * sy, z), 0, FARTHEST);
    const finish = finishHeight(t, c, o, phi);
    const at = (z: number) => {
      const r = out(left, z);
      return { r, p: [o[0] + r * sx, o[1] + r * sy, z] as const };
    };
    /** Cosine by which the profile has turned beyond 45° from upright. */
    const turned = (z: number): number => {
      const n = normalOf(left, at(z).p);
      return n[2] - n[0] * sx - n[1] * sy;
    };
    let high = finish + 2;
    while (turned(high) < 0) high += RISE;
    const top = bisected(turned, high - RISE, high);
    for (let z = finish + (2 / 3) * (top - finish) + RISE / 2; z < top; z += RISE) {
      const { r, p } = at(z);
      const n = normalOf(left, p);
      const uncutR = out(tooth, z);
      const { distance } = wayTo(tooth, p, [
        [o[0] + uncutR * sx, o[1] + uncutR * sy, z],
        [p[0], p[1], bisected((q) => tooth(p[0], p[1], q), t.h / 3, t.h + 1)],
      ]);
      outer.push({ depth: distance, area: (r * TURN * RAD * RISE) / (n[0] * sx + n[1] * sy) });
    }
    if (!c.facial || Math.abs(phi) > NEAR) continue;
    const plane = bevelPlane(c.facial);
    const leanOf = (f: Body, z: number): number => Math.atan((out(f, z) - out(f, z + OVER)) / OVER) / RAD;
    bends.push(leanOf(plane, c.facial.z) - leanOf(wall, finish + 1));
  }
  const [thin] = depthQuantiles('planes.facial.depth', '', outer);
  return [
    { name: 'planes.facial', zone: null, stat: 'count', value: c.facial ? 2 : 1 },
    { name: 'planes.facial.depth', zone: null, stat: 'min', value: thin.value },
    ...(c.facial
      ? [{ name: 'planes.facial.angle', zone: null, stat: 'value', value: bends.sort((a, b) => a - b)[bends.length >> 1] }]
      : []),
  ];
}

const LEVEL = { incisal: { fall: 0, slopes: 0 } } as const;
const WORKS: readonly (readonly [string, string, ImplicitCrown])[] = [
  ['facial in one plane', 'incisor21', { ...crown(0.6, sides(0.9, 0.8), sides(9, 5, 10), 2, 0.25, 0.1), ...LEVEL }],
  [
    'facial in two planes',
    'incisor21',
    { ...crown(0.5, sides(0.9, 0.8), sides(6, 5, 8), 2, 0.2, 0.2), ...LEVEL, facial: { angle: 25, side: 1, y: 0.6, z: 8.2 } },
  ],
  [
    'facial in two planes, the second short and steep',
    'incisor21',
    { ...crown(0.7, sides(0.7, 0.7, 0.6), sides(8, 4, 7), 1.6, 0.4, 0.3), ...LEVEL, facial: { angle: 36, side: 1, y: 0.3, z: 8.6 } },
  ],
  [
    'facial in two planes, nearly one',
    'canine43',
    {
      ...crown(0.5, sides(0.8, 0.6), sides(6, 4, 8), 1.8, 0.3, 0.1),
      incisal: { fall: 4, slopes: 18 },
      facial: { angle: 19, side: 1, y: 0.8, z: 8.8 },
    },
  ],
];

export const IMPLICIT_FACIALS: readonly NamedCase[] = scansOf(
  WORKS.map(([words, form, cut]) => ({
    kind: 'crown',
    name: `${form} crown, ${words}`,
    form,
    body: (t) => prepared(t, cut),
    truths: (t) => [
      ...crownTruths(t, cut).filter((q) => q.name !== 'undercut.depth' && !q.name.startsWith('toc')),
      ...facialTruths(t, cut),
    ],
  })),
  1120,
);
