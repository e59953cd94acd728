import type { RubricFile } from '#contract/rubric.ts';
import { RUBRIC_WORDS } from '#words/rubric.ts';

export type Effect = RubricFile['critical'][number]['effect'];

const KINDS = ['fail', 'cap', 'deduct', 'off'] as const;

/** What an effect begins with when it is chosen: just failed, and a fifth of the whole. */
const FIRST: Readonly<Record<(typeof KINDS)[number], Effect | null>> = {
  fail: { kind: 'fail' },
  cap: { kind: 'cap', at: 59 },
  deduct: { kind: 'deduct', points: 20 },
  off: null,
};

interface Props {
  readonly title: string;
  readonly effect: Effect;
  readonly disabled: boolean;
  /** Null: the critical error is switched off. */
  readonly onEffect: (e: Effect | null) => void;
}

/** What a critical error does to the mark. */
export function EffectChoice({ title, effect, disabled, onEffect }: Props) {
  return (
    <>
      <select
        className="field !min-h-8 !w-auto"
        aria-label={`${RUBRIC_WORDS.effectOf}, ${title}`}
        disabled={disabled}
        value={effect.kind}
        onChange={({ target }) => onEffect(FIRST[target.value as keyof typeof FIRST])}
      >
        {KINDS.map((k) => (
          <option key={k} value={k}>
            {RUBRIC_WORDS.effects[k]}
          </option>
        ))}
      </select>
      {effect.kind !== 'fail' && (
        <input
          className="field figure !min-h-8 !w-20"
          type="number"
          min={0}
          max={100}
          disabled={disabled}
          aria-label={`${RUBRIC_WORDS.points}, ${title}`}
          value={effect.kind === 'cap' ? effect.at : effect.points}
          onChange={({ target: { valueAsNumber: n } }) =>
            Number.isFinite(n) && onEffect(effect.kind === 'cap' ? { kind: 'cap', at: n } : { kind: 'deduct', points: n })
          }
        />
      )}
    </>
  );
}
