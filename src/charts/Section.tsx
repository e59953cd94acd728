import { useRef } from 'react';
import type { ProfileView } from '#contract/profiles.ts';

const W = 260;
const H = 380;
/** Pixels of dragging for two degrees. */
const PIXELS_A_STEP = 3;

/** A cut through the axis: the master dashed, the preparation solid, with the dimensions of both sides. */
export function Section({
  near,
  far,
  names,
  dimensions: dimensioned,
  opposing = false,
  earlier,
  onTurn,
}: {
  near: ProfileView;
  far: ProfileView;
  names: readonly [string, string];
  dimensions: boolean;
  /** Whether the opposing arch is drawn over the preparation. */
  opposing?: boolean;
  /** The same cut of an earlier scan, drawn thinner under it. */
  earlier?: readonly [ProfileView, ProfileView] | null;
  /** Turns the cut round the axis by so many degrees: dragged, or by the arrow keys. */
  onTurn: (degrees: number) => void;
}) {
  const held = useRef<number | null>(null);
  const scale = 22;
  const x = (r: number, side: 1 | -1): number => W / 2 + side * r * scale;
  const y = (z: number): number => H - 118 - z * scale;
  const path = (flat: readonly number[], side: 1 | -1): string => {
    const points: string[] = [];
    for (let i = 0; i + 1 < flat.length; i += 2) points.push(`${x(flat[i], side).toFixed(1)},${y(flat[i + 1]).toFixed(1)}`);
    return points.length ? `M${points.join('L')}` : '';
  };
  const half = (p: ProfileView, before: ProfileView | undefined, side: 1 | -1) => (
    <g key={side}>
      {opposing && p.opposing && <path d={path(p.opposing, side)} className="fill-none stroke-soft" strokeWidth="2.4" opacity="0.6" />}
      <path d={path(p.master, side)} className="fill-none stroke-soft" strokeWidth="1.2" strokeDasharray="5 3" />
      {before && <path d={path(before.scan, side)} className="fill-none stroke-accent" strokeWidth="1.2" />}
      <path d={path(p.scan, side)} className="fill-none stroke-ink" strokeWidth="1.8" />
      {p.wall && (
        <line
          x1={x(p.wall[0], side)}
          y1={y(p.wall[1])}
          x2={x(p.wall[2], side)}
          y2={y(p.wall[3])}
          className="stroke-accent"
          strokeWidth="3"
          opacity="0.55"
        />
      )}
      {p.finish && <circle cx={x(p.finish[0], side)} cy={y(p.finish[1])} r="3.4" className="fill-accent" />}
      {p.finish && p.foot && (
        <g className="stroke-under" strokeWidth="1.2">
          <line x1={x(p.finish[0], side)} x2={x(p.foot[0], side)} y1={y(p.finish[1]) + 13} y2={y(p.finish[1]) + 13} />
          <line x1={x(p.finish[0], side)} x2={x(p.finish[0], side)} y1={y(p.finish[1]) + 3} y2={y(p.finish[1]) + 17} />
          <line x1={x(p.foot[0], side)} x2={x(p.foot[0], side)} y1={y(p.finish[1]) + 3} y2={y(p.finish[1]) + 17} />
        </g>
      )}
    </g>
  );
  const dimensions = (p: ProfileView, name: string, side: 1 | -1) => (
    <text x={side === 1 ? W - 4 : 4} y={H - 40} textAnchor={side === 1 ? 'end' : 'start'} className="fill-ink text-[12px]">
      <tspan className="font-semibold">{name}</tspan>
      <tspan x={side === 1 ? W - 4 : 4} dy="15" className="figure">
        {p.width === null ? 'no margin read' : `margin ${p.width.toFixed(2)} mm`}
      </tspan>
      <tspan x={side === 1 ? W - 4 : 4} dy="15" className="figure">
        {p.taper === null ? 'no wall read' : `taper ${p.taper.toFixed(1)}°`}
      </tspan>
    </text>
  );
  const words = (p: ProfileView, name: string): string =>
    `${name}: margin ${p.width?.toFixed(2) ?? 'not read'} mm, wall taper ${p.taper?.toFixed(1) ?? 'not read'} degrees`;
  return (
    <svg
      viewBox={`0 0 ${W} ${H}`}
      className="block h-full w-full cursor-ew-resize touch-none"
      onPointerDown={(e) => {
        held.current = e.clientX;
        e.currentTarget.setPointerCapture(e.pointerId);
      }}
      onPointerMove={(e) => {
        if (held.current === null) return;
        const by = Math.trunc((e.clientX - held.current) / PIXELS_A_STEP);
        if (by === 0) return;
        held.current += by * PIXELS_A_STEP;
        onTurn(2 * by);
      }}
      onPointerUp={() => {
        held.current = null;
      }}
      role="img"
      aria-label={`Section. ${words(near, names[0])}. ${words(far, names[1])}.`}
    >
      <line x1={W / 2} x2={W / 2} y1="6" y2={H - 70} className="stroke-line" strokeDasharray="10 3 2 3" />
      {half(near, earlier?.[0], 1)}
      {half(far, earlier?.[1], -1)}
      {dimensioned && dimensions(near, names[0], 1)}
      {dimensioned && dimensions(far, names[1], -1)}
      <g transform={`translate(${W / 2 - scale / 2},${H - 6})`}>
        <line x1="0" x2={scale} y1="0" y2="0" className="stroke-ink" strokeWidth="2" />
        <text x={scale / 2} y="-4" textAnchor="middle" className="figure fill-soft text-[12px]">
          1 mm
        </text>
      </g>
    </svg>
  );
}
