import type { DraftView } from '#contract/master-draft.ts';
import { needsOf } from '#core/annotate/needs.ts';
import { ITEM_WORDS, MASTERS, NEED_WORDS, PART_WORDS, TRUST_WORDS } from '#words/masters.ts';
import { toothWords } from '#words/writing.ts';
import { type Act, ITEMS, type MarkPoint, type State } from './state.ts';

interface Props {
  readonly draft: DraftView;
  readonly state: State;
  readonly act: (a: Act) => void;
  readonly points: readonly MarkPoint[];
  readonly parts: Uint8Array;
  readonly finished: boolean;
  readonly others: readonly { readonly id: string; readonly name: string; readonly tooth: string }[];
  readonly busy: boolean;
  readonly isDrawingCej: boolean;
  readonly onAxis: () => void;
  readonly onRetouch: () => void;
  readonly onCarry: (from: string) => void;
  readonly onCej: () => void;
}

const LOOK = { sure: 'text-good', look: 'text-under', ask: 'text-bad font-semibold' } as const;

/** What a master needs, how far each was found by itself, and the tools to correct the one in focus. */
export function Checklist(props: Props) {
  const { draft, state, act, points, parts, finished, onAxis, onRetouch } = props;
  const { drawn, item, brush } = state;
  const asked = ITEMS.filter((i) => drawn.trust[i] === 'ask');
  const needs = needsOf({
    parts,
    landmarks: drawn.marks,
    opposing: draft.opposing_name !== null,
    inner: Object.fromEntries(draft.inner.map((k) => [k, true])),
  });
  return (
    <>
      <section className="panel p-3" aria-label="Checklist">
        <ul className="grid">
          {ITEMS.map((i) => (
            <li key={i}>
              <button
                type="button"
                className="flex min-h-9 w-full items-center justify-between rounded-sm border border-transparent px-2 text-left hover:border-accent aria-[current]:border-accent aria-[current]:bg-wash"
                aria-current={item === i ? 'true' : undefined}
                onClick={() => act({ type: 'item', item: i })}
              >
                <span>{ITEM_WORDS[i]}</span>
                <span className={LOOK[drawn.trust[i]]}>{TRUST_WORDS[drawn.trust[i]]}</span>
              </button>
            </li>
          ))}
        </ul>
        {asked.length > 0 && (
          <p className="mt-2 border-l-4 border-bad pl-2">{MASTERS.askFirst(asked.map((i) => ITEM_WORDS[i].toLowerCase()).join(', '))}</p>
        )}
        {!finished && (
          <div className="mt-2 flex flex-wrap gap-2 border-t border-line pt-2">
            <button type="button" className="act" disabled={drawn.trust[item] === 'sure'} onClick={() => act({ type: 'right', item })}>
              {MASTERS.right}
            </button>
            <button type="button" className="quiet" disabled={state.past.length === 0} onClick={() => act({ type: 'undo' })}>
              {MASTERS.undo}
            </button>
            <button type="button" className="quiet" disabled={state.future.length === 0} onClick={() => act({ type: 'redo' })}>
              {MASTERS.redo}
            </button>
            <button type="button" className="quiet" onClick={onRetouch}>
              {MASTERS.again}
            </button>
          </div>
        )}
      </section>
      {!finished && (
        <section className="panel p-3" aria-label={ITEM_WORDS[item]}>
          {item === 'parts' && (
            <div className="flex flex-wrap items-end gap-2">
              <label className="grid gap-1">
                {MASTERS.paint}
                <select
                  className="field"
                  value={brush?.part ?? ''}
                  onChange={(e) =>
                    act({
                      type: 'brush',
                      brush: e.target.value === '' ? null : { part: Number(e.target.value), radius: brush?.radius ?? 0.8 },
                    })
                  }
                >
                  <option value="">{MASTERS.stop}</option>
                  {PART_WORDS.map((w, i) => (
                    <option key={w} value={i}>
                      {w}
                    </option>
                  ))}
                </select>
              </label>
              <label className="grid gap-1">
                {MASTERS.brush}
                <input
                  className="field figure !w-24"
                  type="number"
                  min={0.2}
                  max={3}
                  step={0.1}
                  value={brush?.radius ?? 0.8}
                  onChange={(e) =>
                    act({
                      type: 'brush',
                      brush: { part: brush?.part ?? 1, radius: Math.min(3, Math.max(0.2, Number(e.target.value) || 0.8)) },
                    })
                  }
                />
              </label>
            </div>
          )}
          {item === 'axis' && (
            <button type="button" className="quiet" onClick={onAxis}>
              {MASTERS.axisView}
            </button>
          )}
          {item === 'mesial' && (
            <div className="flex flex-wrap gap-2">
              <button type="button" className="quiet" onClick={() => act({ type: 'turn', degrees: 1 })}>
                {MASTERS.turn} ↺
              </button>
              <button type="button" className="quiet" onClick={() => act({ type: 'turn', degrees: -1 })}>
                {MASTERS.turn} ↻
              </button>
              <button type="button" className="quiet" onClick={() => act({ type: 'turn', degrees: 180 })}>
                {MASTERS.about}
              </button>
            </div>
          )}
          {points.length > 0 && (
            <>
              <p className="mb-1 text-soft">{MASTERS.move}</p>
              <ul className="grid max-h-48 grid-cols-1 overflow-y-auto">
                {points.map((p) => (
                  <li key={p.key}>
                    <button
                      type="button"
                      className="min-h-8 w-full rounded-sm px-2 text-left hover:bg-wash aria-pressed:bg-wash aria-pressed:font-semibold"
                      aria-pressed={state.point === p.key}
                      onClick={() => act({ type: 'point', key: p.key })}
                    >
                      {p.label}
                    </button>
                  </li>
                ))}
              </ul>
            </>
          )}
        </section>
      )}
      {!finished && <Further {...props} />}
      <details className="panel p-3">
        <summary className="cursor-pointer font-semibold">{MASTERS.gives}</summary>
        <ul className="mt-2 grid gap-1">
          {needs.map((n) => (
            <li key={n.need} className="flex justify-between gap-2">
              <span>{NEED_WORDS[n.need]}</span>
              <span className={n.has ? 'text-good' : 'text-under'}>{n.has ? 'there' : MASTERS.lacks(n.readings.length)}</span>
            </li>
          ))}
        </ul>
        <h3 className="mt-3 font-semibold">{MASTERS.found}</h3>
        <ul className="mt-1 flex flex-wrap gap-x-4">
          {draft.teeth.map((t) => (
            <li key={t.tooth} className="figure">
              {toothWords(t.tooth)}: {t.rms.toFixed(2)} mm
            </li>
          ))}
        </ul>
      </details>
    </>
  );
}

