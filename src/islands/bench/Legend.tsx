import { type DepthBands, depthColour, partColour, SURFACE } from '#contract/depth-ramp.ts';
import type { ColourOf } from '#core/catalogue/entry.ts';

/** Narrow enough to leave the tooth free in the usual view. */
const W = 124;
const WIDE_OPEN = 90;

/** On a narrow screen the tooth comes first and the legend is opened by hand. */
const isWide = (): boolean => typeof window === 'undefined' || window.innerWidth >= 1180;

/** The depth colours in mm with the band marked, for both kinds of surface. */
export function Legend({
  bands,
  colours,
  marked,
  lines,
}: {
  bands: DepthBands;
  colours: readonly ColourOf[];
  marked: boolean;
  /** What the master's dashed lines are that are drawn now. */
  lines: readonly string[];
}) {
  const walls = colours.includes('axial');
  const occlusal = [walls ? 'occlusal' : 'floor', SURFACE.occlusal, bands.occlusal] as const;
  const all = walls ? [occlusal, ['axial', SURFACE.wall, bands.axial] as const] : [occlusal];
  // A surface that the rubric does not ask about has no colours.
  const rows = all.filter(([, , [, hi]]) => hi < WIDE_OPEN);
  return (
    <details open={isWide()} className="rounded-sm border border-line bg-panel/95 p-2 text-[12px]">
      <summary className="mb-1 cursor-pointer font-semibold">Removed, mm</summary>
      {rows.map(([word, surface, [lo, hi]]) => {
        const from = Math.max(0, lo - 0.5);
        const to = hi + 0.5;
        const steps = 42;
        const x = (d: number) => (W * (d - from)) / (to - from);
        return (
          <div key={word} className="mb-1">
            <span className="block leading-3">{word}</span>
            <svg width={W} height="28" role="img" aria-label={`${word}: target ${lo} to ${hi} mm; orange below, violet above`}>
              {Array.from({ length: steps }, (_, i) => {
                const d = from + ((to - from) * (i + 0.5)) / steps;
                const c = depthColour(d, surface, bands).map((q) => Math.round(255 * q));
                return <rect key={i} x={(W * i) / steps} y="14" width={W / steps + 0.6} height="11" fill={`rgb(${c.join(',')})`} />;
              })}
              <rect x={x(lo)} y="14" width={x(hi) - x(lo)} height="11" className="fill-none stroke-ink" />
              {[lo, hi].map((d) => (
                <text key={d} x={x(d)} y="10" textAnchor="middle" className="figure fill-ink text-[12px]">
                  {d.toFixed(1)}
                </text>
              ))}
            </svg>
          </div>
        );
      })}
      <div className="leading-4">
        orange: too little
        <br />
        violet: too much
        {marked && (
          <>
            <br />
            red: damage, closed contact
          </>
        )}
        {lines.map((l) => (
          <span key={l} className="block max-w-32">
            {l}
          </span>
        ))}
      </div>
    </details>
  );
}

/** Names of the preparation's parts beside their tints. */
export function Parts({ names }: { names: readonly string[] }) {
  const tint = (i: number): string =>
    `rgb(${partColour(i)
      .map((q) => Math.round(255 * q))
      .join(',')})`;
  return (
    <ul className="rounded-sm border border-line bg-panel/95 p-2 text-[12px]" aria-label="Parts of the preparation">
      {names.map((n, i) =>
        n ? (
          <li key={n} className="flex items-center gap-2">
            <span className="inline-block h-3 w-3 border border-line" style={{ background: tint(i) }} />
            {n}
          </li>
        ) : null,
      )}
    </ul>
  );
}
