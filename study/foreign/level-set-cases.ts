import type { ForeignCase, Truth } from './case.ts';
import { build, CASES, type Outsider } from './level-set.ts';
import type { CavityCut } from './level-set-cuts.ts';
import { levelSetPartialTruths } from './level-set-partial.ts';
import { FORMS } from './level-set-tooth.ts';

const RAD = Math.PI / 180;
const SIDES = [
  ['facial', 'f', 0],
  ['mesial', 'm', 90],
  ['lingual', 'l', 180],
  ['distal', 'd', 270],
] as const;

/** Lean by azimuth as the ring sweep blends it: each side's share grows with the square of its direction. */
function leans(c: NonNullable<Outsider['crown']>): number[] {
  return Array.from({ length: 360 }, (_, phi) => {
    const [cos, sin] = [Math.cos(phi * RAD), Math.sin(phi * RAD)];
    return (cos > 0 ? c.taper.f : c.taper.l) * cos * cos + (sin > 0 ? c.taper.m : c.taper.d) * sin * sin;
  });
}

const middle = (v: readonly number[]): number => [...v].sort((a, b) => a - b)[v.length >> 1];
const mean = (v: readonly number[]): number => v.reduce((s, q) => s + q, 0) / v.length;

function truthsOf(o: Outsider): Truth[] {
  const out: Truth[] = [];
  const say = (name: string, zone: string | null, stat: string, value: number): void => void out.push({ name, zone, stat, value });
  for (const side of ['mesial', 'distal']) say(`neighbour.${side}`, null, 'max', 0);
  if (o.crown) {
    const lean = leans(o.crown);
    const within = (at: number, half: number): number[] =>
      lean.flatMap((v, p) => (Math.abs(((p - at + 540) % 360) - 180) <= half ? [v] : []));
    for (const zone of [null, 'facial', 'mesial', 'lingual', 'distal'])
      for (const stat of ['min', 'p05', 'median', 'p95']) say('margin.width', zone, stat, o.crown.width);
    for (const stat of ['min', 'median', 'p95']) say('margin.gingiva', null, stat, o.crown.over);
    for (const [zone, , at] of SIDES) say('wall.lean', zone, 'median', middle(within(at, 45)));
    const sorted = [...lean].sort((a, b) => a - b);
    const end = (q: number): number => sorted[Math.round(q * (sorted.length - 1))];
    if (Math.min(...lean) > 1) say('taper.even', null, 'value', end(0.95) - end(0.05));
    const harmonic = (f: (x: number) => number): number => (2 / lean.length) * lean.reduce((t, v, p) => t + v * f((p * Math.PI) / 180), 0);
    say('lean.whole', null, 'value', Math.hypot(harmonic(Math.cos), harmonic(Math.sin)));
    say('margin.even', null, 'value', 0);
    say('margin.thinnest', null, 'value', o.crown.width);
    say('margin.lip', null, 'max', 0);
    if (Math.min(...lean) > 1) {
      const pairs = (at: number): number =>
        mean(lean.flatMap((v, p) => (Math.abs(((p - at + 540) % 360) - 180) <= 30 ? [v + lean[(p + 180) % 360]] : [])));
      say('toc.faciolingual', null, 'mean', pairs(0));
      say('toc.mesiodistal', null, 'mean', pairs(90));
      say('undercut.depth', null, 'max', 0);
    }
    // The whole top is the tooth's own, lowered.
    for (const coping of [0.3, 0.5]) say(`porcelain.unsupported(${coping.toFixed(1)})`, null, 'value', o.crown.down - coping);
    if (/incisor|canine/.test(o.form)) say('reduction.incisal', null, 'value', o.crown.down);
  }
  if (o.partial) out.push(...levelSetPartialTruths(FORMS[o.form], o.partial));
  if (o.onlay) for (const box of o.onlay.boxes) boxTruths(o.onlay.slot, box, say);
  if (o.cavity) {
    const c = o.cavity;
    const open = c.box?.side === 1 ? 'mesial' : c.box?.side === -1 ? 'distal' : null;
    for (const side of ['facial', 'lingual', 'mesial', 'distal']) if (side !== open) say('wall.angle', side, 'mean', c.lean);
    say('floor.pulpal.tilt', null, 'value', 0);
    say('floor.pulpal.flat', null, 'value', 0);
    if (c.box) boxTruths(c, c.box, say);
  }
  return out;
}

type Say = (name: string, zone: string | null, stat: string, value: number) => void;

function boxTruths(slot: CavityCut, b: NonNullable<CavityCut['box']>, say: Say): void {
  const side = b.side === 1 ? 'mesial' : 'distal';
  for (const wall of [`box ${side} facial`, `box ${side} lingual`, `axial ${side}`]) say('wall.angle', wall, 'mean', b.lean);
  say('floor.gingival.tilt', `${side} floor`, 'value', 0);
  say('box.width', `box ${side} floor`, 'value', b.width);
  say('box.height', `box ${side}`, 'value', slot.floor - b.floor);
  say('divergence', `box ${side}`, 'value', -2 * b.lean);
}

/** Level-set bodies cut by swept rings and prisms; a second scan of each is coarser and noisier. */
export const LEVEL_SET_CASES: readonly { readonly name: string; make(): ForeignCase }[] = CASES.flatMap((o) =>
  (
    [
      ['', 0.02, 0.17],
      [', noise 0.03, coarse', 0.03, 0.24],
    ] as const
  ).map(([scan, noise, fine], i) => {
    const name = `level set ${o.name}${scan}`;
    return {
      name,
      make: (): ForeignCase => {
        const b = build(o, 700 + i + o.name.length, noise, 0.2, fine);
        return {
          family: 'level set',
          name,
          kind: o.kind,
          master: b.master,
          scan: b.scan,
          pose: b.pose,
          size: 1,
          truths: () => truthsOf(o),
        };
      },
    };
  }),
);
