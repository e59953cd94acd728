import { useMemo, useState } from 'react';
import { VerdictMark, type VerdictName } from '#components/Verdict.tsx';
import type { AttemptReport, ReportLine } from '#contract/report.ts';
import type { WorkView } from '#contract/work.ts';
import type { View } from '#viewer/Camera.tsx';
import { PROGRESS } from '#words/progress.ts';
import { handWords, sentence, unitWords, valueWords, wantedWords } from '#words/readings.ts';
import { WORK } from '#words/work.ts';
import { dayWords } from '#words/writing.ts';
import { repairWords } from '../bench/repair.ts';
import { Own } from './Own.tsx';
import { type Finding, findingsOf, goodOf, marksOf } from './state.ts';

/** What can be had of a result; the last three only where it was scanned. */
const FILES = ['pdf', 'csv', 'json', 'ply', 'glb', 'section-svg'] as const;

interface Props {
  readonly view: WorkView & { readonly result: NonNullable<WorkView['result']>; readonly report: AttemptReport };
}

/** A released result as its student reads it: passed or not and why, critical errors, then what cost marks and what to do about it. What it says is the report's; the view adds the places. */
export function Result({ view }: Props) {
  const { score } = view.result;
  const { grade, critical, lines } = view.report;
  const [open, setOpen] = useState<string | null>(null);
  const [camera, setCamera] = useState<View>({ name: 'occlusal' });
  const findings = useMemo(() => findingsOf(score), [score]);
  const marks = useMemo(() => marksOf(findings, open), [findings, open]);
  const made = critical.filter((c) => c.made);
  const lineOf = (id: string): ReportLine => lines.find((l) => l.id === id) as ReportLine;
  const look = (f: { azimuth: number | null; reading?: string }): void => {
    const beside = f.reading?.startsWith('neighbour.') ? (f.reading.split('.')[1] as 'mesial' | 'distal') : null;
    if (beside) setCamera({ across: beside });
    else if (f.azimuth !== null) setCamera({ azimuth: f.azimuth });
  };
  const focus = (f: Finding): void => {
    const next = open === f.criterion.id ? null : f.criterion.id;
    setOpen(next);
    const at = f.criterion.targets.find((t) => t.deciding) ?? f.criterion.targets[0];
    if (next && at) look({ azimuth: at.azimuth, reading: at.reading });
  };
  return (
    <div className="grid items-start gap-3 min-[900px]:grid-cols-[1fr_1fr]">
      <div className="grid gap-3 min-[900px]:sticky min-[900px]:top-2">
        <section className="panel p-3">
          <p className={`text-lg font-bold ${grade.passed ? 'text-good' : 'text-bad'}`}>
            {grade.passed ? WORK.passed : WORK.notPassed(grade.failures)}
          </p>
          <p>
            <span className="figure text-base">{grade.total === null ? WORK.noPoints : WORK.points(grade.total)}</span>{' '}
            <span className="text-soft">{WORK.gradedBy(grade.grader)}</span>
          </p>
        </section>
        {made.length > 0 && (
          <section className="panel border-l-4 border-bad p-3" aria-label={WORK.critical}>
            <h2 className="font-bold">{WORK.critical}</h2>
            <ul>
              {made.map((c) => (
                <li key={c.id} className="flex flex-wrap items-center gap-2 border-t border-line py-1.5 first:border-0">
                  <span className="flex-1">
                    <VerdictMark verdict="critical" word={false} /> <strong>{c.title}</strong>{' '}
                    {c.value !== null && <span className="figure text-soft">{valueWords(c.value, c.U, c.unit)}</span>}
                    <span className="block text-soft">{c.effect}</span>
                  </span>
                  {view.result.measurement && (
                    <button
                      type="button"
                      className="quiet !min-h-11"
                      onClick={() => {
                        const at = score.critical.find((q) => q.id === c.id);
                        if (at) look(at);
                      }}
                    >
                      {WORK.show}
                    </button>
                  )}
                </li>
              ))}
            </ul>
          </section>
        )}
        <Own view={view.result} marks={marks} camera={camera} onCamera={setCamera} />
      </div>
      <div className="grid gap-3">
        <section className="panel p-3" aria-label={WORK.cost}>
          <h2 className="font-bold">{WORK.cost}</h2>
          {findings.length === 0 && <p>{WORK.costNothing}</p>}
          <ol>
            {findings.map((f) => (
              <Line
                key={f.criterion.id}
                finding={f}
                line={lineOf(f.criterion.id)}
                view={view}
                open={open === f.criterion.id}
                onOpen={() => focus(f)}
              />
            ))}
          </ol>
        </section>
        <section className="panel p-3">
          <details>
            <summary className="cursor-pointer font-bold">{WORK.good(goodOf(score).length)}</summary>
            <ul>
              {goodOf(score).map((c) => (
                <li key={c.id} className="border-t border-line py-1.5">
                  {c.title} <Value line={lineOf(c.id)} />
                  {c.comment && <p className="border-l-2 border-accent pl-2">{c.comment}</p>}
                </li>
              ))}
            </ul>
          </details>
        </section>
        <section className="panel flex flex-wrap gap-x-4 gap-y-1 p-3" aria-label={WORK.downloads}>
          {FILES.filter((k) => k === 'pdf' || k === 'csv' || k === 'json' || view.result.measurement).map((k) => (
            <a key={k} className="text-accent underline" href={`/api/attempts/${view.attempt.id}/report?as=${k}`}>
              {WORK.files[k]}
            </a>
          ))}
        </section>
      </div>
    </div>
  );
}

