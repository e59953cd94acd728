import { useState } from 'react';
import { distance, type Vec3 } from '#core/linalg/vec.ts';
import type { Probed } from '#core/measure/probe.ts';
import { placeWords } from '#words/sides.ts';
import { azimuthAt, GAUGES, type Passing, passing, type Tool } from './tools.ts';

interface Props {
  readonly tool: Tool;
  readonly probed: Probed | null;
  readonly from: Vec3 | null;
  readonly mesialSign: number;
  readonly thickness: number;
  readonly onThickness: (t: number) => void;
  readonly onFrom: (p: Vec3 | null) => void;
  /** The criterion that a pin would stand for; null where none may be set. */
  readonly pinTo: string | null;
  readonly onPin: (at: Vec3, note: string) => void;
}

const WORDS: Record<Passing, string> = {
  passes: 'passes here',
  'does not pass': 'does not pass here',
  'too close to call': 'is too close to call here',
};

/** Reading of probe or gauge at the place where it was set down. */
export function Readout({ tool, probed, from, mesialSign, thickness, onThickness, onFrom, pinTo, onPin }: Props) {
  const [note, setNote] = useState('');
  return (
    <div className="rounded-sm border border-line bg-panel/95 p-2 text-[13px]" aria-live="polite" data-readout={tool}>
      {tool === 'gauge' && (
        <div className="mb-1 flex items-center gap-1">
          {GAUGES.map((t) => (
            <button key={t} type="button" className="quiet !px-2" aria-pressed={t === thickness} onClick={() => onThickness(t)}>
              <span className="figure">{t.toFixed(1)}</span> mm
            </button>
          ))}
        </div>
      )}
      {!probed ? (
        <p className="text-soft">{tool === 'probe' ? 'Click the tooth to set the probe down.' : 'Drag over the tooth to move the slab.'}</p>
      ) : tool === 'gauge' ? (
        <p>
          {probed.gap ? (
            <>
              <span className="figure">{thickness.toFixed(1)}</span> mm {WORDS[passing(probed.gap, thickness)]}: gap{' '}
              <span className="figure">
                {probed.gap.value.toFixed(2)} ± {probed.gap.U.toFixed(2)}
              </span>{' '}
              mm, {placeWords(azimuthAt(probed.at, mesialSign))}
            </>
          ) : (
            'Nothing stands against the tooth within 6 mm of here.'
          )}
        </p>
      ) : (
        <>
          <dl className="grid grid-cols-[auto_1fr] gap-x-3">
            <dt>removed</dt>
            <dd className="figure" data-probe="depth">
              {probed.depth.value.toFixed(2)} ± {probed.depth.U.toFixed(2)} mm
            </dd>
            <dt>{Math.abs(probed.lean.value) > 60 ? 'floor, from level' : 'wall, from the axis'}</dt>
            <dd className="figure">
              {(Math.abs(probed.lean.value) > 60 ? 90 - probed.lean.value : probed.lean.value).toFixed(0)}° ± {probed.lean.U}°
            </dd>
            <dt>where</dt>
            <dd>{placeWords(azimuthAt(probed.at, mesialSign))}</dd>
            {from && (
              <>
                <dt>from the first place</dt>
                <dd className="figure">{distance(from, probed.at).toFixed(2)} mm</dd>
              </>
            )}
          </dl>
          <div className="mt-1 flex flex-wrap items-center gap-1">
            <button type="button" className="quiet !px-2" onClick={() => onFrom(from ? null : probed.at)}>
              {from ? 'Forget the first place' : 'Measure from here'}
            </button>
            {pinTo && (
              <form
                className="flex items-center gap-1"
                onSubmit={(e) => {
                  e.preventDefault();
                  onPin(probed.at, note);
                  setNote('');
                }}
              >
                <input
                  className="field !w-36"
                  value={note}
                  maxLength={300}
                  placeholder="what is here"
                  aria-label="What is to be said of this place"
                  onChange={(e) => setNote(e.target.value)}
                />
                <button type="submit" className="act !px-2" title={`Marks the place for “${pinTo}”`}>
                  Pin it
                </button>
              </form>
            )}
          </div>
        </>
      )}
    </div>
  );
}
