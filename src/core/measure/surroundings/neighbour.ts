import type { Alignment } from '../../align/align.ts';
import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { azimuthOf } from '../../linalg/sectors.ts';
import { type Master, PART } from '../../master/master.ts';
import { bounds } from '../../mesh/mesh.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import { ownersOf } from '../../segment/owners.ts';
import { closestPoint, newClosest, onBorder, type Surface, signOf } from '../../spatial/surface.ts';
import { THRESHOLDS } from '../../thresholds.ts';

/** mm: deepest damage that is looked for; beyond it a point belongs to something else. */
const DEEPEST = 1.5;
/** mm beyond a part's own bounds within which the scan is looked at. */
const BESIDE = 0.5;
/** mm²: a stretch of loss smaller than this is noise. */
const SMALLEST_AREA = 0.12;
/** What averaging leaves of the scan's noise, and how many times that much a loss must exceed to be one. */
const NOISE_LEFT = 0.55;
const TIMES_NOISE = 3.2;

/**
 * Damage to what stands beside the target: loss below its own master surface.
 * @formula smoothed depth at the deepest place of connected stretches (0.12 mm² or more) deeper than 0.05 mm and than 1.8 times the scan's noise; their area; area × depth summed for the volume
 * @units mm, mm², mm³
 * @frame tooth
 * @fails no-neighbour, not-seen
 * @source own definition, docs/definitions.md
 * @example a sphere sunk 0.2 mm into a plane reads 0.2; a clean neighbour reads 0
 */
export function neighbourDamage(a: Alignment, master: Master, side: 'mesial' | 'distal'): Reading[] {
  return damage(`neighbour.${side}`, master[side], PART[side], a, master, 'no-neighbour');
}

/**
 * Loss on the gingiva part: deepest place under its own master surface.
 * @formula as for the neighbours
 * @units mm, mm², mm³
 * @frame tooth
 * @fails no-gingiva, not-seen
 * @source own definition, docs/definitions.md
 * @example an untouched gingiva reads 0
 */
export function gingivaContact(a: Alignment, master: Master): Reading[] {
  return damage('gingiva.contact', master.gingiva, PART.gingiva, a, master, 'no-gingiva');
}

function damage(
  name: string,
  own: Surface<'tooth'> | null,
  part: number,
  a: Alignment,
  master: Master,
  lacking: 'no-neighbour' | 'no-gingiva',
): Reading[] {
  const refuse = (reason: typeof lacking | 'not-seen', coverage: number | null): Reading[] => [
    ...refusal(name, null, ['max'], reason, coverage),
    ...refusal(`${name}.area`, null, ['value'], reason, coverage),
    ...refusal(`${name}.volume`, null, ['value'], reason, coverage),
  ];
  if (!own) return refuse(lacking, null);
  const { depth, steady, areas, adjacency, seen } = lossOf(own, part, a, master);
  const least = Math.max(THRESHOLDS.damageDepth_mm, TIMES_NOISE * NOISE_LEFT * a.noise);
  if (!seen) return refuse('not-seen', 0);
  const visited = new Uint8Array(depth.length);
  let total = 0;
  let volume = 0;
  let worst: { depth: number; v: number } | null = null;
  for (let s = 0; s < depth.length; s++) {
    if (visited[s] || !(steady[s] > least)) continue;
    const patch = [s];
    visited[s] = 1;
    let area = 0;
    let sum = 0;
    let deepest = s;
    for (let k = 0; k < patch.length; k++) {
      const v = patch[k];
      area += areas[v];
      sum += areas[v] * depth[v];
      if (steady[v] > steady[deepest]) deepest = v;
      for (let i = adjacency.start[v]; i < adjacency.start[v + 1]; i++) {
        const w = adjacency.list[i];
        if (!visited[w] && steady[w] > least) {
          visited[w] = 1;
          patch.push(w);
        }
      }
    }
    if (area < SMALLEST_AREA) continue;
    total += area;
    volume += sum;
    if (!worst || depth[deepest] > worst.depth) worst = { depth: depth[deepest], v: deepest };
  }
  const p = a.scan.positions;
  const at = worst
    ? { azimuth: azimuthOf(p[3 * worst.v], p[3 * worst.v + 1]), point: [p[3 * worst.v], p[3 * worst.v + 1], p[3 * worst.v + 2]] as const }
    : null;
  const U = expanded(a.pointError, 0.35 * a.noise, methodUncertainty(name, 'max'));
  return [
    reading({ name, stat: 'max', value: worst?.depth ?? 0, U, at, samples: seen }),
    reading({ name: `${name}.area`, value: total, U: 2 * Math.max(0.05, 0.1 * total), at, samples: seen }),
    reading({ name: `${name}.volume`, value: volume, U: 2 * Math.max(0.005, 0.1 * volume), at, samples: seen }),
  ];
}

