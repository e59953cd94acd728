import { entryOf } from '../catalogue/catalogue.ts';
import type { Reading } from '../result/reading.ts';
import { type Cutter, cutterFor, readValue } from './cutters.ts';
import type { JudgedTarget } from './judge.ts';
import type { Score } from './score.ts';
import type { Band } from './verdict.ts';

/** What it would take to bring one finding inside its band by further cutting, or why that cannot be. */
export type Repair =
  | {
      readonly can: true;
      /** Distance, in the reading's unit, to the middle of the range that is inside with certainty. */
      readonly by: number;
      /** mm to cut at the place, where that is not `by` itself (a lean is cut at one end of the wall). */
      readonly depth: number | null;
      readonly where: 'here' | 'wall top' | 'wall foot';
      readonly from: number;
      readonly to: number;
      /** mm³ to take away at the least; null where the area it is spread over was not read. */
      readonly volume: number | null;
      readonly cutter: Cutter | null;
    }
  | { readonly can: false; readonly why: Hindrance; readonly other: string | null };

export type Hindrance = 'too-much' | 'not-by-cutting' | 'breaks-other';

/** Aim: just inside by the reading's own uncertainty, or the band's middle where it is narrower than that. */
function aim(value: number, U: number, band: Band): number {
  const { lo, hi } = band;
  if (lo !== null && value < lo) return hi === null ? lo + U : Math.min(lo + U, (lo + hi) / 2);
  if (hi !== null && value > hi) return lo === null ? hi - U : Math.max(hi - U, (lo + hi) / 2);
  return value;
}

/** Repair of one target outside its band; null if nothing is to be repaired or nothing was read. */
export function repairOf(t: JudgedTarget, score: Pick<Score, 'criteria'>, readings: readonly Reading[]): Repair | null {
  const r = t.reading;
  if (!r || r.value === null || t.verdict !== 'outside') return null;
  // On an edge judged along its length, the worst millimetre is to be mended.
  const value = t.along?.worst ?? r.value;
  const to = aim(value, r.U, t.target.band);
  const by = to - value;
  const { cutting } = entryOf(r.name);
  const wallHeight = readValue(readings, 'wall.height', null, 'median');
  const cutter = cutterFor(r, to, readings);
  if (cutting === 'neither') return { can: false, why: 'not-by-cutting', other: null };
  if ((cutting === 'up' && by < 0) || (cutting === 'down' && by > 0)) return { can: false, why: 'too-much', other: null };
  if (cutting === 'lean') {
    const tan = Math.tan((Math.abs(by) * Math.PI) / 180);
    const depth = wallHeight === null ? null : tan * wallHeight;
    // More taper is cut at the top of the wall; less only at its foot, which widens the margin.
    const other = by < 0 && depth !== null ? broken('margin.width', depth, score) : null;
    if (other) return { can: false, why: 'breaks-other', other };
    // A wedge: all of the depth at one end of the wall, nothing at the other.
    const area = wallArea(readings, r.zone);
    const volume = depth === null || area === null ? null : (depth * area) / 2;
    return { can: true, by, depth, where: by > 0 ? 'wall top' : 'wall foot', from: value, to, volume, cutter };
  }
  const other = takenFrom(r, Math.abs(by), score);
  if (other) return { can: false, why: 'breaks-other', other };
  return { can: true, by, depth: null, where: 'here', from: value, to, volume: volumeOf(r, to, readings), cutter };
}

/** mm² of prepared wall in a sector, or all round. */
function wallArea(readings: readonly Reading[], zone: string | null): number | null {
  const sides = new Set(['facial', 'mesial', 'lingual', 'distal']);
  const own = readings.filter((r) => {
    if (r.name !== 'reduction.axial.area' || r.zone === null || r.value === null) return false;
    const [sector] = r.zone.split(' ');
    return zone === null ? sides.has(sector) : sector === zone;
  });
  return own.length ? own.reduce((s, r) => s + (r.value as number), 0) : null;
}

/**
 * mm³ to be taken away: over a zone of depths everything that is thinner than what is aimed at, the depths taken as running
 * straight between their 5 %, middle and 95 %; for a margin a slab of its wall; for a floor a slab of it.
 */
function volumeOf(r: Reading, to: number, readings: readonly Reading[]): number | null {
  if (r.value === null) return null;
  if (r.name === 'margin.width') {
    const area = wallArea(readings, r.zone);
    return area === null ? null : area * (to - r.value);
  }
  const area = readValue(readings, `${r.name}.area`, r.zone, 'value');
  if (area === null) return null;
  const [p05, median, p95] = ['p05', 'median', 'p95'].map((stat) => readValue(readings, r.name, r.zone, stat));
  if (p05 === null || median === null || p95 === null) return area * (to - r.value);
  const depthAt = (share: number): number =>
    share <= 0.5
      ? p05 + ((median - p05) * Math.max(0, share - 0.05)) / 0.45
      : median + ((p95 - median) * Math.min(0.45, share - 0.5)) / 0.45;
  const steps = 200;
  let sum = 0;
  for (let i = 0; i < steps; i++) sum += Math.max(0, to - depthAt((i + 0.5) / steps)) / steps;
  return area * sum;
}

/** Title of the criterion that growing a reading by so much would push over its upper limit. */
function broken(name: string, by: number, score: Pick<Score, 'criteria'>): string | null {
  for (const c of score.criteria)
    for (const t of c.targets)
      if (t.target.reading === name && t.reading?.value != null && t.target.band.hi !== null && t.reading.value + by > t.target.band.hi)
        return c.criterion.title;
  return null;
}

/** Title of the criterion whose reading a cut would take out of its band. */
function takenFrom(r: Reading, by: number, score: Pick<Score, 'criteria'>): string | null {
  for (const { reading, per } of entryOf(r.name).takes)
    for (const c of score.criteria)
      for (const t of c.targets) {
        if (t.target.reading !== reading || t.reading?.value == null || t.verdict === 'outside') continue;
        const after = t.reading.value - per * by;
        const { lo, hi } = t.target.band;
        if ((lo !== null && after < lo) || (hi !== null && after > hi)) return c.criterion.title;
      }
  return null;
}
