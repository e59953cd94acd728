import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import { axialX, type CavityAnatomy, floorAt } from '../../segment/cavity.ts';
import { quantile } from '../../statistics/quantile.ts';
import { methodUncertainty } from '../method-uncertainty.ts';

/**
 * Rounding of the axiopulpal line angle, read as a radius and as the width of a bevel.
 * @formula off = mean distance from the corner of pulpal plane and axial wall to the surface along the corner's bisector (± 20°); radius = off ÷ (√2 − 1), bevel = 2 off (both for a square corner)
 * @units mm
 * @frame tooth
 * @fails no-pulpal-floor, no-wall
 * @source measures.md 6, `axiopulpal.radius`, `.bevel`
 * @example a 0.3 mm bevel at 45° stands 0.15 mm off the corner
 */
export function axiopulpal(a: CavityAnatomy): Reading[] {
  return a.boxes.flatMap((b): Reading[] => {
    const zone = `box ${b.side}`;
    const refuse = (reason: 'no-pulpal-floor' | 'no-wall'): Reading[] => [
      ...refusal('axiopulpal.radius', zone, ['value'], 'mm', reason),
      ...refusal('axiopulpal.bevel', zone, ['value'], 'mm', reason),
    ];
    if (!a.pulpal) return refuse('no-pulpal-floor');
    if (!b.axial) return refuse('no-wall');
    const p = a.region.mesh.positions;
    const off: number[] = [];
    const half =
      0.3 *
      (quantile(
        b.floor.vertices.map((v) => p[3 * v + 1]),
        0.95,
      ) -
        quantile(
          b.floor.vertices.map((v) => p[3 * v + 1]),
          0.05,
        ));
    for (let v = 0; v < a.region.areas.length; v++) {
      if (!a.region.prepared[v] || Math.abs(p[3 * v + 1] - b.floor.centre[1]) > half) continue;
      const x = axialX(b, p[3 * v + 1]) as number;
      const dx = b.sign * (p[3 * v] - x);
      const dz = p[3 * v + 2] - floorAt(a.pulpal.plane, x, p[3 * v + 1]);
      const d = Math.hypot(dx, dz);
      // Seen from the corner the tooth lies inward and down; the bisector between floor and wall halves that quarter.
      if (d > 0.7 || dx > 0.05 || dz > 0.05) continue;
      if (d < 0.06 || Math.abs(Math.atan2(-dz, -dx) - Math.PI / 4) < 0.35) off.push(d);
    }
    if (off.length < 8) return refuse('no-wall');
    const value = quantile(off, 0.5);
    const u = expanded(0.4 * a.alignment.noise, methodUncertainty('axiopulpal', 'value'));
    const at = {
      point: [
        axialX(b, b.floor.centre[1]) as number,
        b.floor.centre[1],
        floorAt(a.pulpal.plane, b.floor.centre[0], b.floor.centre[1]),
      ] as const,
    };
    return [
      reading({
        name: 'axiopulpal.radius',
        zone,
        unit: 'mm',
        value: value / (Math.SQRT2 - 1),
        U: u / (Math.SQRT2 - 1),
        at,
        samples: off.length,
      }),
      reading({ name: 'axiopulpal.bevel', zone, unit: 'mm', value: 2 * value, U: 2 * u, at, samples: off.length }),
    ];
  });
}
