// What is true of a cut surface as a whole, from places that stand for its area; for every construction that can name such places.
import { angleBetween, cross, dot, sub, toDegrees, type Vec3 } from '#core/linalg/vec.ts';
import type { Truth } from './case.ts';
import { CUSP_REACH } from './depth-zones.ts';

export interface Place {
  readonly at: Vec3;
  /** Unit, outward. */
  readonly normal: Vec3;
  readonly area: number;
}

/** A place of the cut occlusal surface, and how the uncut tooth lies at the place nearest to it. */
export interface OcclusalPlace extends Place {
  readonly uncut: Vec3;
}

function weightedMedian(own: readonly { readonly area: number }[], values: readonly number[]): number {
  const order = values.map((_, i) => i).sort((a, b) => values[a] - values[b]);
  const half = own.reduce((s, q) => s + q.area, 0) / 2;
  let sum = 0;
  return values[
    order.find((i) => {
      sum += own[i].area;
      return sum >= half;
    }) ?? 0
  ];
}

const tilt = (n: Vec3): number => toDegrees(Math.acos(Math.max(-1, Math.min(1, n[2]))));

/** Steepest that still counts as occlusal, mm² under which a cusp has no figures, and the share of its incline under which it is flattened. */
const LEVEL_TO = 40;
const SCRAP = 0.5;
const FLAT = 0.5;

/** How the occlusal surface follows the uncut one: over all, and by cusp. */
export function formTruths(places: readonly OcclusalPlace[], cusps: readonly { readonly name: string; readonly at: Vec3 }[]): Truth[] {
  const out: Truth[] = [];
  const angles = (own: readonly OcclusalPlace[]): number =>
    weightedMedian(
      own,
      own.map((q) => angleBetween(q.normal, q.uncut)),
    );
  const level = places.filter((q) => tilt(q.normal) <= LEVEL_TO);
  if (level.length === 0) return out;
  out.push({ name: 'form.occlusal', zone: null, stat: 'median', value: angles(level) });
  const inclines: number[] = [];
  for (const { name, at } of cusps) {
    const own = places.filter((q) => Math.hypot(q.at[0] - at[0], q.at[1] - at[1]) <= CUSP_REACH);
    if (own.reduce((s, q) => s + q.area, 0) < SCRAP) continue;
    const kept =
      weightedMedian(
        own,
        own.map((q) => tilt(q.normal)),
      ) /
      Math.max(
        1,
        weightedMedian(
          own,
          own.map((q) => tilt(q.uncut)),
        ),
      );
    inclines.push(kept);
    out.push({ name: 'form.occlusal', zone: name, stat: 'median', value: angles(own) });
    out.push({ name: 'form.occlusal.incline', zone: name, stat: 'median', value: kept });
  }
  out.push({ name: 'form.occlusal.flattened', zone: null, stat: 'count', value: inclines.filter((q) => q < FLAT).length });
  return out;
}

const PIVOT_STEP = 10;
const OPPOSITE_HALF = 45;
const RAD = Math.PI / 180;

/** Share of the wall across from each place of the finish line that a crown tipping about it runs into. */
export function resistanceTruths(walls: readonly Place[], finishAt: (phi: number) => Vec3): Truth[] {
  const shares = Array.from({ length: 360 / PIVOT_STEP }, (_, i) => {
    const phi = i * PIVOT_STEP;
    const pivot = finishAt(phi);
    const across: Vec3 = [-Math.sin(phi * RAD), -Math.cos(phi * RAD), 0];
    const along = sub(finishAt(phi + 1), finishAt(phi - 1));
    // Turned so that the far side rises.
    const axis = cross(along, across)[2] < 0 ? sub([0, 0, 0], along) : along;
    let [all, holds] = [0, 0];
    for (const q of walls) {
      if (q.at[0] * across[0] + q.at[1] * across[1] < Math.cos(OPPOSITE_HALF * RAD) * Math.hypot(q.at[0], q.at[1])) continue;
      all += q.area;
      if (dot(cross(axis, sub(q.at, pivot)), q.normal) < 0) holds += q.area;
    }
    return holds / all;
  });
  return [
    { name: 'resistance.share', zone: null, stat: 'min', value: Math.min(...shares) },
    { name: 'resistance.share', zone: null, stat: 'mean', value: shares.reduce((s, q) => s + q, 0) / shares.length },
  ];
}

/** mm of finish line on either side over which its course is taken, and within which a jump counts as a step. */
const COURSE_HALF = 1;
const STEP = 0.5;

/** Restlessness of the finish line's height, and its largest step. */
export function wanderTruths(finishAt: (phi: number) => Vec3): Truth[] {
  const line = Array.from({ length: 720 }, (_, k) => finishAt(k / 2));
  const radius = line.reduce((s, p) => s + Math.hypot(p[0], p[1]), 0) / line.length;
  const spacing = (2 * Math.PI * radius) / line.length;
  const half = Math.round(COURSE_HALF / spacing);
  const z = (k: number): number => line[(k + line.length) % line.length][2];
  const rest = line.map((_, k) => {
    let sum = 0;
    for (let j = -half; j <= half; j++) sum += z(k + j);
    return z(k) - sum / (2 * half + 1);
  });
  const reach = Math.round(STEP / spacing);
  return [
    { name: 'margin.wander', zone: null, stat: 'value', value: Math.sqrt(rest.reduce((s, r) => s + r * r, 0) / rest.length) },
    { name: 'margin.step', zone: null, stat: 'max', value: Math.max(...rest.map((r, k) => Math.abs(r - rest[(k + reach) % rest.length]))) },
  ];
}
