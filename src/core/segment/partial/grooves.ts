import { azimuthOf } from '../../linalg/sectors.ts';
import { DEG, unit, type Vec3, wrapDegrees } from '../../linalg/vec.ts';
import { errorOfMedian, median } from '../../statistics/quantile.ts';
import type { CrownAnatomy } from '../crown/crown.ts';
import { type CrossChain, cutAcross } from '../cut-across.ts';
import { type Contour, PLACE } from './contour.ts';
import { type Notch, notchesOf, SAME } from './notches.ts';

/** A groove (or a box cut like one) that runs up a prepared axial wall. */
export interface Groove {
  /** degrees, of its middle */
  readonly azimuth: number;
  /** Medians over its height, mm. */
  readonly depth: number;
  readonly width: number;
  /** Standard errors of both, from their scatter over the levels, mm. */
  readonly uDepth: number;
  readonly uWidth: number;
  /** Level, out of the groove; unit. */
  readonly out: readonly [number, number];
  /** Along the line of its bottom, occlusally; and how well that is known, degrees. */
  readonly direction: Vec3;
  readonly u: number;
  readonly from: Vec3;
  readonly to: Vec3;
  /** Levels at which it was seen. */
  readonly levels: number;
}

/** mm between the levels at which the wall is cut across: nearer ones share most of their noise. */
export const LEVEL = 0.18;
/** degrees that a contour must run round the tooth. */
const LEAST_TURN = 40;
/** mm of height over which a notch must run to be a groove. */
const LEAST_LENGTH = 0.8;
/** A groove runs up the wall: cosine to the axis; and it is straight, which its direction's uncertainty (degrees) shows. */
const STEEPEST = Math.cos(18 * DEG);
const LEAST_KNOWN = 2.5;
/** Share of its usual width by which a notch at one level may differ. */
const OTHER_WIDTH = 0.7;
/** Half planes beyond the covered ones that are looked at. */
const BEYOND = 8;
/** degrees that a groove may wander between levels. */
const LINK = 7;
/** Walls steeper than this (cosine of the normal to the axis) are cut; tables and cusp slopes are not. */
const WALL_Z = 0.6;

/**
 * Grooves in the outer wall: at every level the wall is cut across the axis; a notch in that contour has two lips, where its
 * steep sides level out; notches over one another are a groove.
 */
export function groovesOf(a: CrownAnatomy): Groove[] {
  const notches = contours(a).flatMap(({ z, line }) => notchesOf(line, z, a.master.target, a.alignment.noise));
  const tracks: Notch[][] = [];
  for (const n of notches) {
    const t = tracks.find((q) => {
      const last = q[q.length - 1];
      return n.z > last.z && n.z - last.z < 2.5 * LEVEL && Math.abs(wrapDegrees(n.azimuth - last.azimuth)) < LINK;
    });
    if (t) t.push(n);
    else tracks.push([n]);
  }
  return tracks
    .map(ofOneWidth)
    .filter((t) => t.length >= 4 && t[t.length - 1].z - t[0].z >= LEAST_LENGTH)
    .map((t) => grooveOf(t, a.alignment.noise))
    .filter((g) => g.direction[2] > STEEPEST && g.u < LEAST_KNOWN)
    .sort((p, q) => p.width - q.width)
    .filter((g, i, all) => !all.slice(0, i).some((q) => Math.abs(wrapDegrees(q.azimuth - g.azimuth)) < SAME))
    .sort((p, q) => p.azimuth - q.azimuth);
}

/** The covered wall cut across the axis, level by level from the finish line up: contours in the order in which they run. */
function contours(a: CrownAnatomy): { z: number; line: Contour }[] {
  const { finishZ, wallTop, region } = a;
  if (!finishZ || !wallTop) return [];
  const n = a.covered.length;
  // A groove often ends the covered wall: its far lip may lie a little beyond.
  const reached = a.covered.map((_, k) =>
    Array.from({ length: 2 * BEYOND + 1 }, (_, j) => a.covered[(k + j - BEYOND + n) % n]).some(Boolean),
  );
  const foot = a.covered.reduce((m, c, k) => (c ? Math.min(m, finishZ[k]) : m), Infinity);
  const top = a.covered.reduce((m, c, k) => (c ? Math.max(m, wallTop[k]) : m), -Infinity);
  if (!(top > foot)) return [];
  const levels = Array.from({ length: Math.floor((top - foot) / LEVEL) }, (_, i) => foot + (i + 0.5) * LEVEL);
  return cutAcross(region.mesh, region.normals, (v) => region.prepared[v] === 1, levels).flatMap((chains, i) =>
    chains.flatMap((chain): { z: number; line: Contour }[] => {
      let turned = 0;
      for (let k = 1; k < chain.x.length; k++)
        turned += wrapDegrees(azimuthOf(chain.x[k], chain.y[k]) - azimuthOf(chain.x[k - 1], chain.y[k - 1]));
      // What does not run round the tooth is the wall of a pinhole or a scrap.
      if (Math.abs(turned) < LEAST_TURN) return [];
      const line = resampled(chain, PLACE).map(([x, y, steep]): readonly [number, number] | null =>
        steep && reached[Math.round((azimuthOf(x, y) / 360) * n) % n] ? [x, y] : null,
      );
      return [{ z: levels[i], line: turned < 0 ? line.reverse() : line }];
    }),
  );
}

