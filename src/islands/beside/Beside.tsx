import { useMemo, useState } from 'react';
import { Section } from '#charts/Section.tsx';
import { Menu, MenuItem } from '#components/menu/Menu.tsx';
import { Problem } from '#components/Problem.tsx';
import { VerdictMark, type VerdictName } from '#components/Verdict.tsx';
import { writeAsOwn } from '#components/writing.ts';
import { DIFFERENCE, differenceColour } from '#contract/depth-ramp.ts';
import type { TrailAttempt, TrailView } from '#contract/trail-view.ts';
import type { View, ViewName } from '#viewer/Camera.tsx';
import { makeLink } from '#viewer/link.ts';
import { Scene } from '#viewer/Scene.tsx';
import { BESIDE } from '#words/beside.ts';
import { bandWords, valueWords } from '#words/readings.ts';
import { placeWords, profileIndex } from '#words/sides.ts';

import { addressOf, comparable, pairOf, sharesOf } from './state.ts';
import { type Tooth, useTwo } from './useTwo.ts';

writeAsOwn();

const VIEWS: readonly ViewName[] = ['occlusal', 'facial', 'mesial', 'lingual', 'distal'];
const SHOWN = { parts: false, master: false, opposing: false } as const;
const cutOf = (t: Tooth, at: number) =>
  [t.profiles[profileIndex(at, t.profiles.length)], t.profiles[profileIndex(at + 180, t.profiles.length)]] as const;

/** Two attempts on one tooth, turned together and cut at the same place, with what the later one changed in colours. */
export function Beside({ view, own }: { readonly view: TrailView; readonly own: boolean }) {
  const [pair, setPair] = useState(() => pairOf(view.attempts, window.location.search));
  const choose = (next: readonly [TrailAttempt, TrailAttempt]): void => {
    const ordered = pairOf(view.attempts, addressOf(next));
    setPair(ordered);
    if (ordered) window.history.replaceState(null, '', addressOf(ordered));
  };
  return (
    <div className="grid gap-3">
      <div className="flex flex-wrap items-baseline gap-3">
        <a className="text-accent underline" href={`/trail/${view.student.id}`}>
          {BESIDE.back}
        </a>
        <h1 className="text-xl font-bold">{BESIDE.title}</h1>
        {!own && <span className="text-soft">{view.student.name}</span>}
      </div>
      {pair ? (
        <Pair key={addressOf(pair)} all={comparable(view.attempts)} pair={pair} onPair={choose} />
      ) : (
        <p className="panel p-6 text-center text-soft">{BESIDE.few}</p>
      )}
    </div>
  );
}

interface PairProps {
  readonly all: readonly TrailAttempt[];
  readonly pair: readonly [TrailAttempt, TrailAttempt];
  readonly onPair: (pair: readonly [TrailAttempt, TrailAttempt]) => void;
}

