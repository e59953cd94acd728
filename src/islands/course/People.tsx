import { useMemo, useState } from 'react';
import { call } from '#components/call.ts';
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
      <section className="panel p-4" aria-label={COURSE_WORDS.people}>
        <div className="mb-2 flex flex-wrap items-end gap-3">
          <label className="grid flex-1 gap-1">
            {COURSE_WORDS.find}
            <input className="field" type="search" value={asked} onChange={(e) => setAsked(e.target.value)} />
          </label>
          <a className="quiet grid place-items-center" href={`/api/courses/${view.id}/roster`}>
            {COURSE_WORDS.rosterOut}
          </a>
        </div>
        {error && (
          <p role="alert" className="mb-2 border-l-4 border-bad pl-2">
            {error}
          </p>
        )}
        {view.people.length <= 1 && <p className="text-soft">{COURSE_WORDS.nobody}</p>}
        <table className="w-full">
          <thead>
            <tr className="text-left text-soft">
              {['Name', 'Number', 'Role', 'Bench', 'Group', 'Sign-in', 'Link'].map((h) => (
                <th key={h} className="pb-1 font-normal">
                  {h}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {shown.map((p) => (
              <tr key={`${p.id}|${p.role}`} className="border-t border-line">
                <td className="py-1 pr-2">
                  {p.role === 'student' ? (
                    <a className="text-accent underline" href={`/trail/${p.id}`}>
                      {p.name}
                    </a>
                  ) : (
                    p.name
                  )}
                </td>
                <td className="figure py-1 pr-2">{p.id}</td>
                <td className="py-1 pr-2">{p.role}</td>
                <td className="figure py-1 pr-2">{p.bench}</td>
                <td className="py-1 pr-2">{p.group_name}</td>
                <td className="py-1 pr-2">
                  <span className="figure">{p.sign_in_name}</span>
                  {!p.has_password && <span className="text-under"> {COURSE_WORDS.noPassword}</span>}
                </td>
                <td className="py-1 text-right">
                  {mayKeep && (
                    <button
                      type="button"
                      className="quiet !min-h-7"
                      aria-label={`${COURSE_WORDS.inviteOne}, ${p.name}`}
                      onClick={() => void invite([p.id])}
                    >
                      {COURSE_WORDS.inviteOne}
                    </button>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </section>
      {mayKeep && (
        <div className="grid gap-4">
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
