import { unzipSync } from 'fflate';
import Papa from 'papaparse';
import { useState } from 'react';
import { call } from '#components/call.ts';
import { Problem } from '#components/Problem.tsx';
import { classesOf, classLines, ROSTER_TABLES, type RosterTables } from '#contract/one-roster.ts';
import type { Roster as RosterFile, RosterPlan } from '#contract/roster.ts';
import { FIELDS, type Mapping, matchColumns, rowsOf, textOf } from '#contract/roster-columns.ts';
import { CHANGE_WORDS, COURSE_WORDS, changeWords, FIELD_WORDS } from '#words/course.ts';

interface Archive {
  readonly fileName: string;
  readonly tables: RosterTables;
  readonly of: string | null;
}

/** bytes: longer tables than this are no class list. */
const TABLE_LIMIT = 20_000_000;

/** The tables of an archive that say who is in which class. */
function tablesOf(bytes: Uint8Array): RosterTables {
  const wanted = new Map(ROSTER_TABLES.map((t) => [`${t}.csv`, t]));
  const nameOf = (path: string): string => path.split('/').pop()?.toLowerCase() ?? '';
  const files = unzipSync(bytes, { filter: (f) => wanted.has(nameOf(f.name)) && f.originalSize < TABLE_LIMIT });
  return Object.fromEntries(
    Object.entries(files).map(([path, b]) => [
      wanted.get(nameOf(path)),
      Papa.parse<Record<string, string>>(textOf(b), { header: true, skipEmptyLines: true }).data,
    ]),
  );
}

interface Read {
  readonly fileName: string;
  readonly headers: readonly string[];
  readonly lines: readonly Readonly<Record<string, string>>[];
}

const LOOK = { new: 'text-good', changed: 'text-accent', same: 'text-soft', refused: 'text-bad' } as const;
/** What is shown first: what a person has to look at. */
const RANK = { refused: 0, changed: 1, new: 2, same: 3 } as const;

