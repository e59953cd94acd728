import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { toDegrees } from '../../linalg/vec.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import { isScrap } from '../../segment/target.ts';
import { closestAgain, newClosest, pseudoNormal } from '../../spatial/surface.ts';
import { weightedQuantiles } from '../../statistics/quantile.ts';
import type { CrownContext } from './context.ts';

/** Share of the master's own incline under which a cusp counts as flattened. */
const FLAT = 0.5;

/**
 * Does the occlusal reduction follow the tooth? Angle between the prepared surface and the master's at nearest points, over
 * all and by cusp; the share of each cusp's incline that was kept; how many cusps were flattened.
 * @formula area-weighted median of ∠(n, n master); incline kept = median tilt to the axis ÷ the master's at the same points; flattened: kept under one half
 * @units degrees; ratio; count
 * @frame tooth
 * @fails nothing-prepared, not-seen
 * @source own definition, docs/definitions.md
 * @example a surface parallel to the master's reads 0°, incline kept 1
 */
export function formOcclusal(c: CrownContext): Reading[] {
  if (c.anterior) return [];
  const { region, master } = c.anatomy;
  const p = region.mesh.positions;
  const hit = newClosest();
  const n: [number, number, number] = [0, 0, 0];
  const compare = (v: number) => {
    closestAgain(master.target, p[3 * v], p[3 * v + 1], p[3 * v + 2], region.nearest[v], hit);
    pseudoNormal(master.target, hit, n);
    const l = Math.hypot(...n) || 1;
    const [x, y, z] = [region.normals[3 * v], region.normals[3 * v + 1], region.normals[3 * v + 2]];
    const angle = toDegrees(Math.acos(Math.max(-1, Math.min(1, (x * n[0] + y * n[1] + z * n[2]) / l))));
    return { angle, own: tilt(z), masters: tilt(n[2] / l), area: region.areas[v] };
  };
  const middle = (list: readonly { area: number }[], values: readonly number[]): number =>
    weightedQuantiles(
      values,
      list.map((q) => q.area),
      [0.5],
    )[0];
  // Normals of a noisy scan stand off their surface by a few degrees; what two passes of smoothing leave is taken off in quadrature.
  const floor = toDegrees(0.25 * c.anatomy.alignment.noise) / 0.15;
  const clean = (angle: number): number => Math.sqrt(Math.max(0, angle * angle - floor * floor));
  const u = expanded(methodUncertainty('form.occlusal', 'median'));
  const out: Reading[] = [];
  const all: ReturnType<typeof compare>[] = [];
  let flattened = 0;
  let where: (typeof c.zones)[number] | null = null;
  const cusps = c.zones.filter((z) => master.landmarks.cusps.some((q) => q.name === z.zone));
  for (const z of cusps) {
    if (isScrap(c.anatomy.region, z.vertices)) {
      out.push(...refusal('form.occlusal', z.zone, ['median'], 'not-seen', z.coverage));
      out.push(...refusal('form.occlusal.incline', z.zone, ['median'], 'not-seen', z.coverage));
      continue;
    }
    const list = z.vertices.map(compare);
    all.push(...list);
    const kept =
      middle(
        list,
        list.map((q) => q.own),
      ) /
      Math.max(
        1,
        middle(
          list,
          list.map((q) => q.masters),
        ),
      );
    const common = {
      zone: z.zone,
      stat: 'median' as const,
      coverage: z.coverage,
      samples: list.length,
      at: { point: master.landmarks.cusps.find((q) => q.name === z.zone)?.at },
    };
    out.push(
      reading({
        name: 'form.occlusal',
        value: clean(
          middle(
            list,
            list.map((q) => q.angle),
          ),
        ),
        U: u,
        ...common,
      }),
    );
    out.push(reading({ name: 'form.occlusal.incline', value: kept, U: 0.15, ...common }));
    if (kept < FLAT) {
      flattened++;
      where ??= z;
    }
  }
  if (all.length === 0)
    return [
      ...out,
      ...refusal('form.occlusal', null, ['median'], 'nothing-prepared'),
      ...refusal('form.occlusal.flattened', null, ['count'], 'nothing-prepared'),
    ];
  const at = where && { point: master.landmarks.cusps.find((q) => q.name === where.zone)?.at };
  out.push(
    reading({
      name: 'form.occlusal',
      stat: 'median',
      value: clean(
        middle(
          all,
          all.map((q) => q.angle),
        ),
      ),
      U: u,
      samples: all.length,
    }),
  );
  out.push(reading({ name: 'form.occlusal.flattened', stat: 'count', value: flattened, U: 0.5, at, samples: cusps.length }));
  return out;
}

const tilt = (z: number): number => toDegrees(Math.acos(Math.max(-1, Math.min(1, z))));
