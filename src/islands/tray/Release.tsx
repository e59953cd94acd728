import { useState } from 'react';
import { Ask } from '#components/dialog/Ask.tsx';
import type { TrayRow } from '#contract/tray-view.ts';
import { STATE_WORDS } from '#words/states.ts';
import { TRAY } from '#words/tray.ts';

type Row = Pick<TrayRow, 'attempt_id' | 'grade_total' | 'grade_passed' | 'released' | 'changed' | 'student_name' | 'file_name' | 'word'>;

/** Signed and not yet released; and what stays as it is, with why. */
export function toRelease(rows: readonly Row[]): { ready: Row[]; left: { who: string; why: string }[] } {
  const ready = rows.filter((r) => r.word === 'signed');
  const left = rows
    .filter((r) => r.word !== 'signed' && r.word !== 'released')
    .map((r) => ({ who: r.student_name ?? r.file_name, why: STATE_WORDS[r.word] ?? r.word }));
  return { ready, left };
}

/** Releases a whole sitting on purpose: how many, and which stay as they are. */
export function Release({ rows, onRelease }: { rows: readonly TrayRow[]; onRelease: () => void }) {
  const [asking, setAsking] = useState(false);
  const { ready, left } = toRelease(rows);
  if (ready.length === 0) return null;
  return (
    <>
      <button type="button" className="quiet" onClick={() => setAsking(true)}>
        {TRAY.release} <span className="figure">{ready.length}</span>
      </button>
      {asking && (
        <Ask
          question={TRAY.releaseQuestion(ready.length)}
          yes={TRAY.releaseDo}
          no={TRAY.notYet}
          onYes={() => {
            setAsking(false);
            onRelease();
          }}
          onNo={() => setAsking(false)}
        >
          <p className="mb-1">{TRAY.releaseRest(left.length)}</p>
          <ul>
            {left.map((l) => (
              <li key={l.who} className="flex justify-between gap-4 border-b border-line py-0.5">
                <span>{l.who}</span>
                <span>{l.why}</span>
              </li>
            ))}
          </ul>
        </Ask>
      )}
    </>
  );
}
