import { Strip } from '#charts/Strip.tsx';
import { BandEnds } from '#components/form/BandEnds.tsx';
import type { RubricFile } from '#contract/rubric.ts';
import type { Past } from '#contract/rubric-view.ts';
import { findEntry, unitOf } from '#core/catalogue/catalogue.ts';
import { type Concern, isGrave, placeKey } from '#core/score/concerns.ts';
import { IF_NOT_READ, type IfNotRead } from '#core/score/rubric.ts';
import { readingWords, unitWords } from '#words/readings.ts';
import { concernWords, RUBRIC_WORDS } from '#words/rubric.ts';
import { PickReading } from './PickReading.tsx';
import type { Act, BandName, End } from './state.ts';

interface Props {
  readonly criterion: RubricFile['criteria'][number];
  readonly share: string;
  /** What past attempts read, by place. */
  readonly past: ReadonlyMap<string, Past>;
  readonly concerns: readonly Concern[];
  readonly mayKeep: boolean;
  readonly act: (a: Act) => void;
}

/** One line of a rubric: its weight, and each of its readings with its bands over what past attempts read. */
export function Criterion({ criterion: c, share, past, concerns, mayKeep, act }: Props) {
  return (
    <div className="grid gap-2 border-t border-line py-3 first:border-0 first:pt-0">
      <div className="flex items-baseline gap-3">
        <h2 className="flex-1 font-semibold">{c.title}</h2>
        {mayKeep && (
          <button
            type="button"
            className="quiet !min-h-7"
            aria-label={`${RUBRIC_WORDS.remove}, ${c.title}`}
            onClick={() => act({ type: 'remove-line', criterion: c.id })}
          >
            {RUBRIC_WORDS.remove}
          </button>
        )}
        <label className="flex items-baseline gap-2 text-soft">
          <span className="figure">{share}</span> {RUBRIC_WORDS.weight}
          <input
            className="field figure !w-20"
            type="number"
            min={0}
            max={100}
            step={1}
            disabled={!mayKeep}
            aria-label={`${RUBRIC_WORDS.weight}, ${c.title}`}
            value={c.weight}
            onChange={(e) => act({ type: 'weight', criterion: c.id, weight: Math.max(0, e.target.valueAsNumber || 0) })}
          />
        </label>
      </div>
      {c.asks && (
        <p className="text-soft">
          {RUBRIC_WORDS.asks(
            c.asks.question,
            c.asks.words.map((w) => w.word),
          )}
        </p>
      )}
      {c.targets.map((t, i) => {
        const own = past.get(placeKey(t));
        const name = readingWords(t.reading, t.zone, t.stat);
        const unit = unitWords(unitOf(t.reading, t.stat));
        const wrong = concerns.filter((q) => 'target' in q && q.target === i);
        return (
          <div key={`${placeKey(t)}|${i}`} className="grid gap-1 pl-3">
            <div className="flex flex-wrap items-center gap-3">
              <span className="min-w-52 flex-1">{name}</span>
              {mayKeep && c.targets.length > 1 && (
                <button
                  type="button"
                  className="quiet !min-h-7"
                  aria-label={`${RUBRIC_WORDS.remove}, ${name}`}
                  onClick={() => act({ type: 'remove-target', criterion: c.id, target: i })}
                >
                  {RUBRIC_WORDS.remove}
                </button>
              )}
              <Strip
                values={own?.values ?? []}
                bands={[t.band, t.fair, t.poor]}
                label={RUBRIC_WORDS.distribution(name, own?.values ?? [], t.band, unit)}
              />
            </div>
            <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
              {(['band', 'fair', 'poor'] as const).map((b) => (
                <Ends
                  key={b}
                  name={b}
                  target={t}
                  label={`${name}, ${RUBRIC_WORDS.bands[b]}`}
                  disabled={!mayKeep}
                  onEnd={(end, value) => act({ type: 'end', criterion: c.id, target: i, band: b, end, value })}
                />
              ))}
              <span className="text-soft">{unit}</span>
            </div>
            <Evidence
              target={t}
              name={name}
              disabled={!mayKeep}
              onEvidence={(evidence) => act({ type: 'evidence', criterion: c.id, target: i, evidence })}
              onIfNotRead={(ifNotRead) => act({ type: 'if-not-read', criterion: c.id, target: i, ifNotRead })}
            />
            {wrong.map((q) => (
              <p key={q.kind} className={`border-l-4 pl-2 ${isGrave(q) ? 'border-bad' : 'border-under'}`}>
                {concernWords(q, unit)}
              </p>
            ))}
          </div>
        );
      })}
      {mayKeep && !c.asks && (
        <details className="pl-3">
          <summary className="cursor-pointer text-soft">{RUBRIC_WORDS.addReading}</summary>
          <PickReading
            label={`${RUBRIC_WORDS.addReading}, ${c.title}`}
            onPick={(place) => act({ type: 'add-target', criterion: c.id, place })}
          />
        </details>
      )}
    </div>
  );
}

