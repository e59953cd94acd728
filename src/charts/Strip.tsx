interface Props {
  readonly values: readonly number[];
  readonly bands: readonly { readonly lo: number | null; readonly hi: number | null }[];
  readonly label: string;
}

const WIDTH = 260;
/** Columns of the distribution. */
const COLUMNS = 40;

/** Bands on one scale, the widest palest, and over them how often past attempts read what. */
export function Strip({ values, bands, label }: Props) {
  const ends = bands.flatMap((b) => [b.lo, b.hi]).filter((x): x is number => x !== null);
  const sorted = [...values].sort((a, b) => a - b);
  // The outermost hundredth would stretch the scale for one bad attempt.
  const inner = sorted.slice(Math.floor(sorted.length / 100), Math.ceil((sorted.length * 99) / 100));
  const all = [...ends, ...inner];
  if (all.length === 0) return null;
  const [least, most] = [Math.min(...all), Math.max(...all)];
  const pad = 0.08 * (most - least || 1);
  const [a, b] = [least - pad, most + pad];
  const x = (v: number): number => (WIDTH * (Math.min(b, Math.max(a, v)) - a)) / (b - a);
  const counts = new Array<number>(COLUMNS).fill(0);
  for (const v of values) counts[Math.min(COLUMNS - 1, Math.floor((COLUMNS * x(v)) / WIDTH))]++;
  const highest = Math.max(1, ...counts);
  return (
    <svg width={WIDTH} height="34" viewBox={`0 0 ${WIDTH} 34`} role="img" aria-label={label} className="shrink-0">
      {[...bands].reverse().map((q, i) => (
        <rect
          key={i}
          x={q.lo === null ? 0 : x(q.lo)}
          width={Math.max(1, (q.hi === null ? WIDTH : x(q.hi)) - (q.lo === null ? 0 : x(q.lo)))}
          y="20"
          height="12"
          className={i === bands.length - 1 ? 'fill-wash stroke-accent' : 'fill-none stroke-line'}
          strokeWidth="0.8"
        />
      ))}
      {counts.map(
        (n, i) =>
          n > 0 && (
            <rect
              key={i}
              x={(WIDTH * i) / COLUMNS}
              width={WIDTH / COLUMNS - 0.6}
              y={19 - (18 * n) / highest}
              height={(18 * n) / highest}
              className="fill-soft"
            />
          ),
      )}
    </svg>
  );
}
