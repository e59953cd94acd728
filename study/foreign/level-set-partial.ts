import type { Truth } from './case.ts';
import type { Body } from './implicit-mesh.ts';
import { around, type PartialCut } from './level-set-cuts.ts';
import { type Form, inside, lineHeight, outer, surfaceTop } from './level-set-tooth.ts';
import { type Notch, notchTruths } from './notch-truths.ts';

const RAD = Math.PI / 180;

/** What stands of the tooth before grooves and pinhole are cut: the stump's straight wall, and the plate in front of it. */
function standing(f: Form, c: PartialCut): Body {
  const known = new Map<number, readonly [number, number]>();
  const footAt = (phi: number): readonly [number, number] => {
    const key = Math.round(phi * 1000);
    const made = known.get(key) ?? [lineHeight(f, phi, c.crown.over), outer(f, phi, lineHeight(f, phi, c.crown.over)) - c.crown.width];
    known.set(key, made);
    return made;
  };
  return (x, y, z) => {
    const phi = Math.atan2(x, y);
    const [level, foot] = footAt(phi);
    const wall = Math.hypot(x, y) - (foot - (z - level) * Math.tan(around(c.crown.taper, phi) * RAD));
    return Math.max(-inside(f, x, y, z), Math.min(wall, c.plate - y));
  };
}

/** mm outside of a pinhole at which its rim is taken. */
const RIM = 0.2;

/** True values of grooves and pinhole of a partial crown. */
export function levelSetPartialTruths(f: Form, c: PartialCut): Truth[] {
  const solid = standing(f, c);
  const out: Truth[] = [];
  const placed = c.grooves.map((g) => {
    const a = g.azimuth * RAD;
    const r = outer(f, a, lineHeight(f, a, c.crown.over)) - c.crown.width - 0.1;
    const middle = (z: number): readonly [number, number] => [r * Math.sin(a) - (z - g.from) * Math.tan(g.lean * RAD), r * Math.cos(a)];
    const cutter: Body = (x, y, z) => {
      const [mx, my] = middle(z);
      // Square to the cutter's own axis.
      return Math.max(Math.hypot((x - mx) * Math.cos(g.lean * RAD), y - my) - g.radius, g.from - z);
    };
    return { g, cutter, middle, inward: [-Math.sin(a), -Math.cos(a)] as const };
  });
  for (const { g, cutter, middle, inward } of placed) {
    const inner = (z: number): readonly [number, number] => {
      const [x, y] = middle(z);
      return [x + 0.2 * inward[0], y + 0.2 * inward[1]];
    };
    let top = g.from + 0.6;
    while (top < f.h && solid(...inner(top), top) < 0 && surfaceTop(f, ...inner(top)) - c.crown.down > top) top += 0.05;
    const notch: Notch = { zone: g.azimuth < 180 ? 'mesial' : 'distal', solid, cutter, middle: inner, from: g.from, to: top, level: false };
    out.push(...notchTruths(notch));
  }
  const [p, q] = c.grooves;
  if (p && q) out.push({ name: 'groove.parallel', zone: 'mesial distal', stat: 'value', value: Math.abs(p.lean - q.lean) });
  if (c.pin) {
    const { x, y, radius, bottom, ledge } = c.pin;
    const round = Array.from({ length: 64 }, (_, k) => (k * Math.PI) / 32);
    const rim = round
      .map((a) => Math.min(ledge, surfaceTop(f, x + (radius + RIM) * Math.sin(a), y + (radius + RIM) * Math.cos(a)) - c.crown.down))
      .sort((s, t) => s - t);
    // A pinhole is drilled along the axis, and a groove leans off it.
    for (const g of c.grooves)
      out.push({ name: 'pin.parallel', zone: `pin ${g.azimuth < 180 ? 'mesial' : 'distal'}`, stat: 'value', value: Math.abs(g.lean) });
    out.push({ name: 'pin.depth', zone: 'pin', stat: 'value', value: (rim[31] + rim[32]) / 2 - bottom });
    const ways = Array.from({ length: 720 }, (_, k) => {
      const a = (k * Math.PI) / 360;
      const r = outer(f, a, lineHeight(f, a, c.crown.over));
      return Math.hypot(r * Math.sin(a) - x, r * Math.cos(a) - y);
    });
    out.push({ name: 'cingulum.recess', zone: 'pin', stat: 'value', value: Math.min(...ways) });
  }
  return out;
}
