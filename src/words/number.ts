/** A number with so many digits behind the point, with a true minus sign, and without one before nothing. */
export function fixed(x: number, digits: number): string {
  const size = Math.abs(x).toFixed(digits);
  return x < 0 && Number(size) !== 0 ? `−${size}` : size;
}
