import { zip } from 'fflate';
import { useRef, useState } from 'react';
import { Problem } from '#components/Problem.tsx';
import type { TrayRow } from '#contract/tray-view.ts';
import { TRAY } from '#words/tray.ts';

interface Props {
  readonly sitting: string;
  readonly rows: readonly TrayRow[];
}

/** Attempts with a signed grade, once each. */
export const signedIn = (rows: readonly TrayRow[]): { id: number; name: string }[] => {
  const by = new Map<number, string>();
  for (const r of rows)
    if (r.attempt_id !== null && r.grade_total !== null)
      by.set(r.attempt_id, [r.student_id, r.student_name, r.number].filter(Boolean).join(' '));
  return [...by].map(([id, name]) => ({ id, name }));
};

function save(content: Uint8Array, name: string): void {
  const address = URL.createObjectURL(new Blob([content as BlobPart], { type: 'application/zip' }));
  const a = document.createElement('a');
  a.href = address;
  a.download = name;
  a.click();
  URL.revokeObjectURL(address);
}

/** What leaves the house of a sitting: the board's list, all readings, all reports, and everybody's own PDF in one archive, made one after the other. */
export function Reports({ sitting, rows }: Props) {
  const [done, setDone] = useState<number | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const stopped = useRef(false);
  const signed = signedIn(rows);
  const collect = async (): Promise<void> => {
    stopped.current = false;
    setProblem(null);
    const files: Record<string, Uint8Array> = {};
    try {
      for (const [i, a] of signed.entries()) {
        if (stopped.current) return setDone(null);
        setDone(i);
        const answer = await fetch(`/api/attempts/${a.id}/report?as=pdf`);
        if (!answer.ok) throw new Error(TRAY.reportFailed(a.name, answer.status));
        files[`${a.name}.pdf`] = new Uint8Array(await answer.arrayBuffer());
      }
      // Pages are packed already.
      const packed = await new Promise<Uint8Array>((resolve, reject) => zip(files, { level: 0 }, (e, z) => (e ? reject(e) : resolve(z))));
      save(packed, `reports-${sitting}.zip`);
    } catch (e) {
      setProblem((e as Error).message);
    }
    setDone(null);
  };
  const link = (as: string): string => `/api/sittings/${encodeURIComponent(sitting)}/reports?as=${as}`;
  return (
    <section className="panel mb-3 flex flex-wrap items-center gap-x-4 gap-y-2 p-3" aria-label={TRAY.reports}>
      {signed.length === 0 ? (
        <p className="text-soft">{TRAY.noReports}</p>
      ) : (
        <>
          {(['pdf', 'csv', 'json'] as const).map((k) => (
            <a key={k} className="text-accent underline" href={link(k)}>
              {TRAY.reportsAs[k]}
            </a>
          ))}
          {done === null ? (
            <button type="button" className="quiet" onClick={() => void collect()}>
              {TRAY.allReports(signed.length)}
            </button>
          ) : (
            <span className="flex items-center gap-2" role="status">
              <progress max={signed.length} value={done} aria-label={TRAY.reports} /> {TRAY.reportsDone(done, signed.length)}
              <button
                type="button"
                className="quiet"
                onClick={() => {
                  stopped.current = true;
                }}
              >
                {TRAY.stop}
              </button>
            </span>
          )}
        </>
      )}
      <Problem text={problem} />
    </section>
  );
}
