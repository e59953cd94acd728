/** One attempt on the chart. */
export interface ChartPoint {
  readonly value: number | null;
  readonly U: number | null;
  readonly lo: number | null;
  readonly hi: number | null;
  readonly level: number | null;
}

interface Props {
  readonly points: readonly ChartPoint[];
  readonly width: number;
  readonly height: number;
  readonly label: string;
  /** Decimals of the scale; no scale without. */
  readonly digits?: number;
}

const FILL = ['fill-bad', 'fill-under', 'fill-accent', 'fill-good'];
const STROKE = ['stroke-bad', 'stroke-under', 'stroke-accent', 'stroke-good'];

/** Attempts one after the other: each with its band as it was, its reading and ± U, coloured and shaped by its level. Without readings the levels alone. */
export function SkillChart({ points, width, height, label, digits }: Props) {
  const read = points.some((p) => p.value !== null);
  const left = digits === undefined ? 4 : 48;
  const ends = read
    ? points
        .flatMap((p) => [p.lo, p.hi, ...(p.value === null ? [] : [p.value - (p.U ?? 0), p.value + (p.U ?? 0)])])
        .filter((x): x is number => x !== null)
    : [0, 3];
  const [least, most] = [Math.min(...ends), Math.max(...ends)];
  const pad = 0.12 * (most - least || 1);
  const [a, b] = [least - pad, most + pad];
  const step = (width - left - 6) / Math.max(points.length, 3);
  const x = (i: number): number => left + step * (i + 0.5);
  const y = (v: number): number => height - 8 - ((height - 16) * (v - a)) / (b - a || 1);
  const at = (p: ChartPoint): number | null => (read ? p.value : p.level);
  const way = points.flatMap((p, i) => {
    const v = at(p);
    return v === null ? [] : [`${x(i).toFixed(1)},${y(v).toFixed(1)}`];
  });
  return (
    <svg viewBox={`0 0 ${width} ${height}`} className="w-full" role="img" aria-label={label}>
      {digits !== undefined &&
        [least, (least + most) / 2, most].map((t) => (
          <text key={t} x={left - 6} y={y(t) + 4} textAnchor="end" className="figure fill-soft" fontSize="12">
            {t.toFixed(digits)}
          </text>
        ))}
      {read &&
        points.map(
          (p, i) =>
            (p.lo !== null || p.hi !== null) && (
              <rect
                key={`band${i}`}
                x={x(i) - step / 2 + 0.5}
                width={Math.max(1, step - 1)}
                y={y(p.hi ?? b)}
                height={Math.max(1, y(p.lo ?? a) - y(p.hi ?? b))}
                className="fill-wash"
              />
            ),
        )}
      <polyline points={way.join(' ')} fill="none" className="stroke-soft" strokeWidth="1" strokeDasharray="3 2" />
      {points.map((p, i) => {
        const v = at(p);
        if (v === null) return null;
        const level = p.level ?? 3;
        const r = digits === undefined ? 3.4 : 5;
        return (
          <g key={`point${i}`}>
            {p.U !== null && read && (
              <line x1={x(i)} x2={x(i)} y1={y(v - p.U)} y2={y(v + p.U)} className={STROKE[level]} strokeWidth="1.4" />
            )}
            {level >= 2 ? (
              <circle cx={x(i)} cy={y(v)} r={r} className={FILL[level]} />
            ) : (
              <rect
                x={x(i) - r}
                y={y(v) - r}
                width={2 * r}
                height={2 * r}
                className={FILL[level]}
                transform={level === 0 ? `rotate(45 ${x(i)} ${y(v)})` : undefined}
              />
            )}
            {digits !== undefined && (
              <text x={x(i)} y={height - 0.5} textAnchor="middle" className="figure fill-soft" fontSize="11">
                {i + 1}
              </text>
            )}
          </g>
        );
      })}
    </svg>
  );
}

interface EvidenceProps {
  readonly heights: readonly number[];
  readonly limit: number;
  readonly label: string;
}

/** The chart of mastery: its height after each attempt, and the line at which it is told. */
export function EvidenceChart({ heights, limit, label }: EvidenceProps) {
  const [width, height] = [360, 110];
  const most = Math.max(limit, ...heights) * 1.12;
  const x = (i: number): number => 10 + ((width - 20) * (i + 1)) / Math.max(heights.length, 3);
  const y = (v: number): number => height - 8 - ((height - 16) * v) / most;
  return (
    <svg viewBox={`0 0 ${width} ${height}`} className="w-full" role="img" aria-label={label}>
      <line x1="10" x2={width - 6} y1={y(limit)} y2={y(limit)} className="stroke-good" strokeDasharray="5 3" />
      <line x1="10" x2={width - 6} y1={y(0)} y2={y(0)} className="stroke-line" />
      <polyline
        points={[`10,${y(0)}`, ...heights.map((h, i) => `${x(i).toFixed(1)},${y(h).toFixed(1)}`)].join(' ')}
        fill="none"
        className="stroke-accent"
        strokeWidth="2"
      />
      {heights.map((h, i) => (
        <circle key={`h${i}`} cx={x(i)} cy={y(h)} r="3" className="fill-accent" />
      ))}
    </svg>
  );
}
