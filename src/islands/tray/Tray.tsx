import { Upload } from 'lucide-react';
import { memo, useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { call } from '#components/call.ts';
import { VerdictMark } from '#components/Verdict.tsx';
import type { Brought, FilePreview, SittingView, TrayRow } from '#contract/views.ts';
import { STEPS } from '#core/catalogue/terms.ts';
import { STAGE_WORDS, STATE_WORDS } from '#words/states.ts';
import { filesOfDrop, unpacked } from './gather.ts';
import { Preview, type Waiting } from './Preview.tsx';
import { Share } from './Share.tsx';
import { StudentChoice } from './StudentChoice.tsx';
import { isOf, running, type SortKey, sorted, summary } from './state.ts';

interface Props {
  sitting: SittingView;
  sittings: SittingView[];
  rows: TrayRow[];
  students: { id: string; name: string }[];
  grades: boolean;
  /** Who may grade here, and who is signed in. */
  graders: { id: string; name: string }[];
  me: string;
  /** Whether the simulated scanner can cut this sitting's tooth. */
  scanner: boolean;
}

export function Tray({ sitting, sittings, rows: first, students, grades, graders, me, scanner }: Props) {
  const [rows, setRows] = useState(first);
  const [notes, setNotes] = useState<Brought[]>([]);
  const [error, setError] = useState<string | null>(null);
  const [waiting, setWaiting] = useState<readonly Waiting[]>([]);
  const [sending, setSending] = useState(0);
  const [filter, setFilter] = useState('all');
  const [sort, setSort] = useState<SortKey>('student');
  const [whose, setWhose] = useState('everyone');
  const [chosen, setChosen] = useState<ReadonlySet<number>>(new Set());
  const [over, setOver] = useState(false);
  const [asked, setAsked] = useState<'no-scan' | 'scanner' | null>(null);
  const [coming, setComing] = useState(0);
  const input = useRef<HTMLInputElement>(null);

  const tag = useRef<string | null>(null);
  const refresh = useCallback(async () => {
    const answer = await fetch(`/api/sittings/${sitting.id}/tray`, { headers: tag.current ? { 'If-None-Match': tag.current } : {} });
    // Nothing has changed since the last answer.
    if (answer.status === 304) return;
    const json = (await answer.json()) as { rows: TrayRow[]; coming: number; message?: string };
    if (!answer.ok) throw new Error(json.message);
    tag.current = answer.headers.get('etag');
    setRows(json.rows);
    setComing(json.coming);
  }, [sitting.id]);

  const busy = running(rows) > 0 || coming > 0;
  useEffect(() => {
    // Quick while something is being measured, slow otherwise: another scanner may be sending.
    const timer = setInterval(() => refresh().catch(() => undefined), busy ? 1000 : 8000);
    return () => clearInterval(timer);
  }, [busy, refresh]);

  /** One file that names its student goes straight in; of several one sees first which goes to whom. */
  const gather = async (files: readonly File[]) => {
    if (!files.length) return;
    setError(null);
    try {
      const list = await unpacked(files);
      const names = list.map((f) => f.name);
      const { files: says } = await call<{ files: FilePreview[] }>(`/api/sittings/${sitting.id}/preview`, { names });
      const found = list.map((file, i) => ({ file, says: says[i] }));
      if (found.length === 1 && found[0].says.student !== null) await bring([{ file: list[0], student: null }]);
      else setWaiting((w) => [...w, ...found]);
    } catch (e) {
      setError((e as Error).message);
    }
  };

  const bring = async (list: readonly { file: File; student: string | null }[]) => {
    setWaiting([]);
    setError(null);
    setSending(list.length);
    try {
      // Few at a time: the server answers others between two requests, and what was sent shows at once.
      for (let i = 0; i < list.length; i += AT_ONCE) {
        const form = new FormData();
        for (const { file, student } of list.slice(i, i + AT_ONCE)) {
          form.append('scan', file);
          form.append('student', student ?? '');
        }
        const response = await fetch(`/api/sittings/${sitting.id}/scans`, { method: 'POST', body: form });
        const answer = await response.json();
        if (!response.ok) throw new Error(answer.message);
        setNotes((n) => [...answer.files, ...n].slice(0, 200));
        setSending(list.length - i - AT_ONCE);
        await refresh();
      }
    } catch (e) {
      setError(e instanceof Error ? e.message : 'The files could not be sent. Try again.');
    } finally {
      setSending(0);
    }
  };

  const act = useCallback(
    async (id: number, what: string, payload: unknown = {}) => {
      try {
        setError(null);
        await call(`/api/scans/${id}/${what}`, payload);
        await refresh();
      } catch (e) {
        setError((e as Error).message);
      }
    },
    [refresh],
  );

  const shown = useMemo(
    () =>
      sorted(
        rows.filter((r) => (filter === 'all' || r.word === filter) && isOf(r, whose)),
        sort,
      ),
    [rows, filter, sort, whose],
  );
  const eligible = shown.flatMap((r) => (r.attempt_id === null ? [] : [r.attempt_id]));
  const choose = useCallback(
    (id: number) =>
      setChosen((now) => {
        const next = new Set(now);
        if (!next.delete(id)) next.add(id);
        return next;
      }),
    [],
  );
  const share = async (to: readonly string[]) => {
    try {
      setError(null);
      await call(`/api/sittings/${sitting.id}/graders`, { attempts: [...chosen], graders: to });
      setChosen(new Set());
      await refresh();
    } catch (e) {
      setError((e as Error).message);
    }
  };
  const counts = summary(rows);
  const { limit, more } = useGrowing(shown.length, `${filter} ${sort} ${whose}`);
  const told = notes.filter((n) => n.outcome !== 'matched');

  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the whole page takes drops; the button beside does the same by keyboard
    <div
      onDragOver={(e) => {
        e.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(e) => {
        e.preventDefault();
        setOver(false);
        void filesOfDrop(e.dataTransfer).then(gather);
      }}
    >
      <div className="mb-3 flex flex-wrap items-center gap-3">
        <h1 className="text-xl font-bold">{sitting.title}</h1>
        <span className="text-soft">
          {sitting.exercise_title}, <span className="figure">{sitting.held_on}</span>
        </span>
        <label className="ml-auto flex items-center gap-2">
          <span className="text-soft">Sitting</span>
          <select className="field !w-64" value={sitting.id} onChange={(e) => window.location.assign(`/tray/${e.target.value}`)}>
            {sittings.map((s) => (
              <option key={s.id} value={s.id}>
                {s.held_on} {s.title}
              </option>
            ))}
          </select>
        </label>
        {grades && (
          <button
            type="button"
            className="quiet"
            aria-expanded={asked === 'no-scan'}
            onClick={() => setAsked(asked === 'no-scan' ? null : 'no-scan')}
          >
            Grade without a scan
          </button>
        )}
        {scanner && (
          <button
            type="button"
            className="quiet"
            aria-expanded={asked === 'scanner'}
            onClick={() => setAsked(asked === 'scanner' ? null : 'scanner')}
          >
            Simulated scanner
          </button>
        )}
        <button type="button" className="act flex items-center gap-2" onClick={() => input.current?.click()}>
          <Upload size={16} aria-hidden /> Bring scans
        </button>
        <input
          ref={input}
          type="file"
          multiple
          hidden
          aria-label="Scan files"
          accept=".stl,.ply,.obj,.gz,.zip"
          onChange={(e) => {
            void gather([...(e.target.files ?? [])]);
            // The same file may be chosen again.
            e.target.value = '';
          }}
        />
      </div>

      {asked === 'scanner' && (
        <div className="panel mb-3 flex flex-wrap items-center gap-2 p-2">
          <span>Whose preparation lies on the simulated scanner? It is cut as that student’s hand would, and sends its file here.</span>
          <StudentChoice
            className="!w-72"
            label="Whose preparation lies on the simulated scanner?"
            students={students}
            onChoose={(student) =>
              call(`/api/sittings/${sitting.id}/scanner`, { student }).then(
                () => setComing((n) => n + 1),
                (x) => setError((x as Error).message),
              )
            }
          />
          <span aria-live="polite" className="text-soft">
            {coming > 0 ? `${coming} on the way…` : ''}
          </span>
        </div>
      )}

      {asked === 'no-scan' && (
        <div className="panel mb-3 flex items-center gap-2 p-2">
          <span>Whose preparation do you grade by probe, gauge and eye?</span>
          <StudentChoice
            className="!w-72"
            label="Whose preparation do you grade by probe, gauge and eye?"
            students={students}
            onChoose={(student) =>
              call<{ attempt: number }>(`/api/sittings/${sitting.id}/attempts`, { student }).then(
                (a) => window.location.assign(`/bench/${a.attempt}`),
                (x) => setError((x as Error).message),
              )
            }
          />
        </div>
      )}

      <div
        className={`mb-3 flex min-h-14 flex-wrap items-center justify-center gap-x-3 rounded-sm border-2 border-dashed px-3 text-soft ${over ? 'border-accent bg-wash' : 'border-[#9aa8a4]'}`}
      >
        {sending > 0
          ? `Sending, ${sending} to go…`
          : 'Drop scans or whole folders here: STL, PLY, OBJ, gzip or zip. They find their student by number (H07), bench (B2-04) or full name in the file name.'}
      </div>

      {waiting.length > 0 && (
        <Preview
          key={waiting.length}
          waiting={waiting}
          students={students}
          onBring={(list) => void bring(list)}
          onDrop={() => setWaiting([])}
        />
      )}

      {error && (
        <p role="alert" className="mb-3 border-l-4 border-bad bg-panel p-2">
          {error}
        </p>
      )}
      {told.length > 0 && (
        <ul className="mb-3 space-y-1" aria-label="About the files you brought">
          {told.map((n, i) => (
            <li key={`${n.fileName}${i}`} className="border-l-4 border-under bg-panel p-2">
              {n.message}
            </li>
          ))}
        </ul>
      )}

      <fieldset className="mb-2 flex flex-wrap items-center gap-2" aria-label="Show">
        <button type="button" className="quiet" aria-pressed={filter === 'all'} onClick={() => setFilter('all')}>
          all <span className="figure">{rows.length}</span>
        </button>
        {counts.map(([word, n]) => (
          <button
            type="button"
            key={word}
            className="quiet"
            aria-pressed={filter === word}
            onClick={() => setFilter(filter === word ? 'all' : word)}
          >
            {STATE_WORDS[word]} <span className="figure">{n}</span>
          </button>
        ))}
        <label className="ml-auto flex items-center gap-2 text-soft">
          Of
          <select className="field !w-auto" value={whose} onChange={(e) => setWhose(e.target.value)}>
            <option value="everyone">everyone</option>
            {graders.some((g) => g.id === me) && <option value={me}>mine</option>}
            <option value="nobody">given to nobody</option>
            {graders
              .filter((g) => g.id !== me)
              .map((g) => (
                <option key={g.id} value={g.id}>
                  {g.name}
                </option>
              ))}
          </select>
        </label>
        <label className="flex items-center gap-2 text-soft">
          Sort by
          <select className="field !w-auto" value={sort} onChange={(e) => setSort(e.target.value as SortKey)}>
            <option value="student">student</option>
            <option value="bench">bench</option>
            <option value="state">state</option>
            <option value="score">score</option>
          </select>
        </label>
      </fieldset>

      {chosen.size > 0 && (
        <Share count={chosen.size} graders={graders} onShare={(to) => void share(to)} onDrop={() => setChosen(new Set())} />
      )}

      <div className="panel overflow-x-auto">
        <table className="w-full text-left" aria-label="Attempts of this sitting">
          <thead>
            <tr className="border-b border-line text-soft">
              {grades && (
                <th className="w-8 pl-2 font-normal">
                  <input
                    type="checkbox"
                    className="size-4 accent-accent"
                    aria-label="Choose all that are shown"
                    checked={eligible.length > 0 && eligible.every((id) => chosen.has(id))}
                    onChange={(e) => setChosen(new Set(e.target.checked ? eligible : []))}
                  />
                </th>
              )}
              <th className="w-20 px-2 py-2 font-normal">Picture</th>
              <th className="px-2 py-2 font-normal">Student</th>
              <th className="px-2 py-2 font-normal">Grader</th>
              <th className="px-2 py-2 font-normal">State</th>
              <th className="px-2 py-2 font-normal">Verdicts</th>
              <th className="px-2 py-2 text-right font-normal">Score</th>
              <th className="px-2 py-2 font-normal">
                <span className="sr-only">What to do</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {shown.slice(0, limit).map((r) => (
              <TrayLine
                key={r.scan_id}
                row={r}
                students={students}
                grades={grades}
                act={act}
                chosen={r.attempt_id !== null && chosen.has(r.attempt_id)}
                onChoose={choose}
              />
            ))}
          </tbody>
        </table>
        {shown.length > limit && <div ref={more} className="p-2 text-center text-soft">{`${shown.length - limit} more below…`}</div>}
        {shown.length === 0 && (
          <p className="p-6 text-center text-soft">
            {rows.length === 0 ? 'Nothing has arrived for this sitting yet. Drop the first scans above.' : 'No attempt is in this state.'}
          </p>
        )}
      </div>
    </div>
  );
}

/** Files in one request. */
const AT_ONCE = 2;
/** Rows at a time: a screen holds a dozen, and a table of two thousand would take a second to draw. */
const PAGE = 40;

/** How many rows to draw: more whenever the end comes near, from the start again when the list becomes another one. */
function useGrowing(total: number, list: string) {
  const [limit, setLimit] = useState(PAGE);
  const more = useRef<HTMLDivElement>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another filter or order is another list
  useEffect(() => setLimit(PAGE), [list]);
  useEffect(() => {
    const end = more.current;
    if (!end || limit >= total) return;
    const watch = new IntersectionObserver((seen) => seen.some((e) => e.isIntersecting) && setLimit((n) => 2 * n), {
      rootMargin: '800px',
    });
    watch.observe(end);
    return () => watch.disconnect();
  }, [limit, total]);
  return { limit, more };
}

const TrayLine = memo(function TrayLine({
  row: r,
  students,
  grades,
  act,
  chosen,
  onChoose,
}: {
  row: TrayRow;
  students: Props['students'];
  grades: boolean;
  act: (id: number, what: string, payload?: unknown) => Promise<void>;
  chosen: boolean;
  onChoose: (attempt: number) => void;
}) {
  const problem = r.state === 'failed' || r.state === 'cancelled';
  return (
    <tr className="border-b border-line last:border-0 hover:bg-wash/60" data-scan={r.scan_id} data-state={r.word}>
      {grades && (
        <td className="pl-2">
          {r.attempt_id !== null && (
            <input
              type="checkbox"
              className="size-4 accent-accent"
              aria-label={`Choose ${r.student_name}`}
              checked={chosen}
              onChange={() => r.attempt_id !== null && onChoose(r.attempt_id)}
            />
          )}
        </td>
      )}
      <td className="px-2 py-1">
        {r.picture && r.attempt_id !== null ? (
          <img
            src={`/api/attempts/${r.attempt_id}/picture?v=${r.picture.slice(0, 12)}`}
            alt={`Preparation of ${r.student_name}, seen from occlusal`}
            width={72}
            height={54}
            className="rounded-sm"
          />
        ) : (
          <div className="h-[54px] w-[72px] rounded-sm bg-ground" aria-hidden />
        )}
      </td>
      <td className="px-2 py-1">
        {r.student_name ? (
          <>
            <div className="font-semibold">{r.student_name}</div>
            <div className="figure text-soft">
              {r.student_id} {r.bench}
              {(r.number ?? 1) > 1 && ` attempt ${r.number}`}
              {r.version > 1 && ` scan ${r.version}`}
              {r.step !== 'final' && <span className="font-sans"> {STEPS[r.step]}</span>}
            </div>
          </>
        ) : (
          <div>
            <div className="figure">{r.file_name}</div>
            <StudentChoice
              className="mt-1 !w-56"
              label={`Student of ${r.file_name}`}
              students={students}
              onChoose={(student) => act(r.scan_id, 'assign', { student })}
            />
          </div>
        )}
      </td>
      <td className="px-2 py-1">{r.grader_name ?? <span className="text-soft">–</span>}</td>
      <td className="max-w-[420px] px-2 py-1">
        {r.state === 'measuring' ? (
          <div>
            <div>{STAGE_WORDS[r.progress?.stage ?? ''] ?? 'measuring'}…</div>
            <progress className="h-2.5 w-40" value={r.progress?.share ?? 0} max={1} aria-label={`Progress of ${r.file_name}`} />
          </div>
        ) : (
          <div className={problem ? 'text-bad' : ''}>{STATE_WORDS[r.word] ?? r.word}</div>
        )}
        {r.fault && problem && (
          <div className="text-sm">
            <span className="figure">{r.file_name}</span>: {r.fault}
          </div>
        )}
      </td>
      <td className="px-2 py-1">
        {r.counts && (
          <span className="flex flex-wrap gap-3">
            {(['inside', 'close', 'outside'] as const).map(
              (v) =>
                r.counts &&
                r.counts[v] > 0 && (
                  <span key={v} className="flex items-center gap-1">
                    <VerdictMark verdict={v} word={false} />
                    <span className="figure">{r.counts[v]}</span>
                  </span>
                ),
            )}
            {r.critical > 0 && <VerdictMark verdict="critical" />}
          </span>
        )}
      </td>
      <td className="figure px-2 py-1 text-right text-base">
        {r.grade_total ?? <span className="text-soft">{r.total ?? (r.range ? `${r.range[0]}–${r.range[1]}` : '')}</span>}
        {r.changed && <div className="font-sans text-[12px] text-bad">changed since</div>}
        {(r.grade_total === null ? r.failures.length > 0 : r.grade_passed === false) && (
          <div className="max-w-[160px] font-sans text-[12px] text-bad">
            not passed{r.failures[0] ? `: ${r.failures[0].toLowerCase()}` : ''}
          </div>
        )}
      </td>
      <td className="px-2 py-1 text-right">
        {(r.state === 'measured' || r.state === 'no-scan') && grades && r.attempt_id !== null && (
          <a className="act inline-flex items-center" href={`/bench/${r.attempt_id}`}>
            {r.grade_total !== null ? 'Open' : r.step === 'final' ? 'Grade' : 'Look'}
          </a>
        )}
        {(r.state === 'measuring' || r.state === 'arrived') && r.attempt_id !== null && (
          <button type="button" className="quiet" onClick={() => act(r.scan_id, 'cancel')}>
            Cancel
          </button>
        )}
        {problem && (
          <span className="flex justify-end gap-2">
            {grades && r.attempt_id !== null && (
              <a className="quiet inline-flex items-center" href={`/bench/${r.attempt_id}`}>
                {r.grade_total === null ? 'Grade by hand' : 'Open'}
              </a>
            )}
            {r.fault_code?.startsWith('align.') && (
              <a className="act inline-flex items-center" href={`/align/${r.scan_id}`}>
                Align by three points
              </a>
            )}
            <button type="button" className="quiet" onClick={() => act(r.scan_id, 'retry')}>
              Try again
            </button>
          </span>
        )}
      </td>
    </tr>
  );
});
