import { isPrimary } from '../anatomy/anatomy.ts';
import { cross, dot, length, sub, toRadians, type Vec3 } from '../linalg/vec.ts';
import type { Surface } from '../spatial/surface.ts';
import { type Laid, layOn, type Start, standing, toScan } from './fit.ts';
import { type Template, templateOf } from './template.ts';

/** A tooth of the arch, found by its usual form. */
export interface Found {
  readonly tooth: string;
  readonly laid: Laid;
}

export interface ArchFound {
  readonly target: Found;
  /** Outward from the target, nearest first. */
  readonly mesial: readonly Found[];
  readonly distal: readonly Found[];
  /** How much worse the best other way round fits: 1 is as well, 2 twice as badly. */
  readonly turnedAbout: number;
}

/** Degrees between the first tries about the axis. */
const TRY_EVERY = 30;
const ROUGH = { points: 160, rounds: 14, reach: [2.5, 0.9], stretch: 0.06 } as const;
const FINE = { points: 1200, rounds: 30, reach: [1, 0.35], stretch: 0.12 } as const;
/** A neighbour that fits worse than this, mm, or over less of its crown, is none. */
const NO_TOOTH = { rms: 0.6, share: 0.2 } as const;

/** The tooth next to it in its quadrant, or over the midline; null where the row ends. */
export function besideIt(tooth: string, step: -1 | 1): string | null {
  const quadrant = Number(tooth[0]);
  const position = Number(tooth[1]) + step;
  if (position === 0) return `${quadrant % 2 === 1 ? quadrant + 1 : quadrant - 1}1`;
  return position > (isPrimary(tooth) ? 5 : 8) ? null : `${quadrant}${position}`;
}

/** mm from the template's origin up to its occlusal surface at the middle. */
const topOf = (t: Template): number => t.shape.top(0, 0);

/** The usual form laid roughly at the touched place in every direction: the best of those that look another way each, the best first. */
function layBest(scan: Surface, tooth: string, touched: Vec3, up: Vec3, mesialward: Vec3 | null = null): Laid[] {
  const t = templateOf(tooth);
  const tries: Laid[] = [];
  for (let a = 0; a < 360; a += TRY_EVERY) {
    const at: Vec3 = [0, 1, 2].map((k) => touched[k] - up[k] * topOf(t)) as [number, number, number];
    tries.push(layOn(scan, t, standing(up, a, at), ROUGH));
  }
  tries.sort((p, q) => p.rms - q.rms);
  const isMesialward = (l: Laid): boolean => !mesialward || dot(l.axes[0], sub(mesialward, touched)) > 0;
  const distinct: Laid[] = [];
  for (const l of tries)
    if (isMesialward(l) && distinct.every((d) => dot(d.axes[0], l.axes[0]) < Math.cos(toRadians(50)))) distinct.push(l);
  return distinct;
}

/** The best of these, laid finely. */
export const bestFit = (scan: Surface, tooth: string, touched: Vec3, up: Vec3): Laid =>
  layOn(scan, templateOf(tooth), layBest(scan, tooth, touched, up)[0], FINE);

/**
 * Lays the usual form of the named tooth at the touched place, every way round; then its neighbours', one after the other, until none is
 * there. Which way round is decided by the target and its neighbours together.
 */
export function findTeeth(scan: Surface, tooth: string, touched: Vec3, up: Vec3, mesialward: Vec3 | null = null, most = 7): ArchFound {
  const t = templateOf(tooth);
  const distinct = layBest(scan, tooth, touched, up, mesialward);
  const ways = distinct.slice(0, 3).map((rough) => {
    const laid = layOn(scan, t, rough, FINE);
    const target = { tooth, laid };
    const first = ([-1, 1] as const).map((step) => next(scan, target, step));
    const known = first.filter((f) => f !== null);
    // A way round that finds no neighbours says less; their fits count half.
    const cost = (laid.rms + 0.5 * known.reduce((s, f) => s + f.laid.rms, 0) + 0.3 * (2 - known.length)) / 1.5;
    return { target, first, cost };
  });
  ways.sort((p, q) => p.cost - q.cost);
  const [best, second] = ways;
  const row = (step: -1 | 1, from: Found | null): Found[] => {
    const out: Found[] = [];
    for (let f = from; f && out.length < most; f = next(scan, f, step)) {
      out.push(f);
      // Over the midline the row runs on in the other quadrant, whose numbers grow again.
      if (f.tooth[0] !== tooth[0]) break;
    }
    return out;
  };
  return {
    target: best.target,
    mesial: row(-1, best.first[0]),
    distal: row(1, best.first[1]),
    // What a person said is sure; so is a form that lies on the scan one way only.
    turnedAbout: second && !mesialward ? second.cost / Math.max(1e-6, best.cost) : 2,
  };
}

/** mm: half a tooth's width along the arch. */
const reach = (f: { tooth: string }, size: number): number => (templateOf(f.tooth).shape.plan.md / 2) * size;

function next(scan: Surface, from: Found, step: -1 | 1): Found | null {
  const tooth = besideIt(from.tooth, step);
  if (!tooth) return null;
  const crossing = tooth[0] !== from.tooth[0];
  const t = templateOf(tooth);
  const way = step === -1 ? 1 : -1;
  const distance = reach(from, from.laid.size[0]) + reach({ tooth }, from.laid.size[0]);
  const at = toScan({ ...from.laid, size: [1, 1, 1] }, [way * distance, -0.3, 0]);
  const [x, y, z] = from.laid.axes;
  let best: Laid | null = null;
  for (const bend of [-12, 0, 12, 24]) {
    // Rows bend to lingual away from the front; over the midline mesial looks the other way.
    const a = toRadians(-way * bend);
    const turned: Vec3 = [0, 1, 2].map((k) => (x[k] * Math.cos(a) + y[k] * Math.sin(a)) * (crossing ? -1 : 1)) as [number, number, number];
    const start: Start = { axes: [turned, cross(z, turned), z], at, size: from.laid.size };
    // Its facial side is on the same side of the row: over the midline that is a form in a mirror, which has the same plan.
    const laid = layOn(scan, t, crossing ? { ...start, axes: [start.axes[0], y, z] } : start, ROUGH);
    if (!best || laid.rms < best.rms) best = laid;
  }
  const laid = layOn(scan, t, best as Laid, { ...FINE, rounds: 20 });
  if (laid.rms > NO_TOOTH.rms || laid.share < NO_TOOTH.share) return null;
  // What slid back onto the tooth that it stands beside is no tooth of its own.
  if (length(sub(laid.at, from.laid.at)) < 0.55 * distance) return null;
  return { tooth, laid };
}
