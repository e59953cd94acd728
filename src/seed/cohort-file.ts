import { createHash } from 'node:crypto';
import * as v from 'valibot';
import type { MasterDescription } from '#core/master/master.ts';
import { type Curves, EDGE_LENGTH } from '#core/result/curves.ts';
import type { Reading } from '#core/result/reading.ts';
import type { Recipe } from '#core/simulate/recipe.ts';
import type { PastWork } from './cohort.ts';

/** A reading's name, zone, statistic and unit, stored once for all attempts. */
type Name = readonly [string, string | null, Reading['stat'], Reading['unit']];
/** Index of the name; value and U, or the reason; azimuth, point, coverage, samples. */
type Row = readonly [number, number | string, number | null, number | null, readonly number[] | null, number | null, number];

/** What was measured of one preparation of the weeks before. */
export interface Measured {
  readonly work: PastWork;
  readonly scanSha256: string;
  readonly scanBytes: number;
  readonly durationMs: number;
  readonly peakMb: number;
  readonly alignment: Readonly<Record<string, unknown>>;
  readonly rows: readonly Row[];
  readonly curves: Curves;
  /** Of the core that measured it, where that is not the file's. */
  readonly coreVersion?: string;
  /** Digest of the recipe that it was cut from: what is aimed at otherwise today would be drawn otherwise than it was measured. */
  readonly recipe: string;
}

export const recipeDigest = (recipe: Recipe): string => createHash('sha256').update(JSON.stringify(recipe)).digest('hex').slice(0, 16);

/** The demo's past weeks as they are shipped: real readings of the core, in as few bytes as they need. */
export interface CohortFile {
  readonly format: 'veritor-cohort/1';
  /** Of the core that measured all but what says otherwise. */
  readonly coreVersion: string;
  readonly masters: Readonly<Record<string, MasterDescription>>;
  readonly names: readonly Name[];
  readonly measured: readonly Measured[];
}

export const CohortHead = v.looseObject({ format: v.literal('veritor-cohort/1') });

const to =
  (digits: number) =>
  (x: number): number =>
    Math.round(x * 10 ** digits) / 10 ** digits;
const [mm4, mm2, degrees] = [to(4), to(2), to(1)];

/** Readings as rows; `names` grows by what is new. */
export function packed(readings: readonly Reading[], names: Name[], index: Map<string, number>): Row[] {
  return readings.map((r): Row => {
    const name: Name = [r.name, r.zone, r.stat, r.unit];
    const key = JSON.stringify(name);
    let i = index.get(key);
    if (i === undefined) {
      i = names.push(name) - 1;
      index.set(key, i);
    }
    const at = r.at?.azimuth;
    return [
      i,
      r.value === null ? r.reason : mm4(r.value),
      r.U === null ? null : mm4(r.U),
      at === undefined ? null : degrees(at),
      r.at?.point ? r.at.point.map(mm2) : null,
      r.coverage === null ? null : mm2(r.coverage),
      r.samples,
    ];
  });
}

/** Rows as readings again. */
export const unpacked = (rows: readonly Row[], names: readonly Name[]): Reading[] =>
  rows.map(([i, value, U, azimuth, point, coverage, samples]) => {
    const [name, zone, stat, unit] = names[i];
    const place =
      azimuth === null && point === null ? null : { ...(azimuth === null ? {} : { azimuth }), ...(point === null ? {} : { point }) };
    return {
      name,
      zone,
      stat,
      unit,
      coverage,
      samples,
      at: place,
      ...(typeof value === 'string' ? { value: null, U: null, reason: value } : { value, U, reason: null }),
    } as Reading;
  });

/** The curves that a rubric may judge along their length, in as many figures as they have. */
export const shortCurves = (curves: Curves, along: readonly string[]): Curves =>
  Object.fromEntries([EDGE_LENGTH, ...along].flatMap((n) => (curves[n] ? [[n, curves[n].map((p) => p.map(to(3)))]] : [])));
