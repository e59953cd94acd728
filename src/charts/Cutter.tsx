import { type Cutter, halfOutline } from '#core/plan/cutter.ts';

/** Pixels a millimetre. */
const SCALE = 11;
/** mm of shank that is drawn behind the cutting length. */
const SHANK = 2.2;

interface Props {
  readonly cutter: Cutter & { readonly ring?: string };
  readonly label: string;
}

/** A cutter drawn from its own figures, tip to the left, with a millimetre grid behind it. */
export function CutterPicture({ cutter, label }: Props) {
  const line = halfOutline(cutter);
  const [end, last] = line[line.length - 1];
  const most = Math.max(...line.map(([, r]) => r), 0.4);
  const [width, height] = [Math.ceil(end + SHANK) + 0.5, Math.ceil(2 * most) + 1];
  const shank = Math.min(0.8, Math.max(0.3, last));
  const at = ([x, r]: readonly [number, number], side: 1 | -1): string =>
    `${((x + 0.25) * SCALE).toFixed(1)},${((height / 2 + side * r) * SCALE).toFixed(1)}`;
  const body = [...line.map((p) => at(p, -1)), ...[...line].reverse().map((p) => at(p, 1))].join(' ');
  const grid = Array.from({ length: Math.floor(width) }, (_, i) => (i + 0.25) * SCALE);
  return (
    <svg
      width={width * SCALE}
      height={height * SCALE}
      viewBox={`0 0 ${width * SCALE} ${height * SCALE}`}
      role="img"
      aria-label={label}
      className="max-w-full"
    >
      {grid.map((x) => (
        <line key={x} x1={x} x2={x} y1="0" y2={height * SCALE} className="stroke-line" strokeWidth="0.7" />
      ))}
      <rect
        x={(end + 0.25) * SCALE}
        y={(height / 2 - shank) * SCALE}
        width={SHANK * SCALE}
        height={2 * shank * SCALE}
        className="fill-wash stroke-soft"
        strokeWidth="0.8"
      />
      {cutter.ring && (
        <rect x={(end + 1) * SCALE} y={(height / 2 - shank) * SCALE} width={0.6 * SCALE} height={2 * shank * SCALE} fill={cutter.ring} />
      )}
      <polygon points={body} className="fill-panel stroke-ink" strokeWidth="1.2" />
    </svg>
  );
}
