import type { GuideSection } from '#core/plan/guide.ts';

type Point = readonly [number, number];

/** Pixels a millimetre. */
const SCALE = 22;
/** mm round the drawing, and how long a tick is. */
const ROOM = 1;
const TICK = 0.9;

/** A cut of the guide: the tooth dashed, the surface with the least and with the most gone, and where a probe goes in. */
export function GuideSectionPicture({ section, label }: { readonly section: GuideSection; readonly label: string }) {
  const all = section.original.flat();
  const [left, right] = [Math.min(...all.map((p) => p[0])) - ROOM, Math.max(...all.map((p) => p[0])) + ROOM];
  const [low, high] = [Math.min(...all.map((p) => p[1])) - 0.3, Math.max(...all.map((p) => p[1])) + ROOM];
  const at = ([x, z]: Point): string => `${((x - left) * SCALE).toFixed(1)},${((high - z) * SCALE).toFixed(1)}`;
  const path = (lines: readonly (readonly Point[])[]): string => lines.map((l) => `M${l.map(at).join('L')}`).join('');
  return (
    <svg
      viewBox={`0 0 ${((right - left) * SCALE).toFixed(0)} ${((high - low) * SCALE).toFixed(0)}`}
      role="img"
      aria-label={label}
      className="block w-full"
    >
      <path d={path(section.original)} className="fill-none stroke-soft" strokeWidth="1.4" strokeDasharray="5 3" />
      <path d={path(section.least)} className="fill-none stroke-accent" strokeWidth="1.8" />
      <path d={path(section.most)} className="fill-none stroke-under" strokeWidth="1.8" />
      {section.ticks.map((t) => (
        <line
          key={`${t.at[0]} ${t.at[1]}`}
          x1={(t.at[0] - left) * SCALE}
          y1={(high - t.at[1]) * SCALE}
          x2={(t.at[0] + TICK * t.inward[0] - left) * SCALE}
          y2={(high - t.at[1] - TICK * t.inward[1]) * SCALE}
          className="stroke-ink"
          strokeWidth="1"
        />
      ))}
    </svg>
  );
}
