import { useEffect, useState } from 'react';
import { call } from '#components/call.ts';
import { type DisplayMesh, unpackDisplay } from '#contract/display.ts';
import { Pick } from '#viewer/Pick.tsx';
import { ALIGN } from '#words/align.ts';

type Point = [number, number, number];
const NAMES = ['orange', 'petrol', 'violet'];

/** Alignment by hand, for when no pose was found: the same three places are clicked on scan and master. */
export function Align({ scanId, fileName, sitting, fault }: { scanId: number; fileName: string; sitting: string; fault: string | null }) {
  const [meshes, setMeshes] = useState<DisplayMesh[] | null>(null);
  const [error, setError] = useState<string | null>(null);
  const [scan, setScan] = useState<Point[]>([]);
  const [master, setMaster] = useState<Point[]>([]);
  const [busy, setBusy] = useState(false);

  useEffect(() => {
    fetch(`/api/scans/${scanId}/pair`)
      .then((r) => (r.ok ? r.arrayBuffer() : Promise.reject(new Error(`answer ${r.status}`))))
      .then((b) => setMeshes(unpackDisplay(b).meshes))
      .catch((e) => setError(`Scan and master could not be loaded (${(e as Error).message}). Reload the page to try again.`));
  }, [scanId]);

  const fit = async () => {
    setBusy(true);
    setError(null);
    try {
      await call(`/api/scans/${scanId}/pose`, { pairs: scan.map((p, i) => ({ scan: p, master: master[i] })) });
      window.location.assign(`/tray/${sitting}`);
    } catch (e) {
      setError((e as Error).message);
      setBusy(false);
    }
  };
  const next = Math.min(scan.length, master.length);
  const instruction = scan.length === 3 && master.length === 3 ? ALIGN.all : ALIGN.next(NAMES[next]);
  const add = (list: Point[], set: (l: Point[]) => void) => (p: Point) => {
    if (list.length < 3) set([...list, p]);
  };
  const undo = () => (scan.length > master.length ? setScan(scan.slice(0, -1)) : setMaster(master.slice(0, -1)));
  const find = (name: string) => meshes?.find((m) => m.name === name);
  const [left, right] = [find('scan'), find('master')];
  return (
    <div className="flex h-[calc(100vh-45px)] min-h-[560px] flex-col gap-2 p-2">
      <div className="flex flex-wrap items-baseline gap-3">
        <a className="text-accent underline" href={`/tray/${sitting}`}>
          Tray
        </a>
        <h1 className="text-lg font-bold">{ALIGN.title}</h1>
        <span className="figure text-soft">{fileName}</span>
      </div>
      {fault && <p className="border-l-4 border-under bg-panel p-2">{fault}</p>}
      {error && (
        <p role="alert" className="border-l-4 border-bad bg-panel p-2">
          {error}
        </p>
      )}
      <div className="grid min-h-0 flex-1 grid-cols-2 gap-2">
        {(
          [
            [ALIGN.scan, left, scan, setScan],
            [ALIGN.master, right, master, setMaster],
          ] as const
        ).map(([word, mesh, points, set]) => (
          <section key={word} className="panel relative min-h-0" aria-label={word} data-pick={word.toLowerCase()}>
            {mesh ? (
              <Pick mesh={mesh} points={points} label={ALIGN.set(word, points.length)} onPick={add(points, set)} />
            ) : (
              <p className="grid h-full place-items-center text-soft">{ALIGN.loading}</p>
            )}
            <h2 className="absolute left-2 top-2 rounded-sm bg-panel/90 px-2 py-1 font-semibold">
              {word} <span className="figure text-soft">{points.length} of 3</span>
            </h2>
          </section>
        ))}
      </div>
      <div className="panel flex flex-wrap items-center gap-3 px-3 py-2">
        <p className="flex-1" aria-live="polite">
          {instruction}
        </p>
        <button type="button" className="quiet" disabled={scan.length + master.length === 0} onClick={undo}>
          {ALIGN.undo}
        </button>
        <button type="button" className="act" disabled={busy || scan.length < 3 || master.length < 3} onClick={fit}>
          {ALIGN.fit}
        </button>
      </div>
    </div>
  );
}
