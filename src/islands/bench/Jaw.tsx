import type { DisplayHeader } from '#contract/display.ts';
import type { Vec3 } from '#core/linalg/vec.ts';
import { EXCURSIONS, type Excursion, excursionShift } from '#core/occlusion/excursion.ts';
import { BENCH } from '#words/bench.ts';
import { EXCURSION_WORDS } from '#words/masters.ts';

/** Where the opposing arch is held: which way it glides, and what share of that way. */
export interface Held {
  readonly which: Excursion;
  readonly share: number;
}
export const CLOSED: Held = { which: 'protrusive', share: 0 };

/** mm by which the opposing arch is moved, in the display frame. */
export function jawShift(header: Pick<DisplayHeader, 'jaw' | 'mesialSign'>, held: Held): Vec3 | null {
  if (!header.jaw || held.share === 0) return null;
  const [x, y, z] = excursionShift(header.jaw.isUpper, held.which, held.share, header.jaw.conditions);
  return [header.mesialSign * x, y, z];
}

interface Props {
  readonly jaw: NonNullable<DisplayHeader['jaw']>;
  readonly held: Held;
  readonly onHold: (h: Held) => void;
}

/** Glides the opposing arch along an excursion, so that its clearance is seen all the way. */
export function Jaw({ jaw, held, onHold }: Props) {
  return (
    <fieldset className="panel flex flex-wrap items-center gap-x-2 gap-y-1 px-2 py-1 text-sm">
      <legend className="sr-only">{BENCH.jaw}</legend>
      <select
        className="field !w-auto !py-0.5"
        aria-label={BENCH.jawWay}
        value={held.which}
        onChange={(e) => onHold({ ...held, which: e.target.value as Excursion })}
      >
        {EXCURSIONS.map((e) => (
          <option key={e} value={e}>
            {EXCURSION_WORDS[e]}
          </option>
        ))}
      </select>
      <input
        type="range"
        min={0}
        max={1}
        step={0.05}
        aria-label={BENCH.jaw}
        aria-valuetext={BENCH.jawOpen(held.share * jaw.conditions.path_mm)}
        value={held.share}
        onChange={(e) => onHold({ ...held, share: Number(e.target.value) })}
      />
      <span className="figure w-14 text-right">{BENCH.jawOpen(held.share * jaw.conditions.path_mm)}</span>
    </fieldset>
  );
}
