import { useState } from 'react';
import type { DisplayMesh } from '#contract/display.ts';
import { applyPoint, invertRigid } from '#core/linalg/rigid.ts';
import type { Vec3 } from '#core/linalg/vec.ts';
import { Pick } from '#viewer/Pick.tsx';
import { ALIGN } from '#words/align.ts';
import { MASTERS } from '#words/masters.ts';

interface Props {
  readonly arch: DisplayMesh;
  readonly opposing: DisplayMesh;
  readonly busy: boolean;
  /** Where the opposing arch stands now, opposing file → arch file: pairs are counted from its file. */
  readonly placed: readonly number[] | null;
  readonly onDone: (pairs: { scan: Vec3; master: Vec3 }[]) => void;
  readonly onCancel: () => void;
}

/** The same three places named on both jaws, side by side. */
export function ThreePlaces({ arch, opposing, busy, placed, onDone, onCancel }: Props) {
  const [own, setOwn] = useState<Vec3[]>([]);
  const [other, setOther] = useState<Vec3[]>([]);
  const inFile = (p: Vec3): Vec3 => (placed ? applyPoint(invertRigid(placed), p) : p);
  const add = (list: Vec3[], set: (l: Vec3[]) => void) => (p: [number, number, number]) => list.length < 3 && set([...list, p]);
  const undo = () => (own.length > other.length ? setOwn(own.slice(0, -1)) : setOther(other.slice(0, -1)));
  return (
    <div className="flex h-full min-h-[420px] flex-col gap-2">
      <div className="grid min-h-0 flex-1 grid-cols-2 gap-2">
        {(
          [
            [MASTERS.threeArch, arch, own, setOwn],
            [MASTERS.threeOpposing, opposing, other, setOther],
          ] as const
        ).map(([word, mesh, points, set]) => (
          <section key={word} className="panel relative min-h-0" aria-label={word}>
            <Pick mesh={mesh} points={points} label={ALIGN.set(word, points.length)} onPick={add(points, set)} />
            <h2 className="absolute left-2 top-2 rounded-sm bg-panel/90 px-2 py-1 font-semibold">
              {word} <span className="figure text-soft">{points.length} of 3</span>
            </h2>
          </section>
        ))}
      </div>
      <div className="panel flex flex-wrap items-center gap-2 px-3 py-2">
        <p className="flex-1">{MASTERS.threeLead}</p>
        <button type="button" className="quiet" disabled={own.length + other.length === 0} onClick={undo}>
          {ALIGN.undo}
        </button>
        <button type="button" className="quiet" onClick={onCancel}>
          {MASTERS.threeStop}
        </button>
        <button
          type="button"
          className="act"
          disabled={busy || own.length < 3 || other.length < 3}
          onClick={() => onDone(other.map((p, i) => ({ scan: inFile(p), master: own[i] })))}
        >
          {MASTERS.threeDone}
        </button>
      </div>
    </div>
  );
}
