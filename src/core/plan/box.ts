/**
 * What of a box stays for hand instruments because the cutter does not reach it: from the marginal ridge down to the floor it is to be longer
 * than the cutter.
 * @formula max(0, ridge to floor − cutting length)
 * @units mm
 * @source docs/plan.md
 * @example 4.6 from ridge to floor with a cutter of 4.0: 0.6
 */
export const outOfReach = (ridgeToFloor_mm: number, length_mm: number): number => Math.max(0, ridgeToFloor_mm - length_mm);

/**
 * Whether an instrument of a width goes into an opening, and with how much room.
 * @formula opening − instrument
 * @units mm
 * @source docs/plan.md
 * @example a condenser of 1.0 in a box of 1.3 deep: 0.3 to spare; a hatchet of 1.5 in it: −0.2, it does not go in
 */
export const roomFor = (instrument_mm: number, opening_mm: number): number => opening_mm - instrument_mm;
