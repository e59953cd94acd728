import * as v from 'valibot';
import { STATS } from '#core/catalogue/terms.ts';
import { REFUSALS, type Reading, type Refusal } from '#core/result/reading.ts';

const finite = v.pipe(v.number(), v.finite());
export const StatName = v.picklist(STATS);
const UnitName = v.picklist(['mm', 'deg', 'mm2', 'mm3', 'ratio', 'share', 'count', 'none']);
const Reason = v.picklist(Object.keys(REFUSALS) as [Refusal, ...Refusal[]]);
const Place = v.nullable(v.object({ azimuth: v.optional(finite), point: v.optional(v.tuple([finite, finite, finite])) }));
const shared = {
  name: v.string(),
  zone: v.nullable(v.string()),
  stat: StatName,
  unit: UnitName,
  coverage: v.nullable(finite),
  samples: v.pipe(v.number(), v.integer()),
  at: Place,
};

/** A reading as it crosses the wire, the database or a file: a value with U, or a refusal with its reason. */
export const ReadingFile: v.GenericSchema<Reading> = v.union([
  v.object({ ...shared, value: finite, U: v.pipe(finite, v.minValue(0)), reason: v.null(), byHand: v.optional(v.literal(true)) }),
  v.object({ ...shared, value: v.null(), U: v.null(), reason: Reason }),
]) as v.GenericSchema<Reading>;

/** The columns of the table `reading`. */
const columns = {
  name: v.string(),
  zone: v.nullable(v.string()),
  stat: StatName,
  unit: UnitName,
  value: v.nullable(finite),
  u: v.nullable(finite),
  azimuth_deg: v.nullable(finite),
  point: v.nullable(v.tuple([finite, finite, finite])),
  coverage_share: v.nullable(finite),
  samples: v.number(),
  reason: v.nullable(Reason),
};

interface Columns {
  readonly name: string;
  readonly zone: string | null;
  readonly stat: Reading['stat'];
  readonly unit: Reading['unit'];
  readonly value: number | null;
  readonly u: number | null;
  readonly azimuth_deg: number | null;
  readonly point: [number, number, number] | null;
  readonly coverage_share: number | null;
  readonly samples: number;
  readonly reason: Refusal | null;
}

function fromColumns(r: Columns): Reading {
  const { name, zone, stat, unit, samples, coverage_share: coverage } = r;
  const at =
    r.azimuth_deg === null && r.point === null
      ? null
      : { ...(r.azimuth_deg === null ? {} : { azimuth: r.azimuth_deg }), ...(r.point ? { point: r.point } : {}) };
  // The table's own checks keep value, U and reason together.
  return r.value === null || r.u === null
    ? { name, zone, stat, unit, samples, coverage, at, value: null, U: null, reason: r.reason ?? 'no-number' }
    : { name, zone, stat, unit, samples, coverage, at, value: r.value, U: r.u, reason: null };
}

/** A row of the table `reading` is a Reading. */
export const ReadingRow = v.pipe(v.object(columns), v.transform(fromColumns));
/** A row of `reading` with its measurement. */
export const MeasuredReadingRow = v.pipe(
  v.object({ measurement_id: v.number(), ...columns }),
  v.transform((r) => ({ measurement: r.measurement_id, reading: fromColumns(r) })),
);

/** A reading as the table's columns. */
export const toColumns = (r: Reading) => ({
  name: r.name,
  zone: r.zone,
  stat: r.stat,
  unit: r.unit,
  value: r.value,
  u: r.U,
  azimuth_deg: r.at?.azimuth ?? null,
  point: r.at?.point ?? null,
  coverage_share: r.coverage,
  samples: r.samples,
  reason: r.reason,
});

export const CurvesFile = v.record(v.string(), v.array(v.array(v.number())));
