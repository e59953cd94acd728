import type { Alignment } from '../../align/align.ts';
import { heightAt } from '../../linalg/curve.ts';
import { DEG, type Vec3, wrapDegrees } from '../../linalg/vec.ts';
import type { Master } from '../../master/master.ts';
import { mean, median } from '../../statistics/quantile.ts';
import { cutRadially } from '../cut.ts';
import { intersect } from '../polyline.ts';
import { type TargetRegion, targetRegion } from '../target.ts';
import { type Profile, readProfile } from './profile.ts';
import { settleRims } from './rim.ts';

/** Half planes round the axis: one every 2°. */
export const AZIMUTHS = 180;

/** A crown preparation, or the covered side of a partial one, taken apart: the prepared region and a profile every 2°. Everything the crown's measures read. */
export interface CrownAnatomy {
  readonly master: Master;
  readonly alignment: Alignment;
  readonly region: TargetRegion;
  /** One entry every 2°, null where nothing could be followed or the preparation does not cover the side. */
  readonly profiles: readonly (Profile | null)[];
  /** By azimuth index: whether the preparation covers the tooth's side there (all true for a full crown). */
  readonly covered: readonly boolean[];
  /** Profiles of the azimuths that are not covered. */
  readonly open: readonly (Profile | null)[];
  /** Height of the occlusoaxial edge by azimuth index, gaps filled from both sides; null when no wall was found at all. */
  readonly wallTop: Float64Array | null;
  readonly finishZ: Float64Array | null;
}

/** degrees from facial within which planes of an anterior tooth's side follow one another; beyond, the wall ends at the fossa. */
const FACIAL_SIDE = 70;

export const isAnterior = (m: Master): boolean => Number(m.description.tooth[1]) <= 3;

/** What is known of a preparation that covers only a part of the tooth. */
export interface PartCover {
  /** Whether a place of the finish line belongs to a box, which is measured as a cavity. */
  inBox(x: number, y: number): boolean;
}

export function takeCrownApart(
  alignment: Alignment,
  master: Master,
  part: PartCover | null = null,
  region: TargetRegion = targetRegion(alignment, master),
): CrownAnatomy {
  const cuts = cutRadially(region.mesh, region.rawDepth, AZIMUTHS);
  const anterior = isAnterior(master);
  const azimuthOf = (k: number): number => (360 * k) / AZIMUTHS;
  const planes = (k: number): boolean => !anterior || Math.abs(wrapDegrees(azimuthOf(k))) <= FACIAL_SIDE;
  const profiles = cuts.map((chains, k) =>
    readProfile(azimuthOf(k), chains, region.tau, alignment.noise, planes(k), heightAt(master.landmarks.gingivalMargin, azimuthOf(k))),
  );
  const found = settleFeet(settleRims(dropStrays(profiles), alignment.noise, planes));
  const covered = part ? coverOf(found, part) : found.map(() => true);
  const clean = found.map((p, k) => (covered[k] ? p : null));
  return {
    master,
    alignment,
    region,
    profiles: clean,
    covered,
    open: found.map((p, k) => (covered[k] ? null : p)),
    wallTop: filled(
      clean.map((p) => p?.wall?.top.z ?? null),
      4,
    ),
    finishZ: filled(
      clean.map((p) => p?.finish.z ?? null),
      2,
    ),
  };
}

/** mm that an axial wall must rise over its finish line for the tooth's side to count as covered. */
const LEAST_WALL = 0.7;
/** Half planes on each side that vote: a single one may have lost its wall or found a stray. */
const VOTERS = 3;
const ENDS = 4;

/** Azimuths at which an outer wall rises from a finish line on the tooth's side. */
function coverOf(profiles: readonly (Profile | null)[], part: PartCover): boolean[] {
  const n = profiles.length;
  const own = profiles.map((p, k) => {
    if (!p?.wall || p.wall.top.z - p.finish.z < LEAST_WALL) return false;
    const q = radialPoint((360 * k) / n, p.finish.r, p.finish.z);
    return !part.inBox(q[0], q[1]);
  });
  const agreed = own.map((_, k) => {
    let votes = 0;
    for (let j = -VOTERS; j <= VOTERS; j++) if (own[(k + j + n) % n]) votes++;
    return votes > VOTERS;
  });
  // Where cover ends, margin and wall run out into the open side's surfaces: the last planes read a mixture of both.
  return agreed.map((_, k) => {
    for (let j = -ENDS; j <= ENDS; j++) if (!agreed[(k + j + n) % n]) return false;
    return true;
  });
}

