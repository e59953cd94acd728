import { anteriorPlan } from './anterior.ts';
import { fourCusped, molarPlan } from './molar.ts';
import type { CrownSize, ToothPlan } from './plan.ts';
import { premolarPlan } from './premolar.ts';

/**
 * Anatomy in numbers: usual mean crown sizes (mm) and where cusps and ridges lie, as shares of half the mesiodistal size
 * (x, + mesial), half the faciolingual size (y, + facial) and the crown height (z). One plan a tooth class; the quadrant
 * only mirrors it.
 * @source mean crown dimensions as given in the usual dental anatomy tables
 */
// Sizes by FDI position: [mesiodistal, faciolingual, crown height].
const UPPER: readonly CrownSize[] = [
  [8.5, 7, 10.5],
  [6.5, 6, 9],
  [7.5, 8, 10],
  [7, 9, 8.5],
  [7, 9, 8.5],
  [10, 11, 7.5],
  [9, 11, 7],
  [8.5, 10, 6.5],
];
const LOWER: readonly CrownSize[] = [
  [5, 6, 9],
  [5.5, 6.5, 9.5],
  [7, 7.5, 11],
  [7, 7.5, 8.5],
  [7, 8, 8],
  [11, 10.5, 7.5],
  [10.5, 10, 7],
  [10, 9.5, 7],
];
const PRIMARY_UPPER: readonly CrownSize[] = [
  [6.5, 5, 6],
  [5.1, 4, 5.6],
  [7, 7, 6.5],
  [7, 8.5, 5.1],
  [8.2, 10, 5.7],
];
const PRIMARY_LOWER: readonly CrownSize[] = [
  [4.2, 4, 5],
  [4.1, 4, 5.2],
  [5, 4.8, 6],
  [7.7, 7, 6],
  [9.9, 8.7, 5.5],
];

export const isPrimary = (tooth: string): boolean => Number(tooth[0]) >= 5;
export const isUpper = (tooth: string): boolean => [1, 2, 5, 6].includes(Number(tooth[0]));
const ACROSS: Readonly<Record<string, number>> = { 1: 4, 2: 3, 3: 2, 4: 1, 5: 8, 6: 7, 7: 6, 8: 5 };
/** The tooth of the same place in the opposing arch. */
export const acrossFrom = (tooth: string): string => `${ACROSS[tooth[0]]}${tooth[1]}`;
/**
 * Quadrants whose mesial, facial and occlusal axes are left-handed: upper left and lower right. On an upper right molar mesial is
 * forward, facial to the patient's right and occlusal down: forward × right = down, which is right-handed.
 */
export const isLeftHanded = (tooth: string): boolean => [2, 4, 6, 8].includes(Number(tooth[0]));

export function planOf(tooth: string): ToothPlan {
  const position = Number(tooth[1]);
  const primary = isPrimary(tooth);
  const upper = isUpper(tooth);
  const table = primary ? (upper ? PRIMARY_UPPER : PRIMARY_LOWER) : upper ? UPPER : LOWER;
  const size = table[position - 1];
  if (!size) throw new RangeError(`there is no tooth ${tooth}`);
  const molar = primary ? position >= 4 : position >= 6;
  if (molar) {
    const plan = molarPlan(upper, size, primary);
    return !upper && !primary && position >= 7 ? fourCusped(plan) : plan;
  }
  if (!primary && position >= 4) return premolarPlan(upper, size, position);
  return anteriorPlan(upper, size, position);
}
