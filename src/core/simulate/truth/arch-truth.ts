import { closedCentroid } from '../../linalg/curve.ts';
import { planeOf, planeThrough } from '../../linalg/plane.ts';
import { azimuthOf } from '../../linalg/sectors.ts';
import { angleBetween, scale, sub, toRadians, type Vec3 } from '../../linalg/vec.ts';
import { lineBeside } from '../../master/row-of-cusps.ts';
import type { CrownEnvelope } from '../crown/envelope.ts';
import type { PolarCurve } from '../polar-curve.ts';
import { cuspsBeside, junctionAt, type Typodont } from '../typodont.ts';
import type { Sample, Truth } from './truth.ts';

/** mm under the highest place of a cusp that count as its tip. */
const PLATEAU = 0.05;
/** mm round a cusp's tip. */
const REACH = 1.25;
/** mm by which a place may lie off a bevel's plane and still be on it. */
const ON = 0.005;

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
function bevelEdge(t: Typodont, e: CrownEnvelope, o: Vec3): Vec3[] {
  const middle = closedCentroid(t.gingivalMargin);
  return t.target.cusps
    .filter((c) => c.role === 'functional')
    .flatMap((c) => {
      const azimuth = azimuthOf(c.at[0] - middle[0], c.at[1] - middle[1]);
      const plane = e.recipe.planes.find((p) => Math.abs(((azimuth - p.azimuth + 540) % 360) - 180) + 18 <= p.halfWidth);
      if (!plane || plane.angle < 30) return [];
      const [cos, sin] = [Math.cos(toRadians(plane.angle)), Math.sin(toRadians(plane.angle))];
      return Array.from({ length: 19 }, (_, i) => toRadians(azimuth - 18 + 2 * i)).flatMap((phi): Vec3[] => {
        const p = e.profile(phi);
        // The margin lies farther out along the bevel's normal than the bevel itself.
        const line = p.line.filter(([, y]) => y >= p.wallTop);
        if (line.length === 0) return [];
        const most = Math.max(...line.map(([r, z]) => r * cos + z * sin));
        const [r, z] = line.filter(([x, y]) => x * cos + y * sin >= most - ON).reduce((a, b) => (b[1] > a[1] ? b : a));
        return [sub([r * Math.sin(phi), r * Math.cos(phi), z], o)];
      });
    });
}