/** The scan's points that belong to `own`, with their loss below it, smoothed over their neighbours. */
function lossOf(own: Surface<'tooth'>, part: number, a: Alignment, master: Master) {
  const owners = ownersOf(a.scan, master);
  const b = bounds(own.mesh.positions);
  const least = b.min.map((m) => m - BESIDE);
  const most = b.max.map((m) => m + BESIDE);
  const p = a.scan.positions;
  const raw = new Float64Array(p.length / 3).fill(Number.NEGATIVE_INFINITY);
  const hit = newClosest();
  const other = newClosest();
  const others = [master.target, master.mesial, master.distal, master.gingiva].filter(
    (s): s is Surface<'tooth'> => s !== null && s !== own,
  );
  const { adjacency, areas } = owners;
  const slots = new Int32Array(raw.length).fill(-1);
  let seen = 0;
  for (let v = 0; v < raw.length; v++) {
    const x = p[3 * v];
    const y = p[3 * v + 1];
    const z = p[3 * v + 2];
    if (x < least[0] || y < least[1] || z < least[2] || x > most[0] || y > most[1] || z > most[2]) continue;
    const owner = owners.part[v];
    if (owner >= 0) {
      if (owner !== part) continue;
      raw[v] = owners.loss[v];
      seen++;
      continue;
    }
    let hint = -1;
    for (let i = adjacency.start[v]; i < adjacency.start[v + 1] && hint < 0; i++) hint = slots[adjacency.list[i]];
    if (!closestPoint(own, x, y, z, hit, DEEPEST, hint)) continue;
    slots[v] = hit.slot;
    if (onBorder(own, hit)) continue;
    const d = -signOf(own, hit, x, y, z) * Math.sqrt(hit.distanceSquared);
    // Points on or inside another part are that part's, wherever they lie under this one's continuation.
    if (
      d > 0.5 * THRESHOLDS.damageDepth_mm &&
      others.some((s) => closestPoint(s, x, y, z, other, Math.min(d, DEEPEST)) && !onBorder(s, other))
    )
      continue;
    if (d > 0.5 * THRESHOLDS.damageDepth_mm && insideOf(master.target, other, x, y, z)) continue;
    raw[v] = d;
    seen++;
  }
  const depth = averaged(raw, adjacency);
  // The deepest place is looked for where noise has been averaged out further, and read where less of a scratch has.
  const steady = averaged(averaged(depth, adjacency), adjacency);
  return { depth, steady, areas, adjacency, seen };
}

/** Half own value, half its neighbours'; places that belong to nothing stay out of it. */
function averaged(values: Float64Array, adjacency: { start: Uint32Array; list: Uint32Array }): Float64Array {
  return values.map((own, v) => {
    if (own === Number.NEGATIVE_INFINITY) return own;
    let s = 0;
    let n = 0;
    for (let i = adjacency.start[v]; i < adjacency.start[v + 1]; i++) {
      const w = values[adjacency.list[i]];
      if (w === Number.NEGATIVE_INFINITY) continue;
      s += w;
      n++;
    }
    return n ? (own + s / n) / 2 : own;
  });
}

function insideOf(s: Surface<'tooth'>, c: ReturnType<typeof newClosest>, x: number, y: number, z: number): boolean {
  return closestPoint(s, x, y, z, c, 3) && !onBorder(s, c) && signOf(s, c, x, y, z) < 0 && Math.sqrt(c.distanceSquared) > 0.1;
}
