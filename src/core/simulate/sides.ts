/** One value per side of the tooth. */
export type Sides = { readonly facial: number; readonly mesial: number; readonly lingual: number; readonly distal: number };

/** A side value that changes smoothly round the tooth; exact on each side's middle. `phi` in radians. */
export function sideValue(v: Sides, phi: number): number {
  const c = Math.cos(phi);
  const s = Math.sin(phi);
  return (c > 0 ? v.facial : v.lingual) * c * c + (s > 0 ? v.mesial : v.distal) * s * s;
}
