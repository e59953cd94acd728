/** Band, value and its ± U on one scale. The scale always shows band and whisker whole. */
export function ToleranceBar({
  value,
  U,
  lo,
  hi,
  label,
}: {
  value: number | null;
  U: number | null;
  lo: number | null;
  hi: number | null;
  label: string;
}) {
  const ends = [lo, hi, value === null ? null : value - (U ?? 0), value === null ? null : value + (U ?? 0)].filter(
    (x): x is number => x !== null,
  );
  const a = Math.min(...ends, lo ?? Number.POSITIVE_INFINITY);
  const b = Math.max(...ends, hi ?? Number.NEGATIVE_INFINITY);
  const pad = 0.25 * (b - a || 1);
  const x = (v: number): number => 4 + (112 * (v - (a - pad))) / (b - a + 2 * pad || 1);
  const left = lo === null ? 2 : x(lo);
  const right = hi === null ? 118 : x(hi);
  return (
    <svg width="120" height="18" viewBox="0 0 120 18" role="img" aria-label={label} className="shrink-0">
      <line x1="2" x2="118" y1="9" y2="9" className="stroke-line" />
      <rect x={left} width={Math.max(2, right - left)} y="4" height="10" className="fill-wash stroke-accent" strokeWidth="0.8" />
      {value !== null && (
        <>
          <line x1={x(value - (U ?? 0))} x2={x(value + (U ?? 0))} y1="9" y2="9" className="stroke-ink" strokeWidth="1.6" />
          <line x1={x(value)} x2={x(value)} y1="2.5" y2="15.5" className="stroke-ink" strokeWidth="2.4" />
        </>
      )}
    </svg>
  );
}
