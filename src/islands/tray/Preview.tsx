import { useState } from 'react';
import { StudentPicker } from '#components/picker/StudentPicker.tsx';
import type { FilePreview } from '#contract/tray-view.ts';
import { STEPS } from '#core/catalogue/terms.ts';

export interface Waiting {
  readonly file: File;
  readonly says: FilePreview;
}

const BY = { number: 'by number', bench: 'by bench', name: 'by name' } as const;

/** Preview before sending: each file's student and the word of its name that says so; every choice can be changed. */
export function Preview({
  waiting,
  students,
  onBring,
  onDrop,
}: {
  waiting: readonly Waiting[];
  students: readonly { id: string; name: string }[];
  onBring: (chosen: readonly { file: File; student: string | null }[]) => void;
  onDrop: () => void;
}) {
  const [chosen, setChosen] = useState<Readonly<Record<number, string | null>>>({});
  const [left, setLeft] = useState<ReadonlySet<number>>(new Set());
  const nameOf = (id: string | null): string | undefined => students.find((s) => s.id === id)?.name;
  const rows = waiting.map((w, i) => ({ ...w, i, student: i in chosen ? chosen[i] : w.says.student })).filter((w) => !left.has(w.i));
  const nobody = rows.filter((r) => r.student === null).length;
  return (
    <section className="panel mb-3" aria-label="What you are about to bring">
      <div className="flex flex-wrap items-center gap-3 p-2">
        <span>
          <span className="figure">{rows.length - nobody}</span> of <span className="figure">{rows.length}</span> files name their student
          {nobody === 1 && '; the other waits in the tray until you choose a student, or choose now'}
          {nobody > 1 && '; the others wait in the tray until you choose their students, or choose now'}.
        </span>
        <button type="button" className="quiet ml-auto" onClick={onDrop}>
          Leave them all
        </button>
        <button
          type="button"
          className="act"
          // The next thing to do is under the finger: Enter brings what is listed.
          ref={(b) => b?.focus()}
          disabled={rows.length === 0}
          onClick={() => onBring(rows.map((r) => ({ file: r.file, student: r.student })))}
        >
          Bring {rows.length === 1 ? 'this scan' : `these ${rows.length}`}
        </button>
      </div>
      <div className="max-h-[320px] overflow-y-auto border-t border-line">
        <table className="w-full text-left" aria-label="Files and their students">
          <tbody>
            {rows.map((r) => (
              <tr key={r.i} className="border-b border-line last:border-0">
                <td className="figure px-2 py-1">{r.file.name}</td>
                <td className="px-2 py-1">
                  {r.student === null ? (
                    <StudentPicker
                      label={`Student of ${r.file.name}`}
                      students={students}
                      onChoose={(student) => setChosen({ ...chosen, [r.i]: student })}
                    />
                  ) : (
                    <span>
                      {nameOf(r.student)} <span className="figure text-soft">{r.student}</span>
                    </span>
                  )}
                </td>
                <td className="px-2 py-1 text-soft">
                  {r.student !== null && (r.i in chosen ? 'chosen by you' : r.says.by && BY[r.says.by])}
                  {r.says.step !== 'final' && `, ${STEPS[r.says.step]}`}
                  {r.student === r.says.student && r.says.version > 1 && `, becomes scan ${r.says.version}`}
                </td>
                <td className="whitespace-nowrap px-2 py-1 text-right">
                  {r.student !== null && (
                    <button type="button" className="quiet" onClick={() => setChosen({ ...chosen, [r.i]: null })}>
                      Someone else
                    </button>
                  )}{' '}
                  <button type="button" className="quiet" onClick={() => setLeft(new Set([...left, r.i]))}>
                    Leave
                  </button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}
