import { useId } from 'react';
import { stretches } from './stretches.ts';

export interface RingProps {
  readonly title: string;
  readonly unit: string;
  readonly digits: number;
  /** [azimuth, value] pairs. */
  readonly points: readonly (readonly number[])[];
  readonly band: readonly [number | null, number | null];
  /** Whether a value lies outside the band, by the judge's own rule. */
  readonly out: (value: number) => boolean;
  readonly U: number;
  readonly azimuth: number;
  readonly onAzimuth: (azimuth: number) => void;
  /** Where the sides lie, when not at quarter turns: [position, 0 facial | 1 mesial | 2 lingual | 3 distal]. */
  readonly sides?: readonly (readonly number[])[];
  /** A stretch that a reading of its own stands for. */
  readonly stretch?: { readonly from: number; readonly to: number; readonly words: string } | null;
}

const SIDE_WORDS = ['facial', 'mesial', 'lingual', 'distal'];
const QUARTERS = [90, 180, 270].map((a, i) => [a, i + 1]);

/** Degrees within which a value counts as read at the azimuth pointed at: where a partial cover ends nothing is. */
const BESIDE = 6;
/** Room for a side’s name, in units of the drawing. */
const NAME_WIDTH = 62;
const W = 780;
const H = 118;
const LEFT = 46;
const RIGHT = 10;
const TOP = 8;
const BOTTOM = 20;

