import { planeOf, planeThrough } from '../../linalg/plane.ts';
import { angleBetween, scale, sub, toRadians, type Vec3 } from '../../linalg/vec.ts';
import { lineBeside } from '../../master/row-of-cusps.ts';
import type { CrownEnvelope } from '../crown/envelope.ts';
import type { PolarCurve } from '../polar-curve.ts';
import { cuspsBeside, junctionAt, type Typodont } from '../typodont.ts';
import { functionalBevels } from './functional-bevel-truth.ts';
import type { Sample, Truth } from './truth.ts';

/** mm under the highest place of a cusp that count as its tip. */
const PLATEAU = 0.05;
/** mm round a cusp's tip. */
const REACH = 1.25;

/** The preparation against its arch, from the typodont's own landmarks and the cut's formulas: the junction, the neighbours' cusps. */
export function archTruth(t: Typodont, e: CrownEnvelope, o: Vec3, finish: PolarCurve, occlusal: readonly Sample[]): Truth[] {
  const cusps = t.target.cusps.map((c) => ({ ...c, at: sub(c.at, o) }));
  const neighbourCusps = {
    mesial: cuspsBeside(t, 'mesial').map((p) => sub(p, o)),
    distal: cuspsBeside(t, 'distal').map((p) => sub(p, o)),
  };
  const out = cejTruth(t, o, finish);
  if (Number(t.target.tooth[1]) <= 3) return out;
  const plane = planeThrough([...cusps.map((q) => q.at), ...neighbourCusps.mesial, ...neighbourCusps.distal]);
  const line = lineBeside({ cusps, neighbourCusps });
  for (const q of cusps) {
    const near = occlusal.filter(({ p }) => Math.hypot(p[0] - q.at[0], p[1] - q.at[1]) <= REACH);
    // The slope to the tooth's middle: from a quarter of a millimetre beside the tip on, as it is seen along the axis.
    const away = Math.hypot(q.at[0], q.at[1]);
    const inner = near.filter(({ p }) => (q.at[0] * (q.at[0] - p[0]) + q.at[1] * (q.at[1] - p[1])) / away >= 0.25);
    const own = planeOf(
      inner.map((s) => s.p),
      inner.map((s) => s.weight),
    );
    if (plane && own) {
      const up = own.normal[2] < 0 ? scale(own.normal, -1) : own.normal;
      out.push({ name: 'cusp.incline', zone: q.name, stat: 'value', unit: 'deg', value: angleBetween(up, plane.normal) });
    }
    if (!line || q.role !== 'functional' || near.length === 0) continue;
    const highest = Math.max(...near.map(({ p }) => p[2]));
    const top = near.filter(({ p }) => p[2] >= highest - PLATEAU);
    const area = top.reduce((s, v) => s + v.weight, 0);
    const value = top.reduce((s, v) => s + v.weight * line.from(v.p), 0) / area;
    out.push({ name: 'line.cusps', zone: q.name, stat: 'value', unit: 'mm', value });
  }
  const edge = line ? bevelEdge(t, e, o).map(line.from) : [];
  if (edge.length)
    out.push({ name: 'line.cusps.bevel', zone: null, stat: 'value', unit: 'mm', value: edge.reduce((s, v) => s + v, 0) / edge.length });
  return out;
}

/** Height of the finish line over the junction. */
function cejTruth(t: Typodont, o: Vec3, finish: PolarCurve): Truth[] {
  const heights = Array.from({ length: 180 }, (_, k) => {
    const at = finish.at(2 * k);
    // The junction is drawn about the tooth's own axis, readings about the gingival margin's middle: the azimuth of a place differs by little.
    const phi = Math.atan2(at.r * Math.sin(toRadians(2 * k)) + o[0], at.r * Math.cos(toRadians(2 * k)) + o[1]);
    return at.z + o[2] - junctionAt(t, phi);
  }).sort((a, b) => a - b);
  const of = (stat: 'min' | 'median' | 'max', value: number): Truth => ({ name: 'margin.cej', zone: null, stat, unit: 'mm', value });
  return [of('min', heights[0]), of('median', (heights[89] + heights[90]) / 2), of('max', heights[179])];
}

/** Where the bevel over each functional cusp meets the occlusal surface: the highest place of the cut that lies on the bevel's line. */
const bevelEdge = (t: Typodont, e: CrownEnvelope, o: Vec3): Vec3[] =>
  functionalBevels(t, e).flatMap((lines) =>
    lines.map((line) =>
      sub(
        line.reduce((a, b) => (b[2] > a[2] ? b : a)),
        o,
      ),
    ),
  );
