import { Upload } from 'lucide-react';
import { useCallback, useEffect, useMemo, useReducer, useRef, useState } from 'react';
import { call } from '#components/call.ts';
import { Ask } from '#components/dialog/Ask.tsx';
import { useToasts } from '#components/toast/Toasts.tsx';
import { useOwnWriting } from '#components/writing.ts';
import { listed, queryOf } from '#contract/tray-list.ts';
import type { FilePreview, SittingView, TrayRow } from '#contract/tray-view.ts';
import { STEPS } from '#core/catalogue/terms.ts';
import { STATE_WORDS } from '#words/states.ts';
import { TRAY } from '#words/tray.ts';
import { dayWords } from '#words/writing.ts';
import { Filters } from './Filters.tsx';
import { filesOfDrop, unpacked } from './gather.ts';
import { Notes } from './Notes.tsx';
import { Preview } from './Preview.tsx';
import { Progress } from './Progress.tsx';
import { Release } from './Release.tsx';
import { Reports } from './Reports.tsx';
import { Share } from './Share.tsx';
import { reduceTray, running, trayOpened } from './state.ts';
import { TrayTable } from './TrayTable.tsx';
import { useTray } from './useTray.ts';
import { WhoseIsIt } from './WhoseIsIt.tsx';

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
  /** The address's query: which list is shown. */
  query: string;
}

/** Files in one request. */
const AT_ONCE = 2;

export function Tray(props: Props) {
  return <Written key={useOwnWriting()} {...props} />;
}

