import { align } from '../align/align.ts';
import { applyDirection, applyPoint, type Matrix, multiply } from '../linalg/rigid.ts';
import { angleBetween, distance, type Vec3 } from '../linalg/vec.ts';
import { type Master, PART, partAlone } from '../master/master.ts';
import { intoFrame } from '../mesh/mesh.ts';
import { closestPoint, newClosest, onBorder } from '../spatial/surface.ts';
import { quantile } from '../statistics/quantile.ts';

/** How far a new version's marks and surface lie from those of the one before, with the new arch laid on the old. */
export interface MasterDifference {
  readonly axis_deg: number;
  readonly mesial_deg: number;
  /** 95th percentile of the distance between the two targets; null where nothing lies near. */
  readonly surface_mm: number | null;
  /** 95th percentile along the gingival margin. */
  readonly margin_mm: number;
  readonly cusps: { readonly name: string; readonly off_mm: number | null }[];
  readonly contacts: { readonly side: 'mesial' | 'distal'; readonly off_mm: number | null }[];
}

/**
 * What a new version of a master changes. The new arch is aligned with the old as a scan would be, so that the two may lie anywhere.
 * @units mm, degrees
 * @frame the old master's tooth frame
 * @fails as align: the two do not show the same arch
 */
export function compareMasters(before: Master, after: Master): MasterDifference {
  const arch = intoFrame(after.whole.mesh, after.fromTooth, 'scanner');
  const toOld = align(arch, before).matrix;
  const across: Matrix = multiply(toOld, after.fromTooth);
  const l = before.landmarks;
  const own = after.landmarks;
  const there = (p: Vec3): Vec3 => applyPoint(across, p);
  const cusps = l.cusps.map((c) => {
    const same = own.cusps.find((k) => k.name === c.name);
    return { name: c.name, off_mm: same ? distance(there(same.at), c.at) : null };
  });
  const contacts = (['mesial', 'distal'] as const).map((side) => {
    const [a, b] = [own.contacts[side], l.contacts[side]];
    return { side, off_mm: a && b ? distance(there(a), b) : null };
  });
  const toMargin = own.gingivalMargin.map((p) =>
    Math.min(...l.gingivalMargin.map((q, i) => toSegment(there(p), q, l.gingivalMargin[(i + 1) % l.gingivalMargin.length]))),
  );
  return {
    axis_deg: angleBetween(applyDirection(across, [0, 0, 1]), [0, 0, 1]),
    mesial_deg: angleBetween(applyDirection(across, [1, 0, 0]), [1, 0, 0]),
    surface_mm: surfaceBetween(before, after, across),
    margin_mm: quantile(toMargin, 0.95),
    cusps,
    contacts,
  };
}

function toSegment(p: Vec3, a: Vec3, b: Vec3): number {
  const u = [0, 1, 2].map((k) => b[k] - a[k]);
  const w = [0, 1, 2].map((k) => p[k] - a[k]);
  const t = Math.min(1, Math.max(0, (u[0] * w[0] + u[1] * w[1] + u[2] * w[2]) / (u[0] ** 2 + u[1] ** 2 + u[2] ** 2 || 1)));
  return Math.hypot(w[0] - t * u[0], w[1] - t * u[1], w[2] - t * u[2]);
}

/** mm beyond which the two targets are not compared: what only one of them shows. */
const NEAR = 2;

function surfaceBetween(before: Master, after: Master, across: Matrix): number | null {
  const old = before.target;
  const p = (partAlone(after, PART.target) ?? after.target).mesh.positions;
  const hit = newClosest();
  const off: number[] = [];
  for (let v = 0; v < p.length; v += 3) {
    const q = applyPoint(across, [p[v], p[v + 1], p[v + 2]]);
    if (closestPoint(old, q[0], q[1], q[2], hit, NEAR) && !onBorder(old, hit)) off.push(Math.sqrt(hit.distanceSquared));
  }
  return off.length ? quantile(off, 0.95) : null;
}
