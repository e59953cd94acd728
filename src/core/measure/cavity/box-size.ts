import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { leastSquares } from '../../linalg/least-squares.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import { axialX, type Box, type CavityAnatomy } from '../../segment/cavity/cavity.ts';
import { properPlane } from '../../segment/cavity/floor-proper.ts';
import { floorAt } from '../../segment/cavity/floors.ts';
import { isScrap } from '../../segment/target.ts';
import { mean, median, quantile } from '../../statistics/quantile.ts';
import { axialError, floorError } from '../uncertainty/fit-error.ts';
import { meanError } from '../uncertainty/outline-error.ts';
import { wallProper } from './wall-angle.ts';

/** mm over the gingival floor within which outline places belong to its outer edge. */
const EDGE_BAND = 0.22;

/** Outline places at the outer edge of a box's floor. */
export const gingivalEdge = (a: CavityAnatomy, b: Box) =>
  a.outline.filter(
    (o) =>
      b.sign * (o.p[0] - (axialX(b, o.p[1]) ?? 0)) > 0.3 &&
      Math.abs(o.tangent[2]) < 0.4 &&
      Math.abs(o.p[2] - floorAt(b.floor.plane, o.p[0], o.p[1])) < EDGE_BAND,
  );

/** mm along the arch beside the box's middle in which its facial and lingual walls are read, and mm kept clear of the rounding into the axial wall. */
const SLICE = 0.8;
const OFF_AXIAL = 0.35;
/** mm² of a wall over which its points share their noise: a circle of about 0.3 mm. */
const SHARED = 0.09;
/** Times the points' own scatter beyond which a point belongs to a rounding and not to the wall. */
const ASTRAY = 2.5;

interface SideWall {
  readonly y: (x: number, z: number) => number;
  /** Standard uncertainty (mm) of the wall's place at a height. */
  readonly u: (z: number) => number;
}

/** A box's facial or lingual wall beside its middle: y = a + bx + cz through its points; null when the wall was not found. */
function sideWall(a: CavityAnatomy, b: Box, side: 'facial' | 'lingual'): SideWall | null {
  const p = a.region.mesh.positions;
  const { areas } = a.region;
  const x0 = b.floor.centre[0];
  const clear = (v: number): boolean => b.sign * (p[3 * v] - (axialX(b, p[3 * v + 1]) ?? Number.NEGATIVE_INFINITY * b.sign)) > OFF_AXIAL;
  const every = wallProper(a, `box ${b.side} ${side}`).filter(clear);
  const beside = every.filter((v) => Math.abs(p[3 * v] - x0) < SLICE);
  // A low box of an onlay has hardly more wall than its roundings: then all of it is taken, and its scatter says how sure that is.
  let own = [beside, every, wallProper(a, `box ${b.side} ${side}`)].find((list) => !isScrap(a.region, list)) ?? [];
  if (isScrap(a.region, own)) return null;
  for (let round = 0; ; round++) {
    const fit = leastSquares(own.map((v) => ({ f: [1, p[3 * v], p[3 * v + 2]], x: p[3 * v + 1], w: areas[v] })));
    if (!fit) return null;
    const y = (x: number, z: number): number => fit[0] + fit[1] * x + fit[2] * z;
    const off = own.map((v) => p[3 * v + 1] - y(p[3 * v], p[3 * v + 2]));
    const scatter = 1.48 * median(off.map(Math.abs));
    const kept = own.filter((_, i) => Math.abs(off[i]) <= ASTRAY * scatter);
    if (round < 2 && kept.length < own.length && !isScrap(a.region, kept)) {
      own = kept;
      continue;
    }
    const area = own.reduce((s, v) => s + areas[v], 0);
    const middle = own.reduce((s, v) => s + areas[v] * p[3 * v + 2], 0) / area;
    const spread = own.reduce((s, v) => s + areas[v] * (p[3 * v + 2] - middle) ** 2, 0) / area;
    const n = Math.max(1, area / SHARED);
    return { y, u: (z) => scatter * Math.sqrt((1 + (z - middle) ** 2 / (spread || 1)) / n) };
  }
}

