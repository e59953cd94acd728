import { m3, type Solid } from './bodies.ts';
import { type Form, lineHeight, outer } from './level-set-tooth.ts';

export interface CrownCut {
  readonly width: number;
  readonly taper: { readonly f: number; readonly m: number; readonly l: number; readonly d: number };
  readonly over: number;
  readonly down: number;
  readonly form: 'shoulder' | 'chamfer';
}

export const around = (t: CrownCut['taper'], phi: number): number => {
  const c = Math.cos(phi);
  const s = Math.sin(phi);
  return (c > 0 ? t.f : t.l) * c * c + (s > 0 ? t.m : t.d) * s * s;
};

/** A closed body of rings: outside everything below the finish line, the stump above it. */
function envelope(f: Form, c: CrownCut): Solid {
  const turns = 480;
  const rows: ((k: number) => [number, number])[] = [];
  const zm = Array.from({ length: turns }, (_, k) => lineHeight(f, (2 * Math.PI * k) / turns, c.over));
  const foot = zm.map((z, k) => outer(f, (2 * Math.PI * k) / turns, z) - c.width);
  const lean = zm.map((_, k) => Math.tan((around(c.taper, (2 * Math.PI * k) / turns) * Math.PI) / 180));
  rows.push(() => [25, -12]);
  rows.push((k) => [25, zm[k]]);
  rows.push((k) => [foot[k] + c.width, zm[k]]);
  if (c.form === 'chamfer')
    for (let i = 1; i < 12; i++) {
      const a = (i / 12) * (Math.PI / 2);
      rows.push((k) => [foot[k] + c.width - c.width * Math.sin(a) * 0.999, zm[k] + c.width * (1 - Math.cos(a)) * 0.98]);
    }
  else rows.push((k) => [foot[k], zm[k]]);
  rows.push((k) => [foot[k] - lean[k] * (c.form === 'chamfer' ? c.width : 0.01), zm[k] + (c.form === 'chamfer' ? c.width : 0.01)]);
  rows.push((k) => [Math.max(0.3, foot[k] - lean[k] * (14 - zm[k])), 14]);
  const p: number[] = [];
  for (const row of rows)
    for (let k = 0; k < turns; k++) {
      const [r, z] = row(k);
      const a = (2 * Math.PI * k) / turns;
      p.push(r * Math.sin(a), r * Math.cos(a), z);
    }
  const t: number[] = [];
  for (let j = 0; j + 1 < rows.length; j++)
    for (let k = 0; k < turns; k++) {
      const n = (k + 1) % turns;
      t.push(j * turns + k, (j + 1) * turns + n, j * turns + n, j * turns + k, (j + 1) * turns + k, (j + 1) * turns + n);
    }
  const bottom = p.length / 3;
  p.push(0, 0, -12, 0, 0, 14);
  for (let k = 0; k < turns; k++) {
    const n = (k + 1) % turns;
    t.push(bottom, k, n, bottom + 1, (rows.length - 1) * turns + n, (rows.length - 1) * turns + k);
  }
  return new m3.Manifold(new m3.Mesh({ numProp: 3, vertProperties: Float32Array.from(p), triVerts: Uint32Array.from(t) }));
}

export function cutCrown(target: Solid, f: Form, c: CrownCut): Solid {
  const low = target.translate([0, 0, -c.down]).add(m3.Manifold.cube([40, 40, 20], true).translate([0, 0, f.h * 0.5 - 10]));
  return target.intersect(envelope(f, c)).intersect(low);
}

export interface OnlayCut {
  /** Which cusps are covered: +1 the facial ones, −1 the lingual ones. */
  readonly side: 1 | -1;
  readonly cover: CrownCut;
  readonly slot: CavityCut;
  readonly boxes: readonly NonNullable<CavityCut['box']>[];
}

