import type { RubricFile } from '#contract/rubric.ts';
import { RUBRIC_WORDS } from '#words/rubric.ts';
import type { Act } from './state.ts';

interface Props {
  readonly errors: RubricFile['critical'];
  readonly disabled: boolean;
  readonly act: (a: Act) => void;
}

/** What fails, caps or costs points whatever the rest is; each can be switched to another effect, or off. */
export function Critical({ errors, disabled, act }: Props) {
  return (
    <section className="grid gap-1 border-t border-line pt-3" aria-label={RUBRIC_WORDS.critical}>
      <h2 className="font-semibold">{RUBRIC_WORDS.critical}</h2>
      {errors.length === 0 && <p className="text-soft">{RUBRIC_WORDS.noCritical}</p>}
      <ul className="grid gap-1">
        {errors.map((e) => (
          <li key={e.id} className="flex flex-wrap items-center gap-2">
            <span className="flex-1">{e.title}</span>
            <select
              className="field !min-h-8 !w-auto"
              aria-label={`${RUBRIC_WORDS.effectOf}, ${e.title}`}
              disabled={disabled}
              value={e.effect.kind}
              onChange={({ target: { value } }) =>
                act({
                  type: 'effect',
                  error: e.id,
                  effect:
                    value === 'off'
                      ? null
                      : value === 'cap'
                        ? { kind: 'cap', at: 59 }
                        : value === 'deduct'
                          ? { kind: 'deduct', points: 20 }
                          : { kind: 'fail' },
                })
              }
            >
              {(['fail', 'cap', 'deduct', 'off'] as const).map((k) => (
                <option key={k} value={k}>
                  {RUBRIC_WORDS.effects[k]}
                </option>
              ))}
            </select>
            {e.effect.kind !== 'fail' && (
              <input
                className="field figure !min-h-8 !w-20"
                type="number"
                min={0}
                max={100}
                disabled={disabled}
                aria-label={`${RUBRIC_WORDS.points}, ${e.title}`}
                value={e.effect.kind === 'cap' ? e.effect.at : e.effect.points}
                onChange={({ target: { valueAsNumber: n } }) =>
                  Number.isFinite(n) &&
                  act({
                    type: 'effect',
                    error: e.id,
                    effect: e.effect.kind === 'cap' ? { kind: 'cap', at: n } : { kind: 'deduct', points: n },
                  })
                }
              />
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
