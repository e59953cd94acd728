import { useMemo, useRef, useState } from 'react';
import { call } from '#components/call.ts';
import { Problem } from '#components/Problem.tsx';
import { type Column, SortedTable } from '#components/table/SortedTable.tsx';
import type { CourseView, MemberView } from '#contract/course.ts';
import { COURSE_WORDS } from '#words/course.ts';
import { Roster } from './Roster.tsx';

interface Invited {
  readonly invited: readonly { readonly id: string; readonly name: string; readonly sign_in_name: string; readonly path: string }[];
  readonly left: readonly string[];
}

interface Props {
  readonly view: CourseView;
  readonly mayKeep: boolean;
  readonly onChange: (said: string) => void;
}

/** Everybody of a course, by role; rosters come in and are taken back, links are handed out. */
export function People({ view, mayKeep, onChange }: Props) {
  const [asked, setAsked] = useState('');
  const [links, setLinks] = useState<Invited | null>(null);
  const [error, setError] = useState<string | null>(null);
  const shown = useMemo(() => view.people.filter((p) => matches(p, asked)), [view.people, asked]);
  const columns = useMemo(
    (): Column<MemberView>[] => [
      {
        accessorKey: 'name',
        header: COURSE_WORDS.columnsOf.name,
        cell: ({ row: { original: p } }) =>
          p.role === 'student' ? (
            <a className="text-accent underline" href={`/trail/${p.id}`}>
              {p.name}
            </a>
          ) : (
            p.name
          ),
      },
      { accessorKey: 'id', header: COURSE_WORDS.columnsOf.id, cell: ({ row }) => <span className="figure">{row.original.id}</span> },
      { accessorKey: 'role', header: COURSE_WORDS.columnsOf.role },
      {
        accessorKey: 'bench',
        header: COURSE_WORDS.columnsOf.bench,
        cell: ({ row }) => <span className="figure">{row.original.bench}</span>,
      },
      { accessorKey: 'group_name', header: COURSE_WORDS.columnsOf.group },
      {
        accessorKey: 'sign_in_name',
        header: COURSE_WORDS.columnsOf.signIn,
        cell: ({ row: { original: p } }) => (
          <>
            <span className="figure">{p.sign_in_name}</span>
            {!p.has_password && <span className="text-under"> {COURSE_WORDS.noPassword}</span>}
          </>
        ),
      },
      {
        accessorKey: 'attempts',
        header: COURSE_WORDS.columnsOf.attempts,
        cell: ({ row }) => <span className="figure">{row.original.attempts || ''}</span>,
      },
    ],
    [],
  );
  const without = [...new Set(view.people.filter((p) => !p.has_password).map((p) => p.id))];
  const act = async (work: () => Promise<void>) => {
    setError(null);
    try {
      await work();
    } catch (e) {
      setError((e as Error).message);
    }
  };
  const invite = (people: readonly string[]) =>
    act(async () => {
      setLinks(await call<Invited>(`/api/courses/${view.id}/invite`, { people }));
    });
  // The columns are made once, and ask whoever is drawn now.
  const asking = useRef(invite);
  asking.current = invite;
  const withLinks: Column<MemberView>[] = useMemo(
    () => [
      ...columns,
      ...(mayKeep
        ? [
            {
              id: 'link',
              header: COURSE_WORDS.columnsOf.link,
              enableSorting: false,
              cell: ({ row: { original: p } }: { row: { original: MemberView } }) => (
                <button
                  type="button"
                  className="quiet !min-h-7"
                  aria-label={`${COURSE_WORDS.inviteOne}, ${p.name}`}
                  onClick={() => asking.current([p.id])}
                >
                  {COURSE_WORDS.inviteOne}
                </button>
              ),
            } satisfies Column<MemberView>,
          ]
        : []),
    ],
    [columns, mayKeep],
  );
  const address = (path: string): string => new URL(path, window.location.href).href;
  const file = (): string =>
    URL.createObjectURL(
      new Blob(
        [
          `\ufeffname,sign-in name,link\r\n${links?.invited.map((i) => `"${i.name.replace(/"/g, '""')}",${i.sign_in_name},${address(i.path)}`).join('\r\n')}\r\n`,
        ],
        {
          type: 'text/csv',
        },
      ),
    );
  return (
    <div className="grid items-start gap-4 min-[1000px]:grid-cols-[1fr_460px]">
      <section className="panel min-w-0 p-4" aria-label={COURSE_WORDS.people}>
        <div className="mb-2 flex flex-wrap items-end gap-3">
          <label className="grid flex-1 gap-1">
            {COURSE_WORDS.find}
            <input className="field" type="search" value={asked} onChange={(e) => setAsked(e.target.value)} />
          </label>
          <a className="quiet grid place-items-center" href={`/api/courses/${view.id}/roster`}>
            {COURSE_WORDS.rosterOut}
          </a>
        </div>
        <Problem text={error} />
        {view.people.length <= 1 && <p className="text-soft">{COURSE_WORDS.nobody(mayKeep)}</p>}
        <SortedTable rows={shown} columns={withLinks} idOf={(p) => `${p.id}|${p.role}`} label={COURSE_WORDS.everybody} />
      </section>
      {mayKeep && (
        <div className="grid min-w-0 gap-4">
          {without.length > 0 && (
            <button type="button" className="act w-fit" onClick={() => void invite(without)}>
              {COURSE_WORDS.invite(without.length)}
            </button>
          )}
          {links && (
            <section className="panel grid gap-2 p-4" aria-live="polite">
              <p>{COURSE_WORDS.invited}</p>
              {links.left.length > 0 && <p>{COURSE_WORDS.left(links.left)}</p>}
              <a className="quiet grid w-fit place-items-center" href={file()} download="links.csv">
                {COURSE_WORDS.inviteFile}
              </a>
              <ul className="grid max-h-48 gap-1 overflow-y-auto">
                {links.invited.map((i) => (
                  <li key={i.id}>
                    {i.name}:{' '}
                    <a className="figure break-all text-accent underline" href={i.path}>
                      {address(i.path)}
                    </a>
                  </li>
                ))}
              </ul>
            </section>
          )}
          <Roster course={view.id} onDone={onChange} />
          {view.imports.length > 0 && (
            <section className="panel p-4">
              <h2 className="mb-2 text-base font-bold">{COURSE_WORDS.rosters}</h2>
              <ul className="grid gap-1">
                {view.imports.map((i) => (
                  <li key={i.id} className="flex items-baseline gap-2">
                    <span className="flex-1">
                      {i.file_name}, {COURSE_WORDS.applied(i.written)} <span className="text-soft">{i.by}</span>
                    </span>
                    {i.undone ? (
                      <span className="text-soft">{COURSE_WORDS.takenBack}</span>
                    ) : (
                      <button
                        type="button"
                        className="quiet !min-h-7"
                        onClick={() =>
                          void act(async () => {
                            const { kept } = await call<{ kept: string[] }>(`/api/courses/${view.id}/roster-undo`, { roster: i.id });
                            onChange(COURSE_WORDS.undone(kept));
                          })
                        }
                      >
                        {COURSE_WORDS.undo}
                      </button>
                    )}
                  </li>
                ))}
              </ul>
            </section>
          )}
        </div>
      )}
    </div>
  );
}

const matches = (p: MemberView, asked: string): boolean => {
  const text = [p.name, p.id, p.bench, p.group_name, p.role, p.sign_in_name].join(' ').toLowerCase();
  return asked
    .toLowerCase()
    .split(/\s+/)
    .every((w) => text.includes(w));
};
