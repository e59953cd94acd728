import type { RubricFile } from '#contract/rubric.ts';
import type { Concern } from '#core/score/concerns.ts';
import { concernWords, RUBRIC_WORDS } from '#words/rubric.ts';
import type { Act } from './state.ts';

interface Props {
  readonly levels: RubricFile['levels'];
  readonly concerns: readonly Concern[];
  /** Points come from the levels' shares; otherwise so many are taken off per level. */
  readonly isByShares: boolean;
  readonly disabled: boolean;
  readonly act: (a: Act) => void;
}

/** The four levels: their words, and the share of a line's points that each is worth. */
export function Levels({ levels, concerns, isByShares, disabled, act }: Props) {
  const wrong = concerns.filter((q) => q.kind === 'shares');
  return (
    <>
      {levels.map((l) => (
        <div key={l.level} className="flex items-center justify-between gap-2">
          <span className="flex-1">{RUBRIC_WORDS.level(l.level)}</span>
          <input
            className="field !w-28"
            aria-label={`${RUBRIC_WORDS.wordOf}, ${RUBRIC_WORDS.level(l.level)}`}
            disabled={disabled}
            value={l.word}
            onChange={(e) => act({ type: 'word', level: l.level, word: e.target.value })}
          />
          {isByShares && (
            <span className="flex items-center gap-1">
              <input
                className="field figure !w-20"
                type="number"
                min={0}
                max={100}
                step={5}
                aria-label={`${RUBRIC_WORDS.shareOf}, ${RUBRIC_WORDS.level(l.level)}`}
                disabled={disabled}
                value={Math.round(100 * l.share)}
                onChange={({ target: { valueAsNumber: n } }) =>
                  Number.isFinite(n) && act({ type: 'share', level: l.level, share: Math.min(100, Math.max(0, n)) / 100 })
                }
              />
              %
            </span>
          )}
        </div>
      ))}
      {wrong.map((q) => (
        <p key={q.level} className="border-l-4 border-bad pl-2">
          {concernWords(q, '')}
        </p>
      ))}
    </>
  );
}
