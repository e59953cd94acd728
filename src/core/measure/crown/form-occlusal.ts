import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { angleBetween, toDegrees, type Vec3 } from '../../linalg/vec.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import { isScrap, type TargetRegion } from '../../segment/target.ts';
import { closestAgain, newClosest, pseudoNormal } from '../../spatial/surface.ts';
import { weightedQuantiles } from '../../statistics/quantile.ts';
import type { CrownContext } from './context.ts';

/** mm: radius of the circle over which both surfaces' directions are averaged. */
const DIRECTION_OVER = 0.2;
/** degrees from level up to which the prepared surface counts as occlusal; bevels are steeper. */
const LEVEL_TO = 40;

/** Share of the area of which it is not known on which side of the median it lies: of a cusp's zone, whose ends cut through it, and of the whole surface. */
const KNOWN = { cusp: 0.15, whole: 0.005 };

/** Places at which directions are compared, at the most: neighbouring circles overlap and say the same. */
const COMPARED = 5000;

/** Share of the master's own incline under which a cusp counts as flattened. */
const FLAT = 0.5;

/**
 * Does the occlusal reduction follow the tooth? Angle between the prepared surface and the master's at nearest points, over
 * all and by cusp; the share of each cusp's incline that was kept; how many cusps were flattened.
 * @formula area-weighted median of ∠(n, n master), both averaged over 0.4 mm, over all of the prepared occlusal surface that leans under 40° (null) and round each cusp; incline kept = median tilt to the axis ÷ the master's at the same points; flattened: kept under one half
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
  const occlusal: number[] = [];
  for (let v = 0; v < c.kinds.length; v++) if (c.kinds[v] === 'occlusal') occlusal.push(v);
  const masters = new Float64Array(region.normals.length);
  for (const v of occlusal) {
    closestAgain(master.target, p[3 * v], p[3 * v + 1], p[3 * v + 2], region.nearest[v], hit);
    pseudoNormal(master.target, hit, n);
    masters.set(unitOr(n, [0, 0, 1]), 3 * v);
  }
  const every = Math.max(1, Math.round(occlusal.length / COMPARED));
  const directions = averagedDirections(
    region,
    occlusal,
    occlusal.filter((_, i) => i % every === 0),
    region.normals,
    masters,
  );
  const compare = (v: number) => {
    const both = directions.get(v);
    if (!both) return null;
    const [a, b] = both;
    return { angle: angleBetween(a, b), own: tilt(a[2]), masters: tilt(b[2]), area: region.areas[v] };
  };
  const middle = (list: readonly { area: number }[], values: readonly number[]): number =>
    weightedQuantiles(
      values,
      list.map((q) => q.area),
      [0.5],
    )[0];
  /** A median by area, and its U: which places belong to it is known to a share of the area. */
  const told = (list: readonly { area: number }[], values: readonly number[], known: number) => {
    const [low, value, high] = weightedQuantiles(
      values,
      list.map((q) => q.area),
      [0.5 - known, 0.5, 0.5 + known],
    );
    return { value, U: Math.hypot(expanded(methodUncertainty('form.occlusal', 'median')), high - value, value - low) };
  };
  const out: Reading[] = [];
  const all = occlusal.flatMap((v) => compare(v) ?? []).filter((q) => q.own <= LEVEL_TO);
  let flattened = 0;
  let where: (typeof c.zones)[number] | null = null;
  const cusps = c.zones.filter((z) => master.landmarks.cusps.some((q) => q.name === z.zone));
  for (const z of cusps) {
    if (isScrap(c.anatomy.region, z.vertices)) {
      out.push(...refusal('form.occlusal', z.zone, ['median'], 'not-seen', z.coverage));
      out.push(...refusal('form.occlusal.incline', z.zone, ['median'], 'not-seen', z.coverage));
      continue;
    }
    const list = z.vertices.flatMap((v) => compare(v) ?? []);
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
        ...told(
          list,
          list.map((q) => q.angle),
          KNOWN.cusp,
        ),
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
      ...told(
        all,
        all.map((q) => q.angle),
        KNOWN.whole,
      ),
      samples: all.length,
    }),
  );
  out.push(reading({ name: 'form.occlusal.flattened', stat: 'count', value: flattened, U: 0.5, at, samples: cusps.length }));
  return out;
}

/** Two fields of unit directions over the given points, averaged within a circle of some of them. */
function averagedDirections(
  region: TargetRegion,
  given: readonly number[],
  of: readonly number[],
  a: Float64Array,
  b: Float64Array,
): Map<number, [Vec3, Vec3]> {
  const { adjacency, areas } = region;
  const p = region.mesh.positions;
  const n = areas.length;
  const isGiven = new Uint8Array(n);
  for (const v of given) isGiven[v] = 1;
  const seenFrom = new Int32Array(n).fill(-1);
  const near = new Int32Array(n);
  const out = new Map<number, [Vec3, Vec3]>();
  const sum = new Float64Array(6);
  for (const v of of) {
    let count = 1;
    near[0] = v;
    seenFrom[v] = v;
    sum.fill(0);
    for (let k = 0; k < count; k++) {
      const u = near[k];
      for (let i = 0; i < 3; i++) {
        sum[i] += areas[u] * a[3 * u + i];
        sum[3 + i] += areas[u] * b[3 * u + i];
      }
      for (let i = adjacency.start[u]; i < adjacency.start[u + 1]; i++) {
        const w = adjacency.list[i];
        if (seenFrom[w] === v || !isGiven[w]) continue;
        seenFrom[w] = v;
        const dx = p[3 * w] - p[3 * v];
        const dy = p[3 * w + 1] - p[3 * v + 1];
        const dz = p[3 * w + 2] - p[3 * v + 2];
        if (dx * dx + dy * dy + dz * dz < DIRECTION_OVER * DIRECTION_OVER) near[count++] = w;
      }
    }
    out.set(v, [
      unitOr([sum[0], sum[1], sum[2]], [a[3 * v], a[3 * v + 1], a[3 * v + 2]]),
      unitOr([sum[3], sum[4], sum[5]], [b[3 * v], b[3 * v + 1], b[3 * v + 2]]),
    ]);
  }
  return out;
}

const unitOr = (a: readonly number[], otherwise: Vec3): Vec3 => {
  const l = Math.hypot(a[0], a[1], a[2]);
  return l > 0 ? [a[0] / l, a[1] / l, a[2] / l] : otherwise;
};

const tilt = (z: number): number => toDegrees(Math.acos(Math.max(-1, Math.min(1, z))));