/** Marks from another master, and the junction that only some teeth show. */
function Further({ state, act, others, busy, isDrawingCej, onCarry, onCej }: Props) {
  const cej = state.drawn.marks.cej ?? [];
  return (
    <section className="panel grid gap-2 p-3" aria-label={MASTERS.further}>
      {others.length > 0 && (
        <label className="grid gap-1">
          {MASTERS.carry}
          <select className="field" value="" disabled={busy} onChange={(e) => e.target.value && onCarry(e.target.value)}>
            <option value="">{MASTERS.carryChoose}</option>
            {others.map((o) => (
              <option key={o.id} value={o.id}>
                {o.name} ({toothWords(o.tooth)})
              </option>
            ))}
          </select>
        </label>
      )}
      <div className="flex flex-wrap items-center gap-2">
        <span className="flex-1">
          {MASTERS.cej}
          {cej.length > 0 && <span className="figure text-soft"> {cej.length}</span>}
        </span>
        <button type="button" className="quiet" aria-pressed={isDrawingCej} onClick={onCej}>
          {isDrawingCej ? MASTERS.cejStop : MASTERS.cejDraw}
        </button>
        {cej.length > 0 && (
          <button type="button" className="quiet" onClick={() => act({ type: 'cej', line: [] })}>
            {MASTERS.cejClear}
          </button>
        )}
      </div>
    </section>
  );
}
