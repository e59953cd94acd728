import { Glide } from '#components/Glide.tsx';
import type { DraftView, Occlusion } from '#contract/master-draft.ts';
import { type Conditions, type Glided, USUAL_CONDITIONS } from '#core/occlusion/excursion.ts';
import { MASTERS, occlusionWords } from '#words/masters.ts';

interface Props {
  readonly draft: DraftView;
  readonly finished: boolean;
  readonly busy: boolean;
  readonly moved: Glided;
  readonly conditions: Conditions | null;
  /** mm by which the jaws overlap at the most where they stand now; null until it is known. */
  readonly overlap: number | null;
  readonly onMove: (m: Glided) => void;
  readonly onConditions: (c: Conditions) => void;
  readonly onPlace: (by: Occlusion['by'], settle: boolean) => void;
  readonly onPoints: () => void;
}

/** How the jaws stand against each other: brought together, settled, and tried along the lower jaw's ways. */
export function Bite({ draft, finished, busy, moved, conditions, overlap, onMove, onConditions, onPlace, onPoints }: Props) {
  const o = draft.occlusion;
  const c = conditions ?? USUAL_CONDITIONS;
  if (!draft.opposing_name)
    return (
      <section className="panel p-3" aria-label={MASTERS.bite}>
        <p>{MASTERS.noOpposing}</p>
      </section>
    );
  const figure = (key: keyof Conditions, word: string, min: number, max: number, step: number) => (
    <label className="grid gap-1">
      {word}
      <input
        className="field figure"
        type="number"
        min={min}
        max={max}
        step={step}
        disabled={finished}
        value={c[key]}
        onChange={(e) => {
          const value = e.target.valueAsNumber;
          if (value >= min && value <= max) onConditions({ ...c, [key]: value });
        }}
      />
    </label>
  );
  return (
    <>
      <section className="panel grid gap-2 p-3" aria-label={MASTERS.bite}>
        <p aria-live="polite">{o ? occlusionWords(o) : MASTERS.notPlaced}</p>
        {o?.isRocking && <p className="border-l-4 border-under pl-2">{MASTERS.rocking}</p>}
        {!finished && (
          <div className="flex flex-wrap gap-2">
            <button type="button" className="quiet" disabled={busy} onClick={() => onPlace('file', false)}>
              {MASTERS.asInFile}
            </button>
            {draft.bite_name && (
              <button type="button" className="quiet" disabled={busy} onClick={() => onPlace('bite', true)}>
                {MASTERS.byBite}
              </button>
            )}
            <button type="button" className="quiet" disabled={busy || !o} onClick={onPoints}>
              {MASTERS.byPoints}
            </button>
            {o && !o.settled && o.by !== 'points' && (
              <button type="button" className="act" disabled={busy} onClick={() => onPlace(o.by, true)}>
                {MASTERS.settle}
              </button>
            )}
          </div>
        )}
      </section>
      {o && (
        <section className="panel grid gap-2 p-3" aria-label={MASTERS.excursions}>
          <Glide glided={moved} path_mm={c.path_mm} onGlide={onMove} />
          <p aria-live="polite">{overlap === null ? MASTERS.measuringGaps : MASTERS.overlap(overlap)}</p>
          <div className="grid grid-cols-3 gap-2">
            {figure('path_mm', MASTERS.path, 0.5, 6, 0.5)}
            {figure('condylar_deg', MASTERS.condylar, 0, 70, 1)}
            {figure('bennett_deg', MASTERS.bennett, 0, 30, 1)}
          </div>
        </section>
      )}
    </>
  );
}