function Written({ sitting, sittings, rows: first, students, grades, graders, me, scanner, query }: Props) {
  const { rows, coming, setComing, refresh, arrived } = useTray(sitting.id, first);
  const [tray, act] = useReducer(reduceTray, query, trayOpened);
  const [error, setError] = useState<string | null>(null);
  const [over, setOver] = useState(false);
  const [removing, setRemoving] = useState<TrayRow | null>(null);
  const { say, toasts } = useToasts();
  const input = useRef<HTMLInputElement>(null);
  const { list, chosen, panel, waiting, notes, sending } = tray;

  // The address names the list, so that it can be reloaded, sent to somebody, and gone on in on the Bench.
  const address = queryOf(list);
  useEffect(() => window.history.replaceState(null, '', `${window.location.pathname}${address}`), [address]);
  // Measured and refused scans are read out as they come.
  useEffect(() => {
    for (const r of arrived) say(TRAY.measured(r.student_name ?? r.file_name, STATE_WORDS[r.word] ?? r.word));
  }, [arrived, say]);

  /** Runs an act of the server; what it refuses is said. */
  const run = useCallback(async (work: () => Promise<unknown>): Promise<boolean> => {
    setError(null);
    try {
      await work();
      return true;
    } catch (e) {
      setError(e instanceof Error ? e.message : TRAY.notSent);
      return false;
    }
  }, []);

  /** One file that names its student goes straight in; of several one sees first which goes to whom. */
  const gather = (files: readonly File[]) =>
    run(async () => {
      if (!files.length) return;
      const own = await unpacked(files);
      const { files: says } = await call<{ files: FilePreview[] }>(`/api/sittings/${sitting.id}/preview`, {
        names: own.map((f) => f.name),
      });
      const found = own.map((file, i) => ({ file, says: says[i] }));
      if (found.length === 1 && found[0].says.student !== null) await bring([{ file: own[0], student: null }]);
      else act({ do: 'wait', files: found });
    });

  const bring = async (files: readonly { file: File; student: string | null }[]): Promise<void> => {
    act({ do: 'send', left: files.length });
    await run(async () => {
      // Few files per request, so that the server answers others in between and each batch shows at once.
      for (let i = 0; i < files.length; i += AT_ONCE) {
        const form = new FormData();
        for (const { file, student } of files.slice(i, i + AT_ONCE)) {
          form.append('scan', file);
          form.append('student', student ?? '');
        }
        const response = await fetch(`/api/sittings/${sitting.id}/scans`, { method: 'POST', body: form });
        const answer = await response.json();
        if (!response.ok) throw new Error(answer.message);
        act({ do: 'note', outcomes: answer.files });
        act({ do: 'send', left: files.length - i - AT_ONCE });
        await refresh();
      }
    });
    act({ do: 'send', left: 0 });
  };

  const steer = useCallback(
    (id: number, what: string, payload: unknown = {}) =>
      run(async () => {
        await call(`/api/scans/${id}/${what}`, payload);
        await refresh();
      }),
    [run, refresh],
  );
  const share = (to: readonly string[]) =>
    run(async () => {
      await call(`/api/sittings/${sitting.id}/graders`, { attempts: [...chosen], graders: to });
      act({ do: 'choose-all', attempts: [] });
      await refresh();
    });
  const shown = useMemo(() => listed(rows, list), [rows, list]);
  const problems = notes.filter((n) => n.outcome !== 'matched');

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
          {sitting.exercise_title}
          {sitting.minutes !== null && <span title={TRAY.stepsOf(sitting.steps.map((s) => STEPS[s]))}>, {sitting.minutes} min</span>}
        </span>
        <select
          className="field ml-auto !w-64"
          aria-label={TRAY.sitting}
          value={sitting.id}
          onChange={(e) => window.location.assign(`/tray/${e.target.value}`)}
        >
          {sittings.map((s) => (
            <option key={s.id} value={s.id}>
              {s.title}, {dayWords(s.held_on)}
            </option>
          ))}
        </select>
        {grades && (
          <button type="button" className="quiet" aria-expanded={panel === 'no-scan'} onClick={() => act({ do: 'panel', open: 'no-scan' })}>
            {TRAY.noScan}
          </button>
        )}
        {grades && (
          <button type="button" className="quiet" aria-expanded={panel === 'reports'} onClick={() => act({ do: 'panel', open: 'reports' })}>
            {TRAY.reports}
          </button>
        )}
        {scanner && (
          <button type="button" className="quiet" aria-expanded={panel === 'scanner'} onClick={() => act({ do: 'panel', open: 'scanner' })}>
            {TRAY.scanner}
          </button>
        )}
        <button type="button" className="act flex items-center gap-2" onClick={() => input.current?.click()}>
          <Upload size={16} aria-hidden /> {TRAY.bring}
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

      {panel === 'scanner' && (
        <WhoseIsIt
          question={TRAY.whoseOnScanner}
          more={TRAY.scannerMore}
          act={TRAY.scan}
          students={students}
          onChoose={(student) =>
            run(async () => {
              await call(`/api/sittings/${sitting.id}/scanner`, { student });
              setComing((n) => n + 1);
            })
          }
        >
          {TRAY.onTheWay(coming)}
        </WhoseIsIt>
      )}
      {panel === 'reports' && <Reports sitting={sitting.id} rows={rows} />}
      {panel === 'no-scan' && (
        <WhoseIsIt
          question={TRAY.whoseByHand}
          act={TRAY.openBench}
          students={students}
          onChoose={(student) =>
            run(async () => {
              const { attempt } = await call<{ attempt: number }>(`/api/sittings/${sitting.id}/attempts`, { student });
              window.location.assign(`/bench/${attempt}${address}`);
            })
          }
        />
      )}

      <div
        className={`mb-3 flex min-h-14 flex-wrap items-center justify-center gap-x-3 rounded-sm border-2 border-dashed px-3 text-soft ${over ? 'border-accent bg-wash' : 'border-[#9aa8a4]'}`}
      >
        {sending > 0 ? TRAY.sending(sending) : TRAY.drop}
      </div>

      {waiting.length > 0 && (
        <Preview
          key={waiting.length}
          waiting={waiting}
          students={students}
          onBring={(list) => void bring(list)}
          onDrop={() => act({ do: 'wait', files: [] })}
        />
      )}

      <Notes error={error} problems={problems} />
      <Progress left={running(rows) + coming} />
      <Filters rows={rows} list={list} onList={(change) => act({ do: 'list', change })} graders={graders} me={me}>
        {grades && (
          <Release
            rows={rows}
            onRelease={() =>
              run(async () => {
                const { released } = await call<{ released: number }>(`/api/sittings/${sitting.id}/release`, {});
                say(TRAY.released(released));
                await refresh();
              })
            }
          />
        )}
      </Filters>

      {chosen.size > 0 && (
        <Share
          count={chosen.size}
          graders={graders}
          onShare={(to) => void share(to)}
          onDrop={() => act({ do: 'choose-all', attempts: [] })}
        />
      )}

      <TrayTable
        rows={rows}
        shown={shown}
        list={address}
        students={students}
        grades={grades}
        steer={steer}
        onRemove={setRemoving}
        chosen={chosen}
        onChoose={(attempt) => act({ do: 'choose', attempt })}
        onChooseAll={(attempts) => act({ do: 'choose-all', attempts })}
      />
      {removing && (
        <Ask
          question={TRAY.takeOutQuestion(removing.file_name)}
          yes={TRAY.takeOut}
          no={TRAY.notYet}
          onYes={() => {
            setRemoving(null);
            void steer(removing.scan_id, 'remove').then((done) => done && say(TRAY.gone(removing.file_name)));
          }}
          onNo={() => setRemoving(null)}
        >
          {TRAY.takeOutMore}
        </Ask>
      )}
      {toasts}
    </div>
  );
}