interface EvidenceProps {
  readonly target: RubricFile['criteria'][number]['targets'][number];
  readonly name: string;
  readonly disabled: boolean;
  readonly onEvidence: (evidence: 'hand' | undefined) => void;
  readonly onIfNotRead: (ifNotRead: IfNotRead) => void;
}

/** What a reading may rest on, and what follows where it cannot be given. */
function Evidence({ target: t, name, disabled, onEvidence, onIfNotRead }: EvidenceProps) {
  const canBeByHand = (findEntry(t.reading)?.hand.length ?? 0) > 0;
  return (
    <div className="flex flex-wrap items-center gap-x-4 gap-y-1 text-soft">
      {canBeByHand && (
        <label className="flex items-center gap-1">
          {RUBRIC_WORDS.counts}
          <select
            className="field !min-h-8 !w-auto"
            aria-label={`${RUBRIC_WORDS.counts}, ${name}`}
            disabled={disabled}
            value={t.evidence ?? 'any'}
            onChange={({ target: { value } }) => onEvidence(value === 'hand' ? 'hand' : undefined)}
          >
            {(['any', 'hand'] as const).map((k) => (
              <option key={k} value={k}>
                {RUBRIC_WORDS.evidence[k]}
              </option>
            ))}
          </select>
        </label>
      )}
      <label className="flex items-center gap-1">
        {RUBRIC_WORDS.whenNotRead}
        <select
          className="field !min-h-8 !w-auto"
          aria-label={`${RUBRIC_WORDS.whenNotRead}, ${name}`}
          disabled={disabled}
          value={t.ifNotRead ?? 'ask'}
          onChange={({ target: { value } }) => onIfNotRead(value as IfNotRead)}
        >
          {IF_NOT_READ.map((k) => (
            <option key={k} value={k}>
              {RUBRIC_WORDS.ifNotRead[k]}
            </option>
          ))}
        </select>
      </label>
    </div>
  );
}

type EndAct = Extract<Act, { type: 'end' }>;
function Ends({
  name,
  target,
  label,
  disabled,
  onEnd,
}: {
  name: BandName;
  target: RubricFile['criteria'][number]['targets'][number];
  label: string;
  disabled: boolean;
  onEnd: (end: End, value: EndAct['value']) => void;
}) {
  const b = target[name];
  return (
    <fieldset className="flex items-center gap-1">
      <legend className="sr-only">{label}</legend>
      <span className="text-soft">{RUBRIC_WORDS.bands[name]}</span>
      <BandEnds
        band={b}
        disabled={disabled}
        open={RUBRIC_WORDS.open}
        label={(end) => `${label}, ${RUBRIC_WORDS.ends[end]}`}
        onEnd={onEnd}
      />
    </fieldset>
  );
}
