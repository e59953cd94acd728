import { bounds, type Mesh, triangleNeighbours, vertexAreas, vertexCount } from '../mesh/mesh.ts';
import { smoothed } from '../mesh/smoothed.ts';
import { median } from '../statistics/quantile.ts';
import type { Coverage } from './coverage.ts';
import { upward } from './upward.ts';

export const ARCH_CHECKS = ['unit', 'pieces', 'holes', 'coarse', 'upward', 'mirrored', 'coverage', 'cej'] as const;
export interface ArchCheck {
  readonly what: (typeof ARCH_CHECKS)[number];
  /** Whether the arch can be used as it is, wants a look, or cannot be used. */
  readonly state: 'fine' | 'look' | 'stop';
  /** The figure behind it: mm, count or share. */
  readonly figure: number;
  /** For the unit: by what every length could have to be multiplied, likeliest first. */
  readonly factors?: readonly number[];
  /** For the coverage: neighbours that were not found, and degrees in which the scan ends on the crown. */
  readonly missing?: readonly ('mesial' | 'distal')[];
  readonly cut_deg?: number;
}

/** mm: a quadrant or an arch is longer than this and shorter than that. */
const LENGTH = { least: 12, most: 160 } as const;
/** Share of the area from which a separate piece counts; mm round a hole from which it is told, and that make it grave. */
const PIECE = 0.03;
const HOLE = { told: 3, grave: 25 } as const;
/** mm between neighbouring points: beyond the first details of the anatomy are lost, beyond the second finish lines. */
const SPACING = { look: 0.3, stop: 0.6 } as const;

/**
 * What an arch must be to become a master: in millimetres, one piece, without holes, fine enough, and open or flat at its base.
 * @units mm; count; share
 */
export function checkArch(mesh: Mesh): readonly ArchCheck[] {
  return [unitOf(mesh), ...wholeness(mesh), spacing(mesh), direction(mesh)];
}

/** How many times better the other side's form must lie on it, and mm by which its own misses at the least, for it to be called mirrored. */
const MIRRORED = { times: 1.5, from: 0.08 } as const;
/** Whether an arch is the mirror image of what the tooth's number says; known once the tooth was touched. */
export const checkMirror = (times: number, ownRms: number): ArchCheck => ({
  what: 'mirrored',
  state: times > MIRRORED.times && ownRms > MIRRORED.from ? 'look' : 'fine',
  figure: times,
});

/** Share of the gingival margin that must be seen, and degrees of the crown that a scan may cut off. */
export const MARGIN_SEEN = { fine: 0.75, least: 0.3 } as const;
export const CUT = { fine: 10, most: 90 } as const;
/** Whether the scan reaches far enough round the touched tooth: both neighbours, gingiva all round, the whole crown. */
export function checkCoverage({ missing, margin_share, cut_deg }: Coverage): ArchCheck {
  const isFine = missing.length === 0 && margin_share >= MARGIN_SEEN.fine && cut_deg <= CUT.fine;
  const isTooLittle = margin_share < MARGIN_SEEN.least || cut_deg > CUT.most;
  return { what: 'coverage', state: isTooLittle ? 'stop' : isFine ? 'fine' : 'look', figure: margin_share, missing, cut_deg };
}

/** A cementoenamel junction that shows was drawn, and is a person's to look at; where none shows nothing is said. */
export const checkCej = (seen_deg: number): readonly ArchCheck[] =>
  seen_deg > 0 ? [{ what: 'cej', state: 'look', figure: seen_deg }] : [];

function unitOf(mesh: Mesh): ArchCheck {
  const b = bounds(mesh.positions);
  const longest = Math.max(...[0, 1, 2].map((k) => b.max[k] - b.min[k]));
  if (longest >= LENGTH.least && longest <= LENGTH.most) return { what: 'unit', state: 'fine', figure: longest };
  // Metres, centimetres, inches, micrometres: those that make it as long as a quadrant or an arch.
  const factors = [1000, 10, 25.4, 0.001].filter((f) => longest * f >= LENGTH.least && longest * f <= LENGTH.most);
  return { what: 'unit', state: 'stop', figure: longest, factors };
}

function wholeness(mesh: Mesh): ArchCheck[] {
  const { triangles: t } = mesh;
  const beside = triangleNeighbours(t, vertexCount(mesh));
  const areas = vertexAreas(mesh);
  const whole = areas.reduce((s, a) => s + a, 0);
  const piece = new Int32Array(t.length / 3).fill(-1);
  let pieces = 0;
  for (let s = 0; s < piece.length; s++) {
    if (piece[s] >= 0) continue;
    const stack = [s];
    piece[s] = s;
    let area = 0;
    while (stack.length) {
      const f = stack.pop() as number;
      // A sixth of what its corners carry is about the triangle's own area.
      for (let k = 0; k < 3; k++) {
        area += areas[t[3 * f + k]] / 6;
        const g = beside[3 * f + k];
        if (g >= 0 && piece[g] < 0) {
          piece[g] = s;
          stack.push(g);
        }
      }
    }
    if (area > PIECE * whole) pieces++;
  }
  const loops = borderLoops(mesh, beside).sort((a, b) => b - a);
  // The longest open border is the arch's own.
  const holes = loops.slice(1).filter((l) => l > HOLE.told);
  const largest = holes[0] ?? 0;
  return [
    { what: 'pieces', state: pieces > 1 ? 'look' : 'fine', figure: pieces },
    { what: 'holes', state: largest > HOLE.grave ? 'stop' : holes.length ? 'look' : 'fine', figure: holes.length },
  ];
}

/** mm round each open border. */
function borderLoops(mesh: Mesh, beside: Int32Array): number[] {
  const { triangles: t, positions: p } = mesh;
  const next = new Map<number, number>();
  for (let f = 0; f < t.length; f += 3) for (let k = 0; k < 3; k++) if (beside[f + k] < 0) next.set(t[f + k], t[f + ((k + 1) % 3)]);
  const out: number[] = [];
  while (next.size) {
    const [first] = next.keys();
    let length = 0;
    for (let v = first; next.has(v); ) {
      const w = next.get(v) as number;
      next.delete(v);
      length += Math.hypot(p[3 * w] - p[3 * v], p[3 * w + 1] - p[3 * v + 1], p[3 * w + 2] - p[3 * v + 2]);
      v = w;
    }
    out.push(length);
  }
  return out;
}

function spacing(mesh: Mesh): ArchCheck {
  const { triangles: t, positions: p } = mesh;
  const step = Math.max(3, 3 * Math.floor(t.length / 3 / 4000));
  const sides: number[] = [];
  for (let f = 0; f < t.length; f += step) {
    // The shortest side of a triangle: diagonals of a net are no distance between neighbours.
    let shortest = Infinity;
    for (let k = 0; k < 3; k++) {
      const [a, b] = [3 * t[f + k], 3 * t[f + ((k + 1) % 3)]];
      shortest = Math.min(shortest, Math.hypot(p[a] - p[b], p[a + 1] - p[b + 1], p[a + 2] - p[b + 2]));
    }
    sides.push(shortest);
  }
  const figure = median(sides);
  return { what: 'coarse', state: figure > SPACING.stop ? 'stop' : figure > SPACING.look ? 'look' : 'fine', figure };
}

function direction(mesh: Mesh): ArchCheck {
  const { sure } = upward(smoothed(mesh, 4));
  return { what: 'upward', state: sure > 0.15 ? 'fine' : 'look', figure: sure };
}
