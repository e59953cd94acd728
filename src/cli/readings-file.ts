import type { Measured } from '#core/pipeline.ts';
import { REFUSALS, type Reading } from '#core/result/reading.ts';

const round = (v: number, digits = 5): number => Number(v.toFixed(digits));

export const readingEntry = (r: Reading) => ({
  name: r.name,
  zone: r.zone,
  stat: r.stat,
  value: r.value === null ? null : round(r.value),
  unit: r.unit,
  U: r.U === null ? null : round(r.U),
  at: r.at && {
    azimuth: r.at.azimuth === undefined ? null : round(r.at.azimuth, 2),
    point: r.at.point ? r.at.point.map((v) => round(v)) : null,
  },
  coverage: r.coverage === null ? null : round(r.coverage, 4),
  samples: r.samples,
  reason: r.reason === null ? null : REFUSALS[r.reason],
});

/** The documented readings file (`veritor-readings/1`). */
export function readingsFile(m: Measured) {
  return {
    format: 'veritor-readings/1' as const,
    alignment: {
      matrix: m.scanToMaster.map((v) => round(v, 9)),
      rms: round(m.alignment.rms),
      stableArea: round(m.alignment.stableArea, 2),
      spread: m.alignment.spread,
      pointError: round(m.alignment.pointError),
      size: m.alignment.size && { factor: round(m.alignment.size.factor), u: round(m.alignment.size.u) },
      corrected: round(m.corrected),
    },
    readings: m.readings.map(readingEntry),
    curves: Object.fromEntries(Object.entries(m.curves).map(([k, c]) => [k, c.map((p) => p.map((v) => round(v)))])),
  };
}