/** Readings round the finish line, unrolled: facial at both ends, mesial, lingual and distal between. */
export function Ring({ title, unit, digits, points, band, out, U, azimuth, onAzimuth, sides = QUARTERS, stretch }: RingProps) {
  const id = useId();
  const values = points.map((p) => p[1]);
  const ends = [...values, ...band.filter((b): b is number => b !== null)];
  const lo = Math.min(...ends) - U;
  const hi = Math.max(...ends) + U;
  const pad = 0.08 * (hi - lo || 1);
  const x = (a: number): number => LEFT + ((W - LEFT - RIGHT) * a) / 360;
  const y = (v: number): number => TOP + (H - TOP - BOTTOM) * (1 - (v - lo + pad) / (hi - lo + 2 * pad || 1));
  const lines = stretches(points.map(([a, v]) => ({ azimuth: a, value: v })));
  const away = (p: readonly number[]): number => Math.abs(((p[0] - azimuth + 540) % 360) - 180);
  const nearest = points.reduce<readonly number[] | null>((best, p) => (!best || away(p) < away(best) ? p : best), null);
  const here = nearest && away(nearest) <= BESIDE ? nearest : null;
  const pick = (clientX: number, box: DOMRect): void => {
    const a = ((((clientX - box.left) / box.width) * W - LEFT) / (W - LEFT - RIGHT)) * 360;
    if (a >= 0 && a <= 360) onAzimuth((Math.round(a / 2) * 2) % 360);
  };
  /** A side’s name is left out where the one before it, or the last, would stand in its place. */
  const isFree = (i: number, all: readonly (readonly number[])[]): boolean =>
    i === 0 ||
    i === all.length - 1 ||
    (x(all[i][0]) - x(all[i - 1][0]) > NAME_WIDTH && x(all[all.length - 1][0]) - x(all[i][0]) > NAME_WIDTH);
  const ticks = [lo + pad, (lo + hi) / 2, hi - pad];
  return (
    <figure className="min-w-0">
      <figcaption className="sr-only" id={id}>
        {title} round the tooth in {unit}: from {Math.min(...values).toFixed(digits)} to {Math.max(...values).toFixed(digits)}
        {`; at ${Math.round(azimuth)} degrees ${here ? here[1].toFixed(digits) : 'nothing is read'}`}
        {stretch && `; ${stretch.words} at ${Math.round((stretch.from + stretch.to) / 2)} degrees`}
      </figcaption>
      <svg
        viewBox={`0 0 ${W} ${H}`}
        className="block w-full"
        role="slider"
        aria-labelledby={id}
        aria-valuemin={0}
        aria-valuemax={358}
        aria-valuenow={Math.round(azimuth)}
        tabIndex={0}
        onPointerMove={(e) => pick(e.clientX, e.currentTarget.getBoundingClientRect())}
        onKeyDown={(e) => {
          if (e.key === 'ArrowLeft' || e.key === 'ArrowRight') {
            e.preventDefault();
            e.stopPropagation();
            onAzimuth((azimuth + (e.key === 'ArrowRight' ? 4 : 356)) % 360);
          }
        }}
      >
        {(band[0] !== null || band[1] !== null) && (
          <rect
            x={LEFT}
            y={y(band[1] ?? hi + pad)}
            width={W - LEFT - RIGHT}
            height={Math.max(0, y(band[0] ?? lo - pad) - y(band[1] ?? hi + pad))}
            className="fill-wash"
          />
        )}
        {[[0, 0], ...sides, [360, 0]].map(([at, side], i, all) => (
          <g key={at}>
            <line x1={x(at)} x2={x(at)} y1={TOP} y2={H - BOTTOM} className="stroke-line" />
            {isFree(i, all) && (
              <text
                x={x(at)}
                y={H - 6}
                textAnchor={i === 0 ? 'start' : i === all.length - 1 ? 'end' : 'middle'}
                className="fill-soft text-[12px]"
              >
                {SIDE_WORDS[side]}
              </text>
            )}
          </g>
        ))}
        {stretch && (
          <g>
            {/* A stretch that runs over facial lies at both ends. */}
            {[-360, 0, 360].map((turn) => {
              const [from, to] = [Math.max(0, stretch.from + turn), Math.min(360, stretch.to + turn)];
              return from < to ? (
                <rect
                  key={turn}
                  x={x(from)}
                  width={x(to) - x(from)}
                  y={TOP}
                  height={H - TOP - BOTTOM}
                  className="fill-under/20 stroke-under"
                />
              ) : null;
            })}
            <text
              x={x((stretch.from + stretch.to) / 2) + (stretch.to > 300 ? -14 : 14)}
              y={H - BOTTOM - 4}
              textAnchor={stretch.to > 300 ? 'end' : 'start'}
              className="figure fill-ink text-[12px]"
            >
              {stretch.words}
            </text>
          </g>
        )}
        {ticks.map((t) => (
          <text key={t} x={LEFT - 4} y={y(t) + 4} textAnchor="end" className="figure fill-soft text-[12px]">
            {t.toFixed(digits)}
          </text>
        ))}
        {lines.map((l) => (
          <g key={l[0].azimuth}>
            <path
              d={`M${l.map((p) => `${x(p.azimuth)},${y(p.value + U)}`).join('L')}L${[...l]
                .reverse()
                .map((p) => `${x(p.azimuth)},${y(p.value - U)}`)
                .join('L')}Z`}
              className="fill-accent/15"
            />
            <path d={`M${l.map((p) => `${x(p.azimuth)},${y(p.value)}`).join('L')}`} className="fill-none stroke-accent" strokeWidth="1.6" />
          </g>
        ))}
        {points
          .filter((p) => out(p[1]))
          .map((p) => (
            <rect key={p[0]} x={x(p[0]) - 2.2} y={y(p[1]) - 1.6} width={4.4} height={3.2} className="fill-under" />
          ))}
        <line x1={x(azimuth)} x2={x(azimuth)} y1={TOP} y2={H - BOTTOM} className="stroke-ink" strokeWidth="1.2" />
        <text
          x={x(azimuth) + (azimuth > 300 ? -5 : 5)}
          y={TOP + 10}
          textAnchor={azimuth > 300 ? 'end' : 'start'}
          className="figure fill-ink text-[12px]"
        >
          {here ? `${here[1].toFixed(digits)} ${unit}` : 'nothing is read here'}
        </text>
      </svg>
    </figure>
  );
}
