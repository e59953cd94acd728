import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { angleBetween, type Vec3 } from '../../linalg/vec.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import type { PartialContext } from './context.ts';

interface Guide {
  readonly zone: string;
  readonly direction: Vec3;
  readonly u: number;
  readonly at: Vec3;
}

/**
 * Parallelism of grooves and pinholes: between each pair of them, and of each to the draw direction (zone ends in `draw`).
 * @formula angle between the lines through their bottoms (groove) or along their walls (pinhole)
 * @units degrees, not below 0
 * @frame tooth
 * @fails no-groove-cut, no-pinhole, no-pair, not-seen (a hole whose wall shows too few points)
 * @source own definition, docs/definitions.md
 * @example two grooves cut with the handpiece held alike read 0
 */
export function parallel(c: PartialContext): Reading[] {
  const grooves = c.grooves.map(({ zone, groove: g }): Guide => ({ zone, direction: g.direction, u: LEVELS_SHARE * g.u, at: g.from }));
  const pins = c.pins.flatMap(({ zone, pin }): Guide[] =>
    pin.axis ? [{ zone, direction: pin.axis, u: PIN_U, at: [pin.x, pin.y, pin.rim] }] : [],
  );
  const pairs = grooves.flatMap((a, i) => grooves.slice(i + 1).map((b) => between('groove.parallel', a, b)));
  return [
    ...(grooves.length === 0 ? refusal('groove.parallel', null, ['value'], 'no-groove-cut') : []),
    ...(grooves.length === 1 ? refusal('groove.parallel', null, ['value'], 'no-pair') : pairs),
    ...grooves.flatMap((g) => toDraw('groove.parallel', g, c)),
    ...(c.pins.length === 0 ? refusal('pin.parallel', null, ['value'], 'no-pinhole') : []),
    ...c.pins.filter(({ pin }) => !pin.axis).flatMap(({ zone }) => refusal('pin.parallel', `${zone} draw`, ['value'], 'not-seen')),
    ...pins.flatMap((p) => [...toDraw('pin.parallel', p, c), ...grooves.map((g) => between('pin.parallel', p, g))]),
  ];
}

/** Levels of a groove lie nearer together than a scan's noise reaches: they scatter less about their line than that is off. */
const LEVELS_SHARE = 2.5;
/** degrees: how well a pinhole's axis is known from its short wall. */
const PIN_U = 1;

const between = (name: string, a: Guide, b: Guide): Reading =>
  reading({
    name,
    zone: `${a.zone} ${b.zone}`,
    value: angleBetween(a.direction, b.direction),
    U: expanded(a.u, b.u, methodUncertainty('groove.parallel', 'value')),
    at: { point: a.at },
  });

function toDraw(name: string, g: Guide, c: PartialContext): Reading[] {
  const { draw } = c.crown;
  if (!draw) return refusal(name, `${g.zone} draw`, ['value'], 'no-wall');
  const U = expanded(g.u, methodUncertainty('draw.tilt', 'value'), methodUncertainty('groove.parallel', 'value'));
  return [reading({ name, zone: `${g.zone} draw`, value: angleBetween(g.direction, draw.direction), U, at: { point: g.at } })];
}