/** A roster from its file to the course: columns are matched, every change is seen, then it is taken in. */
export function Roster({ course, onDone }: { readonly course: string; readonly onDone: (said: string) => void }) {
  const [read, setRead] = useState<Read | null>(null);
  const [mapping, setMapping] = useState<Mapping>({});
  const [plan, setPlan] = useState<{ roster: RosterFile; plan: RosterPlan } | null>(null);
  const [archive, setArchive] = useState<Archive | null>(null);
  const [error, setError] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);

  const attempt = async (work: () => Promise<void>) => {
    setBusy(true);
    setError(null);
    try {
      await work();
    } catch (e) {
      setError((e as Error).message);
    }
    setBusy(false);
  };
  const look = (file: Read, m: Mapping) =>
    attempt(async () => {
      const roster: RosterFile = { fileName: file.fileName, rows: rowsOf(file.lines, m) };
      setPlan({ roster, plan: await call<RosterPlan>(`/api/courses/${course}/roster-plan`, roster) });
    });
  const take = async (fileName: string, lines: Read['lines'], headers: readonly string[]) => {
    const found: Read = { fileName, headers, lines };
    const m = matchColumns(headers);
    setRead(found);
    setMapping(m);
    setPlan(null);
    await look(found, m);
  };
  const takeClass = (a: Archive, of: string | null) =>
    attempt(async () => {
      setArchive({ ...a, of });
      const lines = classLines(a.tables, of);
      await take(a.fileName, lines, Object.keys(lines[0] ?? {}));
    });
  const open = (file: File) =>
    attempt(async () => {
      const bytes = new Uint8Array(await file.arrayBuffer());
      setArchive(null);
      if (bytes[0] === 0x50 && bytes[1] === 0x4b) {
        const tables = tablesOf(bytes);
        if (!tables.users) throw new Error(COURSE_WORDS.noUsers(file.name));
        const a: Archive = { fileName: file.name, tables, of: classesOf(tables)[0]?.id ?? null };
        return takeClass(a, a.of);
      }
      const text = textOf(bytes);
      const { data, meta } = Papa.parse<Record<string, string>>(text, { header: true, skipEmptyLines: false });
      await take(file.name, data, meta.fields ?? []);
    });
  const counts = plan && { taken: plan.plan.changes.filter((c) => c.kind === 'new' || c.kind === 'changed').length };
  return (
    <section className="panel grid gap-3 p-4" aria-label={COURSE_WORDS.rosterIn}>
      <h2 className="text-base font-bold">{COURSE_WORDS.rosterIn}</h2>
      <p className="max-w-[70ch] text-soft">{COURSE_WORDS.rosterLead}</p>
      <label className="grid gap-1">
        {COURSE_WORDS.rosterFile}
        <input
          className="field py-2"
          type="file"
          accept=".csv,.txt,.tsv,.zip"
          onChange={(e) => {
            const file = e.target.files?.[0];
            if (file) void open(file);
            // The same file, corrected meanwhile, can be chosen again.
            e.target.value = '';
          }}
        />
      </label>
      <Problem text={error} />
      {archive && classesOf(archive.tables).length > 1 && (
        <label className="grid gap-1">
          {COURSE_WORDS.class}
          <select className="field" value={archive.of ?? ''} onChange={(e) => void takeClass(archive, e.target.value)}>
            {classesOf(archive.tables).map((c) => (
              <option key={c.id} value={c.id}>
                {COURSE_WORDS.classOf(c.title, c.people)}
              </option>
            ))}
          </select>
        </label>
      )}
      {read && (
        <fieldset className="grid gap-2 min-[600px]:grid-cols-3">
          <legend className="mb-1 font-semibold">
            {COURSE_WORDS.columns} <span className="figure">{read.fileName}</span>
          </legend>
          {FIELDS.map((f) => (
            <label key={f} className="grid gap-1">
              {FIELD_WORDS[f]}
              <select
                className="field"
                value={mapping[f] ?? ''}
                onChange={(e) => {
                  const { [f]: _, ...others } = mapping;
                  const next = e.target.value ? { ...others, [f]: e.target.value } : others;
                  setMapping(next);
                  void look(read, next);
                }}
              >
                <option value="">{COURSE_WORDS.noColumn}</option>
                {read.headers.map((h) => (
                  <option key={h}>{h}</option>
                ))}
              </select>
            </label>
          ))}
        </fieldset>
      )}
      {plan && counts && (
        <>
          <p aria-live="polite">
            {(['new', 'changed', 'same', 'refused'] as const)
              .map((k) => `${plan.plan.changes.filter((c) => c.kind === k).length} ${CHANGE_WORDS[k]}`)
              .join(', ')}
            . {COURSE_WORDS.unnamed(plan.plan.unnamed)}
          </p>
          <div className="max-h-80 overflow-y-auto border border-line">
            <table className="w-full">
              <tbody>
                {[...plan.plan.changes]
                  .sort((a, b) => RANK[a.kind] - RANK[b.kind])
                  .map((c) => (
                    <tr key={`${c.line}`} className="border-b border-line align-top">
                      <td className="figure w-12 p-1 text-right text-soft">{c.line}</td>
                      <td className={`w-20 p-1 ${LOOK[c.kind]}`}>{CHANGE_WORDS[c.kind]}</td>
                      <td className="figure w-28 p-1">{c.id}</td>
                      <td className="p-1">{c.role}</td>
                      <td className="p-1">
                        {changeWords(c)}
                        {c.note && <span className={c.kind === 'refused' ? 'text-bad' : 'text-soft'}> {c.note}</span>}
                      </td>
                    </tr>
                  ))}
              </tbody>
            </table>
          </div>
          <button
            type="button"
            className="act w-fit"
            disabled={busy || counts.taken === 0}
            onClick={() =>
              void attempt(async () => {
                const { written } = await call<{ written: number }>(`/api/courses/${course}/roster`, {
                  roster: plan.roster,
                  seen: plan.plan.seen,
                });
                setPlan(null);
                setRead(null);
                onDone(COURSE_WORDS.applied(written));
              })
            }
          >
            {COURSE_WORDS.apply(counts.taken)}
          </button>
        </>
      )}
    </section>
  );
}