const decidingOf = (l: ReportLine) => l.readings.find((r) => r.isDeciding) ?? l.readings[0];

/** What decided a line, with its target. */
function Value({ line }: { readonly line: ReportLine }) {
  const t = decidingOf(line);
  if (!t) return null;
  return (
    <span className="figure text-soft">
      {t.byHand ? handWords(...t.byHand, t.unit) : valueWords(t.value, t.U, t.unit, t.reason)}, {WORK.target(wantedWords(t))}
    </span>
  );
}

interface LineProps {
  readonly finding: Finding;
  readonly line: ReportLine;
  readonly view: Props['view'];
  readonly open: boolean;
  readonly onOpen: () => void;
}

function Line({ finding: { number, criterion: c, lost }, line, view, open, onOpen }: LineProps) {
  const words = view.questions.find((q) => q.id === c.id)?.words ?? view.result.score.levels;
  const t = decidingOf(line);
  const { own } = line;
  const drill = view.drills[c.id];
  const planned = view.practice.find((p) => p.reading !== null && p.reading === t?.reading);
  const repair = c.targets.find((q) => q.repair)?.repair;
  return (
    <li className="border-t border-line first:border-0">
      <button
        type="button"
        className="flex w-full items-start gap-2 py-2 text-left"
        aria-expanded={open}
        onClick={onOpen}
        data-finding={c.id}
      >
        <span className="figure grid h-6 w-6 shrink-0 place-items-center rounded-full bg-[#4d5b63] text-white">{number}</span>
        <span className="flex-1">
          <span className="font-semibold">{c.title}</span>
          <span className="block">
            <VerdictMark verdict={c.verdict as VerdictName} word={false} /> {line.word || '–'} <Value line={line} />
          </span>
        </span>
        <span className="figure text-bad">{WORK.lost(lost, c.of)}</span>
      </button>
      {open && (
        <div className="grid gap-1 pb-3 pl-8">
          {t && <p className="text-soft">{sentence(t.words)}</p>}
          <p>{sentence(line.why)}</p>
          {line.reason && <p className="border-l-2 border-accent pl-2">{line.reason}</p>}
          {line.comment && <p className="border-l-2 border-accent pl-2 italic">{line.comment}</p>}
          {own && own.level !== null && <p className="text-soft">{WORK.youGave(words.find((w) => w.level === own.level)?.word ?? '–')}</p>}
          {own && own.figure !== null && t && <p className="text-soft">{WORK.youRead(`${own.figure} ${unitWords(t.unit)}`)}</p>}
          {repair && t && (
            <p>
              <span className="text-soft">{WORK.takes}:</span> {repairWords(repair, t.unit)}
            </p>
          )}
          {(drill || planned) && (
            <div className="rounded-sm border border-line p-2">
              <h3 className="font-semibold">{WORK.next}</h3>
              {drill && (
                <>
                  <p>{PROGRESS.drill(drill.title, drill.times)}</p>
                  <p className="text-soft">{drill.body}</p>
                  <p>
                    <span className="text-soft">{WORK.check}:</span> {drill.check}
                  </p>
                </>
              )}
              {planned && <p>{WORK.due(dayWords(planned.on, 'long'))}</p>}
            </div>
          )}
        </div>
      )}
    </li>
  );
}
