import { entryOf } from '#core/catalogue/catalogue.ts';
import { ANGLES, LENGTHS } from '#core/catalogue/entry.ts';
import type { Comparison } from '../table.ts';

/** Shares of truths that U must hold: what the common floor is chosen for. */
const AIM = 0.95;

interface Kept {
  readonly family: string;
  readonly error: number;
  /** Square of the standard uncertainty that comes from the scan alone. */
  readonly scan: number;
}

const holds = (rows: readonly Kept[], floor: number): number =>
  rows.filter((r) => r.error <= 2 * Math.sqrt(floor ** 2 + r.scan)).length / rows.length;

/** The least floor with which U holds for 95 % of the truths, in steps of a hundredth of `most`. */
function floorFor(rows: readonly Kept[], most: number): number {
  for (let k = 0; k <= 100; k++) if (holds(rows, (most * k) / 100) >= AIM) return (most * k) / 100;
  return most;
}

/**
 * Cross-validation of the two figures that U does not take from the scan: each family in turn is left out, the floor is chosen on the others so that U
 * holds for 95 % of their truths, and tried on the one that was left out.
 */
export function leftOut(rows: readonly Comparison[], familyOf: (r: Comparison) => string): string {
  const lines = (
    [
      ['lengths', LENGTHS, 'mm'],
      ['angles', ANGLES, '°'],
    ] as const
  ).flatMap(([words, method, unit]) => {
    if (!method) return [];
    const own = rows.flatMap((r): Kept[] => {
      if (r.value === null || r.U === null || r.name === 'pose' || r.name === 'whole scan' || r.name === 'scan.size') return [];
      if (entryOf(r.name).method !== method) return [];
      return [{ family: familyOf(r), error: Math.abs(r.value - r.truth), scan: Math.max(0, (r.U / 2) ** 2 - method.middle ** 2) }];
    });
    return [...new Set(own.map((r) => r.family))].map((family) => {
      const there = own.filter((r) => r.family === family);
      const floor = floorFor(
        own.filter((r) => r.family !== family),
        3 * method.middle,
      );
      const share = (f: number): string => `${(100 * holds(there, f)).toFixed(0)} %`;
      return `| ${words} | ${family} | ${floor.toFixed(3)} ${unit} | ${share(floor)} of ${there.length} | ${share(method.middle)} |`;
    });
  });
  return `| | left out | floor chosen on the others | holds for the one left out | with the floor in use (${LENGTHS?.middle} mm, ${ANGLES?.middle}°) |\n|---|---|---|---|---|\n${lines.join('\n')}`;
}