/** A finish-line point far from all of its neighbours on both sides is a misreading, not a margin. */
function dropStrays(profiles: readonly (Profile | null)[]): (Profile | null)[] {
  const n = profiles.length;
  return profiles.map((p, k) => {
    if (!p) return null;
    const near: number[] = [];
    for (let j = -4; j <= 4; j++) {
      const q = profiles[(k + j + n) % n];
      if (j !== 0 && q) near.push(Math.hypot(q.finish.r - p.finish.r, q.finish.z - p.finish.z));
    }
    near.sort((a, b) => a - b);
    return near.length >= 3 && near[1] > 0.6 ? null : p;
  });
}

/** Half planes on each side that say together whether a floor is straight or the lower part of a chamfer's curve. */
const FLOOR_VOTERS = 10;
/** Bow of a floor beyond which it is a curve, however straight the pieces that were fitted to it. */
const BOW_MOST = 0.02;

/**
 * A short stretch of a curve can pass for a straight floor, whose chord meets the wall far up; and noise can bend a straight one.
 * The floor is straight where most of the half planes round about say so and it does not bow, and all of them go by that.
 */
function settleFeet(profiles: readonly (Profile | null)[]): (Profile | null)[] {
  const n = profiles.length;
  return profiles.map((p, k) => {
    if (!p?.wall) return p;
    const { wall, floorFrom } = p;
    const bows: number[] = [];
    const rises: number[] = [];
    const edges: number[] = [];
    let all = 0;
    for (let j = -FLOOR_VOTERS; j <= FLOOR_VOTERS; j++) {
      const q = profiles[(k + j + n) % n];
      const other = q?.wall;
      if (!other) continue;
      all++;
      edges.push(q.edgeRise);
      if (other.floorBow !== null) bows.push(other.floorBow);
      if (other.floorRise !== null) rises.push(other.floorRise);
    }
    const straight = bows.length > all / 2 && mean(bows) < BOW_MOST;
    if (straight && wall.floorIsStraight) return p;
    const rise = straight ? mean(rises) : median(edges);
    // A curved floor that leaves its edge level or dips behind a lip ends at its lowest level.
    const corner = rise > 0 ? intersect(wall.line, { x: floorFrom.r, y: floorFrom.z, dx: -Math.cos(rise), dy: Math.sin(rise) }) : null;
    const foot = corner ? { r: corner[0], z: corner[1] } : wall.levelFoot;
    return { ...p, wall: { ...wall, foot, floorIsStraight: straight } };
  });
}

/** Circular running median of half width `half` over what is there, gaps filled in a line between their ends. */
function filled(values: readonly (number | null)[], half: number): Float64Array | null {
  const n = values.length;
  const medians = values.map((v, k) => {
    if (v === null) return null;
    const w: number[] = [];
    for (let j = -half; j <= half; j++) {
      const q = values[(k + j + n) % n];
      if (q !== null) w.push(q);
    }
    w.sort((a, b) => a - b);
    return w[(w.length - 1) >> 1];
  });
  const known = medians.flatMap((v, k) => (v === null ? [] : [k]));
  if (known.length < n / 6) return null;
  const out = new Float64Array(n);
  known.forEach((k, i) => {
    const next = known[(i + 1) % known.length];
    const gap = (next - k + n) % n || n;
    for (let j = 0; j < gap; j++)
      out[(k + j) % n] = (medians[k] as number) + (((medians[next] as number) - (medians[k] as number)) * j) / gap;
  });
  return out;
}

/** Value at any azimuth (degrees) from a table by azimuth index, in a line between neighbours. */
export function atAzimuth(table: Float64Array, azimuth: number): number {
  const n = table.length;
  const k = ((((azimuth % 360) + 360) % 360) / 360) * n;
  const i = Math.floor(k) % n;
  return table[i] + (k - Math.floor(k)) * (table[(i + 1) % n] - table[i]);
}

/** Point of the tooth frame at azimuth (degrees), distance r and height z. */
export const radialPoint = (azimuth: number, r: number, z: number): Vec3 => [r * Math.sin(azimuth * DEG), r * Math.cos(azimuth * DEG), z];
