import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import { axialX, type Box, type CavityAnatomy } from '../../segment/cavity/cavity.ts';
import { properPlane } from '../../segment/cavity/floor-proper.ts';
import { floorAt } from '../../segment/cavity/floors.ts';
import { changes } from '../../segment/cavity/outline.ts';
import { mean, quantile } from '../../statistics/quantile.ts';
import { axialError, floorError } from '../uncertainty/fit-error.ts';
import { meanError } from '../uncertainty/outline-error.ts';
import { sideWall } from './side-wall.ts';

/** mm over the gingival floor within which outline places belong to its outer edge. */
const EDGE_BAND = 0.22;
/** mm that a bevel may carry the edge under the floor. */
const BEVEL_BAND = 0.9;

/** Outline places at the outer edge of a box's floor. */
export const gingivalEdge = (a: CavityAnatomy, b: Box) =>
  a.outline.filter(
    (o) =>
      b.sign * (o.p[0] - (axialX(b, o.p[1]) ?? 0)) > 0.3 &&
      Math.abs(o.tangent[2]) < 0.4 &&
      isAtFloor(o.p[2] - floorAt(b.floor.plane, o.p[0], o.p[1])),
  );
const isAtFloor = (over: number): boolean => over < EDGE_BAND && over > -BEVEL_BAND;

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
      Math.abs(mean(changes(here, a.outline, 'moved'))),
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
    U: expanded(facial.u(x, z), lingual.u(x, z), methodUncertainty('box.width', 'value')),
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
