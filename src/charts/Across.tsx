/** Places along the cut: mm from the place it was asked at, and height. */
type CutLine = readonly (readonly [number, number])[];

const W = 260;
const H = 380;
const SCALE = 22;
/** Height (mm) of the drawing's middle over the gingiva side. */
const MIDDLE = 2.2;

interface Props {
  readonly lines: Readonly<Record<'scan' | 'master' | 'opposing', readonly CutLine[]>>;
  /** Height of the place the cut goes through; it stands in the drawing's middle. */
  readonly z: number;
  /** From wall to wall, `over` mm over the place. */
  readonly wide: readonly [number, number] | null;
  readonly over: number;
  /** What stands left and right. */
  readonly ends: readonly [string, string];
  readonly removed: { readonly value: number; readonly U: number };
  readonly opposing: boolean;
}

/** An upright cut through a place of the tooth: the master dashed, the preparation solid, what was removed and how wide it is. */
export function Across({ lines, z, wide, over, ends, removed, opposing }: Props) {
  const x = (u: number): number => W / 2 + u * SCALE;
  const y = (h: number): number => H / 2 - 30 - (h - MIDDLE) * SCALE;
  const path = (of: readonly CutLine[]): string =>
    of.map((l) => `M${l.map((p) => `${x(p[0]).toFixed(1)},${y(p[1]).toFixed(1)}`).join('L')}`).join('');
  const width = wide && wide[1] - wide[0];
  const words = [
    `removed ${removed.value.toFixed(2)} ± ${removed.U.toFixed(2)} mm`,
    width === null ? null : `${width.toFixed(2)} mm from wall to wall ${over} mm over it`,
  ].filter((w) => w !== null);
  return (
    <svg
      viewBox={`0 0 ${W} ${H}`}
      className="block h-full w-full"
      role="img"
      aria-label={`Cut from ${ends[0]} to ${ends[1]} through the probe: ${words.join(', ')}.`}
    >
      {opposing && <path d={path(lines.opposing)} className="fill-none stroke-soft" strokeWidth="1" opacity="0.7" />}
      <path d={path(lines.master)} className="fill-none stroke-soft" strokeWidth="1.2" strokeDasharray="5 3" />
      <path d={path(lines.scan)} className="fill-none stroke-ink" strokeWidth="1.8" />
      {wide && (
        <g className="stroke-under" strokeWidth="1.4">
          <line x1={x(wide[0])} x2={x(wide[1])} y1={y(z + over)} y2={y(z + over)} />
          {wide.map((u) => (
            <line key={u} x1={x(u)} x2={x(u)} y1={y(z + over) - 5} y2={y(z + over) + 5} />
          ))}
        </g>
      )}
      <circle cx={x(0)} cy={y(z)} r="4" className="fill-accent" />
      <g className="fill-soft text-[12px]">
        <text x="4" y="12">
          {ends[0]}
        </text>
        <text x={W - 4} y="12" textAnchor="end">
          {ends[1]}
        </text>
      </g>
      <g className="fill-ink text-[12px]">
        <text x="4" y={H - 24}>
          removed <tspan className="figure">{`${removed.value.toFixed(2)} ± ${removed.U.toFixed(2)} mm`}</tspan>
        </text>
        {width !== null && (
          <text x="4" y={H - 8}>
            wall to wall <tspan className="figure fill-under">{`${width.toFixed(2)} mm`}</tspan>
          </text>
        )}
      </g>
      <g transform={`translate(${W - SCALE - 8},${H - 6})`}>
        <line x1="0" x2={SCALE} y1="0" y2="0" className="stroke-ink" strokeWidth="2" />
        <text x={SCALE / 2} y="-4" textAnchor="middle" className="figure fill-soft text-[12px]">
          1 mm
        </text>
      </g>
    </svg>
  );
}