/** The covered half as a crown, a slot and boxes through the middle. */
export function cutOnlay(target: Solid, f: Form, c: OnlayCut): Solid {
  const half = m3.Manifold.cube([40, 20, 40], true).translate([0, c.side * 10.3, 0]);
  const low = target.translate([0, 0, -c.cover.down]).add(m3.Manifold.cube([40, 40, 20], true).translate([0, 0, f.h * 0.5 - 10]));
  const covered = target.intersect(envelope(f, c.cover)).intersect(low).intersect(half);
  let out = cutCavity(target.subtract(half).add(covered), f, c.slot);
  for (const box of c.boxes) out = cutCavity(out, f, { ...c.slot, box });
  return out;
}

export interface PartialCut {
  readonly crown: CrownCut;
  /** y from which the facial plate is left standing, and how far it is lowered. */
  readonly plate: number;
  readonly plateDown: number;
  readonly grooves: readonly { readonly azimuth: number; readonly radius: number; readonly from: number; readonly lean: number }[];
  readonly pin: null | { readonly x: number; readonly y: number; readonly radius: number; readonly bottom: number; readonly ledge: number };
}

export function cutPartial(target: Solid, f: Form, c: PartialCut): Solid {
  const front = m3.Manifold.cube([40, 20, 60], true).translate([0, c.plate + 10, 0]);
  // Widened, so that only the plate's top is lowered and its face stays uncut.
  const low = target
    .scale([1.4, 1.4, 1])
    .translate([0, 0, -c.plateDown])
    .add(m3.Manifold.cube([40, 40, 20], true).translate([0, 0, f.h * 0.45 - 10]));
  let out = cutCrown(target, f, c.crown).add(target.intersect(front).intersect(low));
  for (const g of c.grooves) {
    const a = (g.azimuth * Math.PI) / 180;
    const r = outer(f, a, lineHeight(f, a, c.crown.over)) - c.crown.width - 0.1;
    const cutter = m3.Manifold.cylinder(12, g.radius, g.radius, 64)
      .rotate([0, -g.lean, 0])
      .translate([r * Math.sin(a), r * Math.cos(a), g.from]);
    out = out.subtract(cutter);
  }
  if (c.pin) {
    const { x, y, radius, bottom, ledge } = c.pin;
    out = out
      .subtract(m3.Manifold.cube([1.2, 1.2, 12], true).translate([x, y, ledge + 6]))
      .subtract(m3.Manifold.cylinder(12, radius, radius, 48).translate([x, y, bottom]));
  }
  return out;
}

export interface CavityCut {
  /** Half length along x to mesial and distal; NaN side open through a box. */
  readonly mesial: number;
  readonly distal: number;
  readonly width: number;
  readonly floor: number;
  /** + converging occlusally. */
  readonly lean: number;
  readonly box: null | { side: 1 | -1; width: number; floor: number; axial: number; lean: number };
}

/** A prism with four leaning walls: x0..x1 by ±w at z0, leaning by degrees up to z1. */
function prism(x0: number, x1: number, w: number, z0: number, z1: number, lean: number): Solid {
  const k = Math.tan((lean * Math.PI) / 180) * (z1 - z0);
  return m3.Manifold.hull([
    [x0, -w, z0],
    [x1, -w, z0],
    [x1, w, z0],
    [x0, w, z0],
    [x0 + k, -w + k, z1],
    [x1 - k, -w + k, z1],
    [x1 - k, w - k, z1],
    [x0 + k, w - k, z1],
  ]);
}

export function cutCavity(target: Solid, f: Form, c: CavityCut): Solid {
  // Widths are given at the floor of the slot.
  let out = target.subtract(prism(-c.distal, c.mesial, c.width / 2, c.floor, f.h + 2, c.lean));
  if (c.box) {
    const far = c.box.side * (f.md * 0.5 + 3);
    const x = [c.box.side * c.box.axial, far].sort((a, b) => a - b);
    out = out.subtract(prism(x[0], x[1], c.box.width / 2, c.box.floor, f.h + 2, c.box.lean));
  }
  return out;
}