function Pair({ all, pair, onPair }: PairProps) {
  const [problem, setProblem] = useState<string | null>(null);
  const two = useTwo(pair[0].attempt_id, pair[1].attempt_id, setProblem);
  const [camera, setCamera] = useState<View>({ name: 'occlusal' });
  const [cut, setCut] = useState(0);
  const [shows, setShows] = useState<'difference' | 'depth'>('difference');
  const link = useMemo(makeLink, []);
  const colours = useMemo(() => {
    const d = two?.difference;
    return d ? Float32Array.from(d.flatMap((x) => [...differenceColour(x)])) : null;
  }, [two]);
  const shares = two?.difference ? sharesOf(two.difference, DIFFERENCE.same) : null;
  const pick = (which: 0 | 1, id: string): void => {
    const chosen = all.find((a) => String(a.attempt_id) === id);
    if (!chosen) return;
    // What is of another tooth or kind is laid beside the one before it of its own.
    const other = pair[1 - which];
    const fits = chosen.tooth === other.tooth && chosen.kind === other.kind;
    onPair(fits ? (which === 0 ? [chosen, other] : [other, chosen]) : [chosen, chosen]);
  };
  return (
    <>
      <p className="text-soft">{BESIDE.lead}</p>
      <Problem text={problem && BESIDE.failed(problem)} />
      <div className="grid gap-3 min-[900px]:grid-cols-[1fr_1fr_280px]">
        {pair.map((a, i) => (
          <section key={a.attempt_id} className="panel flex min-h-0 flex-col" aria-label={i === 0 ? BESIDE.earlier : BESIDE.later}>
            <label className="flex flex-wrap items-center gap-2 border-b border-line p-2">
              <span className="font-semibold">{i === 0 ? BESIDE.earlier : BESIDE.later}</span>
              <select className="field !min-h-8 min-w-0 flex-1" value={a.attempt_id} onChange={(e) => pick(i as 0 | 1, e.target.value)}>
                {all.map((q) => (
                  <option key={q.attempt_id} value={q.attempt_id}>
                    {BESIDE.choice(q.held_on, q.exercise_title, q.total)}
                  </option>
                ))}
              </select>
            </label>
            <div className="relative h-[46vh] min-h-[260px]" data-scene>
              {two ? (
                <Scene
                  header={two.teeth[i].header}
                  meshes={two.teeth[i].meshes}
                  bands={a.bands}
                  shown={{ ...SHOWN, depth: i === 0 || shows === 'depth' || colours !== null }}
                  view={camera}
                  azimuth={cut}
                  pin={null}
                  link={link}
                  colours={i === 1 && shows === 'difference' ? colours : null}
                />
              ) : (
                !problem && <p className="grid h-full place-items-center text-soft">{BESIDE.loading}</p>
              )}
              {i === 0 && (
                <div className="absolute left-2 top-2">
                  <Menu label={BESIDE.views}>
                    {VIEWS.map((n) => (
                      <MenuItem key={n} onSelect={() => setCamera({ name: n })}>
                        {n}
                      </MenuItem>
                    ))}
                  </Menu>
                </div>
              )}
              {i === 1 && (
                <fieldset className="absolute left-2 top-2 flex gap-1">
                  <legend className="sr-only">{BESIDE.colours}</legend>
                  {(['difference', 'depth'] as const).map((k) => (
                    <button key={k} type="button" className="quiet !px-2" aria-pressed={shows === k} onClick={() => setShows(k)}>
                      {BESIDE.shows[k]}
                    </button>
                  ))}
                </fieldset>
              )}
              {i === 1 && shows === 'difference' && (
                <ul className="absolute bottom-2 left-2 rounded-sm border border-line bg-panel/95 p-2 text-[12px] leading-4">
                  {Object.values(BESIDE.legend).map((t) => (
                    <li key={t}>{t}</li>
                  ))}
                </ul>
              )}
            </div>
            <p className="border-t border-line p-2 text-[13px] text-soft" aria-live="polite">
              {i === 0
                ? BESIDE.scoreOf(a.total, a.passed)
                : `${BESIDE.scoreOf(a.total, a.passed)}. ${shares ? BESIDE.summary(shares.more, shares.less) : two && !problem ? BESIDE.comparing : ''}`}
            </p>
          </section>
        ))}
        <section className="panel flex flex-col" aria-label={BESIDE.section}>
          <h2 className="flex justify-between border-b border-line p-2 font-semibold">
            {BESIDE.section}
            <span className="figure text-[12px] font-normal text-soft">
              {placeWords(cut)} {Math.round(cut)}°
            </span>
          </h2>
          <div className="min-h-[300px] flex-1 p-1">
            {two && (
              <Section
                near={cutOf(two.teeth[1], cut)[0]}
                far={cutOf(two.teeth[1], cut)[1]}
                earlier={cutOf(two.teeth[0], cut)}
                names={[placeWords(cut), placeWords(cut + 180)]}
                dimensions={false}
                onTurn={(by) => setCut((c) => (c + by + 360) % 360)}
              />
            )}
          </div>
          <input
            type="range"
            className="mx-2"
            min={0}
            max={355}
            step={5}
            value={cut}
            aria-label={BESIDE.section}
            onChange={(e) => setCut(e.target.valueAsNumber)}
          />
          <p className="px-2 pb-2 text-[12px] text-soft">{BESIDE.sectionLegend}</p>
        </section>
      </div>
      <Read pair={pair} />
    </>
  );
}

/** Line by line what was read on both. */
function Read({ pair: [earlier, later] }: Pick<PairProps, 'pair'>) {
  const lines = later.record.criteria.map((c) => ({ now: c, before: earlier.record.criteria.find((q) => q.id === c.id) }));
  return (
    <section className="panel overflow-x-auto p-3" aria-label={BESIDE.criteria}>
      <table className="w-full text-left">
        <thead>
          <tr className="text-soft">
            {BESIDE.columns.map((c) => (
              <th key={c} className="font-normal">
                {c}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {lines.map(({ now, before }) => (
            <tr key={now.id} className="border-t border-line">
              <td className="py-1">{now.title}</td>
              {[before, now].map((c, i) => (
                <td key={i === 0 ? 'before' : 'now'} className="figure">
                  {c ? (
                    <>
                      <VerdictMark verdict={c.verdict as VerdictName} word={false} />{' '}
                      {c.value === null ? '–' : valueWords(c.value, c.U, c.unit ?? 'mm')}
                    </>
                  ) : (
                    '–'
                  )}
                </td>
              ))}
              <td className="figure text-soft">{now.unit ? bandWords(now.lo, now.hi, now.unit) : ''}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