/**
 * The box in size: axial depth of its gingival floor (mesiodistal width at the facial, middle and lingual third), height
 * from gingival to pulpal floor, and faciolingual width at the floor and at the occlusal end.
 * @formula depth = |x(outer edge of the floor) − x(axial wall carried down to the floor)|, mean over a third; height = z(pulpal plane at the axial wall) − z(gingival floor); width = y(facial wall) − y(lingual wall) at the floor's middle, at the floor's level and at the highest outline place of the box, walls fitted within 0.8 mm of that middle and off the rounding into the axial wall
 * @units mm
 * @frame tooth
 * @fails no-wall, no-pulpal-floor, no-outline
 * @source own definition, docs/definitions.md
 * @example a floor 1.3 mm wide, 3 mm under the pulpal floor and 3.4 mm across reads so
 */
export function boxSize(a: CavityAnatomy): Reading[] {
  return a.boxes.flatMap((b) => [...axialDepth(a, b), ...height(a, b), ...width(a, b)]);
}

function axialDepth(a: CavityAnatomy, b: Box): Reading[] {
  const zone = `box ${b.side}`;
  const name = 'box.axialdepth';
  const edge = gingivalEdge(a, b);
  const p = a.region.mesh.positions;
  const ys = b.floor.vertices.map((v) => p[3 * v + 1]);
  const [y0, y1] = [quantile(ys, 0.02), quantile(ys, 0.98)];
  return (['lingual third', 'middle third', 'facial third'] as const).flatMap((third, i): Reading[] => {
    const [from, to] = [y0 + ((y1 - y0) * i) / 3, y0 + ((y1 - y0) * (i + 1)) / 3];
    const here = edge.filter((o) => o.p[1] >= from && o.p[1] < to);
    const depths = here.flatMap((o) => {
      const x = axialX(b, o.p[1]);
      return x === null ? [] : [Math.abs(o.p[0] - x)];
    });
    if (depths.length < 3) return refusal(name, `${zone} ${third}`, ['value'], b.axial ? 'no-outline' : 'no-wall');
    const U = expanded(
      meanError(a, depths.length),
      Math.abs(mean(here.map((o) => o.moved))),
      axialError(a, b),
      methodUncertainty(name, 'value'),
    );
    return [
      reading({
        name,
        zone: `${zone} ${third}`,
        value: mean(depths),
        U,
        at: { point: here[here.length >> 1].p },
        samples: depths.length,
      }),
    ];
  });
}

function height(a: CavityAnatomy, b: Box): Reading[] {
  const zone = `box ${b.side}`;
  const y = b.floor.centre[1];
  const x = axialX(b, y);
  if (!a.pulpal || x === null) return refusal('box.height', zone, ['value'], a.pulpal ? 'no-wall' : 'no-pulpal-floor');
  const value = floorAt(properPlane(a, a.pulpal), x, y) - floorAt(properPlane(a, b.floor), x, y);
  const U = expanded(floorError(a, a.pulpal, x, y).level, floorError(a, b.floor, x, y).level, methodUncertainty('box.height', 'value'));
  return [reading({ name: 'box.height', zone, value, U, at: { point: b.floor.centre }, samples: b.floor.vertices.length })];
}

function width(a: CavityAnatomy, b: Box): Reading[] {
  const facial = sideWall(a, b, 'facial');
  const lingual = sideWall(a, b, 'lingual');
  const zone = `box ${b.side}`;
  if (!facial || !lingual)
    return [
      ...refusal('box.width', `${zone} floor`, ['value'], 'no-wall'),
      ...refusal('box.width', `${zone} occlusal`, ['value'], 'no-wall'),
    ];
  const x = b.floor.centre[0];
  const tops = a.outline.filter((o) => b.sign * (o.p[0] - (axialX(b, o.p[1]) ?? 0)) > 0.2).map((o) => o.p[2]);
  const at = { point: b.floor.centre };
  const of = (z: number): { value: number; U: number } => ({
    value: facial.y(x, z) - lingual.y(x, z),
    U: expanded(facial.u(z), lingual.u(z), methodUncertainty('box.width', 'value')),
  });
  return [
    reading({
      name: 'box.width',
      zone: `${zone} floor`,
      ...of(floorAt(properPlane(a, b.floor), x, b.floor.centre[1])),
      at,
      samples: b.floor.vertices.length,
    }),
    ...(tops.length
      ? [reading({ name: 'box.width', zone: `${zone} occlusal`, ...of(quantile(tops, 0.9)), at, samples: tops.length })]
      : refusal('box.width', `${zone} occlusal`, ['value'], 'no-outline')),
  ];
}
