import type { Guide } from '#core/plan/guide.ts';

type Point = readonly [number, number];

/** A number on the tooth, and what it stands for. */
export interface NumberAt {
  readonly number: number;
  readonly at: Point;
}
/** Pixels a millimetre. */
const SCALE = 24;
const R = 9;

/** A tooth seen from above with its grooves and cusps, and numbers where a plan cuts; facial is up. */
export function FromAbove({
  guide,
  numbers,
  current,
  label,
}: {
  readonly guide: Guide;
  readonly numbers: readonly NumberAt[];
  readonly current: number | null;
  readonly label: string;
}) {
  const reach = Math.max(...guide.outline.map((p) => Math.hypot(...p))) + 1.3;
  const at = ([x, y]: Point): Point => [(reach + guide.mesialSign * x) * SCALE, (reach - y) * SCALE];
  const points = (l: readonly Point[]): string =>
    l
      .map((p) =>
        at(p)
          .map((v) => v.toFixed(1))
          .join(','),
      )
      .join(' ');
  const size = 2 * reach * SCALE;
  return (
    <svg viewBox={`0 0 ${size.toFixed(0)} ${size.toFixed(0)}`} role="img" aria-label={label} className="block w-full">
      <polygon points={points(guide.outline)} className="fill-wash/60 stroke-ink" strokeWidth="1.4" />
      <polygon points={points(guide.neck)} className="fill-none stroke-soft" strokeWidth="1" strokeDasharray="4 3" />
      {guide.grooves.map((g) => (
        <polyline key={points(g)} points={points(g)} className="fill-none stroke-soft" strokeWidth="1.4" />
      ))}
      {guide.cusps.map((c) => (
        <text key={c.name} x={at(c.at)[0]} y={at(c.at)[1] + 4} textAnchor="middle" className="fill-soft text-[11px]">
          {c.name}
        </text>
      ))}
      {numbers.map(({ number, at: p }) => {
        const [x, y] = at(p);
        const isNow = number === current;
        return (
          <g key={`${number} ${x} ${y}`} opacity={current === null || isNow ? 1 : 0.35}>
            <circle cx={x} cy={y} r={R} className={isNow ? 'fill-accent' : 'fill-[#4d5b63]'} />
            <text x={x} y={y + 4} textAnchor="middle" className="figure fill-white text-[11px]">
              {number}
            </text>
          </g>
        );
      })}
      <text x={size / 2} y={12} textAnchor="middle" className="fill-soft text-[12px]">
        facial
      </text>
      <text
        x={guide.mesialSign === 1 ? size - 4 : 4}
        y={size / 2}
        textAnchor={guide.mesialSign === 1 ? 'end' : 'start'}
        className="fill-soft text-[12px]"
      >
        mesial
      </text>
    </svg>
  );
}