/** Places `step` mm apart along a chain; the third number tells whether the wall is steep there. */
function resampled(c: CrossChain, step: number): [number, number, boolean][] {
  const out: [number, number, boolean][] = [];
  let left = 0;
  for (let k = 1; k < c.x.length; k++) {
    const l = Math.hypot(c.x[k] - c.x[k - 1], c.y[k] - c.y[k - 1]);
    for (; left < l; left += step) {
      const f = left / l;
      const up = c.up[k - 1] + f * (c.up[k] - c.up[k - 1]);
      out.push([c.x[k - 1] + f * (c.x[k] - c.x[k - 1]), c.y[k - 1] + f * (c.y[k] - c.y[k - 1]), Math.abs(up) < WALL_Z]);
    }
    left -= l;
  }
  return out;
}

/** The levels that show the notch as wide as most do: one cutter cuts one width, and a lip that was missed is found beyond the groove. */
function ofOneWidth(t: readonly Notch[]): Notch[] {
  const usual = median(t.map((n) => n.width));
  return t.filter((n) => Math.abs(n.width - usual) < OTHER_WIDTH * usual);
}

/** Levels whose contours share their noise. */
const ALIKE = 2;

/** Level, out of the groove: the middle one of its levels. */
function outOf(t: readonly Notch[]): readonly [number, number] {
  const [x, y] = [median(t.map((q) => q.out[0])), median(t.map((q) => q.out[1]))];
  const l = Math.hypot(x, y) || 1;
  return [x / l, y / l];
}

function grooveOf(t: readonly Notch[], noise: number): Groove {
  const n = t.length;
  const mz = t.reduce((s, q) => s + q.z, 0) / n;
  const [width, depth] = [median(t.map((q) => q.width)), median(t.map((q) => q.depth))];
  // On a curved wall the deepest place of a round groove turns with the wall's own direction from level to level; its cutter's middle does not.
  const places = t.map((q) => q.middle);
  const line = (k: 0 | 1): { m: number; slope: number; rms: number } => {
    // Median of all pairs' slopes: a level at which a lip was missed does not turn the line.
    const slopes = t.flatMap((p, i) => t.slice(i + 1).map((q, j) => (places[i + 1 + j][k] - places[i][k]) / (q.z - p.z)));
    const slope = median(slopes);
    const m = median(t.map((q, i) => places[i][k] - slope * (q.z - mz)));
    const rms = 1.48 * median(t.map((q, i) => Math.abs(places[i][k] - m - slope * (q.z - mz))));
    return { m, slope, rms };
  };
  const [x, y] = [line(0), line(1)];
  // Back from the axis to the bottom.
  const back = [0, 1].map((k) => median(t.map((q, i) => q.bottom[k] - places[i][k])));
  const point = (z: number): Vec3 => [x.m + x.slope * (z - mz) + back[0], y.m + y.slope * (z - mz) + back[1], z];
  const spread = Math.sqrt(t.reduce((s, q) => s + (q.z - mz) ** 2, 0));
  return {
    azimuth: azimuthOf(x.m + back[0], y.m + back[1]),
    depth,
    width,
    uDepth: errorOfMedian(
      t.map((q) => q.depth),
      ALIKE,
    ),
    uWidth: errorOfMedian(
      t.map((q) => q.width),
      ALIKE,
    ),
    out: outOf(t),
    direction: unit([x.slope, y.slope, 1]),
    u: Math.max(noise * 0.5, x.rms, y.rms) / spread / DEG,
    from: point(t[0].z),
    to: point(t[n - 1].z),
    levels: n,
  };
}
