interface Props {
  /** Mean error by bin of 5°, from facial over mesial. */
  readonly mean: readonly number[];
  /** |mean| that chance stays under. */
  readonly limit: number;
  readonly from: number;
  readonly to: number;
  readonly label: string;
  readonly sides?: readonly [top: string, right: string, bottom: string, left: string];
}

const SIZE = 190;
const MIDDLE = SIZE / 2;
/** Radius of no error, and room for the largest one. */
const ZERO = 52;
const ROOM = 26;

/** Where round a tooth the same error returns, looked at from above: outward too much, inward too little; the dashed circles are what chance stays between. */
export function HabitRing({ mean, limit, from, to, label, sides = ['facial', 'mesial', 'lingual', 'distal'] }: Props) {
  const most = Math.max(limit * 1.2, ...mean.map(Math.abs), 1e-9);
  const radius = (v: number): number => ZERO + (ROOM * v) / most;
  const at = (bin: number, r: number): string => {
    const a = (2 * Math.PI * (bin + 0.5)) / mean.length;
    return `${(MIDDLE + r * Math.sin(a)).toFixed(1)},${(MIDDLE - r * Math.cos(a)).toFixed(1)}`;
  };
  const inside = (b: number): boolean => (from <= to ? b >= from && b <= to : b >= from || b <= to);
  return (
    <svg viewBox={`0 0 ${SIZE} ${SIZE}`} width={SIZE} height={SIZE} role="img" aria-label={label}>
      <ellipse cx={MIDDLE} cy={MIDDLE} rx="27" ry="24" className="fill-wash stroke-soft" />
      <circle cx={MIDDLE} cy={MIDDLE} r={ZERO} fill="none" className="stroke-line" />
      {[limit, -limit].map((l) => (
        <circle key={l} cx={MIDDLE} cy={MIDDLE} r={radius(l)} fill="none" className="stroke-line" strokeDasharray="3 3" />
      ))}
      {mean.map((v, b) => (
        <polyline
          key={`bin${b}`}
          points={`${at(b, ZERO)} ${at(b, radius(v))}`}
          className={inside(b) && Math.abs(v) > limit ? 'stroke-bad' : 'stroke-soft'}
          strokeWidth={inside(b) ? 4 : 3}
        />
      ))}
      {sides.map((s, i) => (
        <text
          key={s}
          x={[MIDDLE, SIZE - 2, MIDDLE, 2][i]}
          y={[10, MIDDLE + 4, SIZE - 2, MIDDLE + 4][i]}
          textAnchor={(['middle', 'end', 'middle', 'start'] as const)[i]}
          className="fill-soft"
          fontSize="11"
        >
          {s}
        </text>
      ))}
    </svg>
  );
}
