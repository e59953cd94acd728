import { Upload } from 'lucide-react';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { call } from '#components/call.ts';
import type { FilePreview, SittingView, TrayRow, UploadOutcome } from '#contract/tray-view.ts';
import { Filters } from './Filters.tsx';
import { filesOfDrop, unpacked } from './gather.ts';
import { Preview, type Waiting } from './Preview.tsx';
import { Share } from './Share.tsx';
import { isOf, running, type SortKey, sorted } from './state.ts';
import { TrayTable } from './TrayTable.tsx';
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
}

export function Tray({ sitting, sittings, rows: first, students, grades, graders, me, scanner }: Props) {
  const [rows, setRows] = useState(first);
  const [notes, setNotes] = useState<UploadOutcome[]>([]);
  const [error, setError] = useState<string | null>(null);
  const [waiting, setWaiting] = useState<readonly Waiting[]>([]);
  const [sending, setSending] = useState(0);
  const [filter, setFilter] = useState('all');
  const [sort, setSort] = useState<SortKey>('student');
  const [whose, setWhose] = useState('everyone');
  const [chosen, setChosen] = useState<ReadonlySet<number>>(new Set());
  const [over, setOver] = useState(false);
  const [openPanel, setOpenPanel] = useState<'no-scan' | 'scanner' | null>(null);
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
      // Few files per request, so that the server answers others in between and each batch shows at once.
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
            aria-expanded={openPanel === 'no-scan'}
            onClick={() => setOpenPanel(openPanel === 'no-scan' ? null : 'no-scan')}
          >
            Grade without a scan
          </button>
        )}
        {scanner && (
          <button
            type="button"
            className="quiet"
            aria-expanded={openPanel === 'scanner'}
            onClick={() => setOpenPanel(openPanel === 'scanner' ? null : 'scanner')}
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

      {openPanel === 'scanner' && (
        <WhoseIsIt
          question="Whose preparation lies on the simulated scanner?"
          more="It is cut as that student’s hand would, and sends its file here."
          students={students}
          onChoose={(student) =>
            call(`/api/sittings/${sitting.id}/scanner`, { student }).then(
              () => setComing((n) => n + 1),
              (x) => setError((x as Error).message),
            )
          }
        >
          {coming > 0 ? `${coming} on the way…` : ''}
        </WhoseIsIt>
      )}
      {openPanel === 'no-scan' && (
        <WhoseIsIt
          question="Whose preparation do you grade by probe, gauge and eye?"
          students={students}
          onChoose={(student) =>
            call<{ attempt: number }>(`/api/sittings/${sitting.id}/attempts`, { student }).then(
              (a) => window.location.assign(`/bench/${a.attempt}`),
              (x) => setError((x as Error).message),
            )
          }
        />
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
      {problems.length > 0 && (
        <ul className="mb-3 space-y-1" aria-label="About the files you brought">
          {problems.map((n, i) => (
            <li key={`${n.fileName}${i}`} className="border-l-4 border-under bg-panel p-2">
              {n.message}
            </li>
          ))}
        </ul>
      )}

      <Filters
        rows={rows}
        filter={filter}
        onFilter={setFilter}
        whose={whose}
        onWhose={setWhose}
        sort={sort}
        onSort={setSort}
        graders={graders}
        me={me}
      />

      {chosen.size > 0 && (
        <Share count={chosen.size} graders={graders} onShare={(to) => void share(to)} onDrop={() => setChosen(new Set())} />
      )}

      <TrayTable
        rows={rows}
        shown={shown}
        list={`${filter} ${sort} ${whose}`}
        students={students}
        grades={grades}
        act={act}
        chosen={chosen}
        onChosen={setChosen}
      />
    </div>
  );
}

/** Files in one request. */
const AT_ONCE = 2;
