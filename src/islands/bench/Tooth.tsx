import { useMemo, useState } from 'react';
import { Menu, MenuCheck, MenuItem } from '#components/menu/Menu.tsx';
import { isMarked } from '#contract/depth-ramp.ts';
import { linesFor } from '#contract/display.ts';
import type { BenchView } from '#contract/views.ts';
import type { Vec3 } from '#core/linalg/vec.ts';
import type { ViewName } from '#viewer/Camera.tsx';
import { Scene, type SceneProps } from '#viewer/Scene.tsx';
import { BENCH } from '#words/bench.ts';
import { CLOSED, Jaw, jawShift } from './Jaw.tsx';
import { Legend, Parts } from './Legend.tsx';
import { Readout } from './Readout.tsx';
import type { Loaded } from './useLoaded.ts';
import type { Tools } from './useTools.ts';

const VIEWS: readonly ViewName[] = ['occlusal', 'facial', 'mesial', 'lingual', 'distal'];
const SHOWN = [
  ['depth', 'depth colours'],
  ['parts', 'name the parts'],
  ['master', 'ghost of the master'],
  ['opposing', 'opposing arch'],
] as const;

interface Props {
  readonly loaded: Loaded | null;
  readonly view: Pick<BenchView, 'measurement' | 'bands' | 'drawn'>;
  readonly camera: SceneProps['view'];
  readonly onCamera: (view: SceneProps['view']) => void;
  readonly shown: SceneProps['shown'];
  readonly onShown: (what: keyof SceneProps['shown']) => void;
  readonly cut: number;
  readonly pin: SceneProps['pin'];
  readonly readings: NonNullable<SceneProps['readings']>;
  readonly marks: NonNullable<SceneProps['marks']>;
  readonly onMark: (id: number) => void;
  readonly onOver: NonNullable<SceneProps['onOver']>;
  readonly tools: Tools;
  /** The line that a pin would stand for; null where none may be set. */
  readonly pinTo: string | null;
  readonly onPin: (at: Vec3, note: string) => void;
}

/** The tooth in 3D with instruments, pins and labels. */
export function Tooth(props: Props) {
  const { loaded, view, camera, onCamera, shown, onShown, cut, pin, readings, marks, onMark, onOver, tools, pinTo, onPin } = props;
  const { tool, probed } = tools;
  const marked = useMemo(() => loaded?.meshes.some((m) => m.surface?.some(isMarked)) ?? false, [loaded]);
  const [glided, setGlided] = useState(CLOSED);
  // Instruments read in occlusion: while one is in the hand the jaw stands closed, and its control leaves them the room.
  const shift = useMemo(() => (loaded && !tool ? jawShift(loaded.header, glided) : null), [loaded, glided, tool]);
  const jaw = shown.opposing && !tool ? loaded?.header.jaw : undefined;
  const path = loaded?.header.path;
  const drawn = loaded ? [...new Set(linesFor(loaded.header, readings).map(({ of }) => BENCH.lines[of[0]] ?? ''))] : [];
  const plated = loaded?.meshes.some((m) => m.name === 'plate') && readings.some((r) => r.startsWith('plate.'));
  const lines = plated ? [...drawn, BENCH.plate(view.bands.plate ?? null)] : drawn;
  return (
    <section
      className="panel relative h-[44vh] max-[899px]:order-1 min-h-[280px] min-[900px]:h-auto min-[900px]:min-h-0"
      aria-label="Three-dimensional view"
      data-scene
    >
      {loaded ? (
        <Scene
          header={loaded.header}
          meshes={loaded.meshes}
          bands={view.bands}
          shown={view.measurement ? shown : { ...shown, depth: false }}
          view={camera}
          azimuth={cut}
          pin={pin}
          readings={readings}
          marks={marks}
          onMark={onMark}
          onOver={onOver}
          onPlace={tool ? tools.ask : null}
          tip={tool === 'probe' ? (probed?.at ?? null) : null}
          from={tool === 'probe' ? tools.from : null}
          slab={tools.slab}
          opposingAt={shift}
        />
      ) : (
        <p className="grid h-full place-items-center text-soft">{BENCH.loading}</p>
      )}
      {loaded && (
        <>
          <div className="absolute left-2 top-2 flex gap-1">
            <Menu label={BENCH.look}>
              {VIEWS.map((n) => (
                <MenuItem key={n} onSelect={() => onCamera({ name: n })}>
                  {n}
                </MenuItem>
              ))}
              {path && <MenuItem onSelect={() => onCamera({ along: path })}>{BENCH.alongPath}</MenuItem>}
            </Menu>
            <Menu label={BENCH.show}>
              {SHOWN.map(([k, word]) => (
                <MenuCheck key={k} on={shown[k] && !(k === 'depth' && shown.parts)} onChange={() => onShown(k)}>
                  {word}
                </MenuCheck>
              ))}
            </Menu>
          </div>
          {jaw && (
            <div className="absolute bottom-14 right-2 w-60">
              <Jaw jaw={jaw} glided={glided} onGlide={setGlided} />
            </div>
          )}
          {view.measurement && (
            <div className="absolute bottom-2 right-2 flex gap-1">
              <button type="button" className="quiet !px-2" aria-pressed={tool === 'probe'} onClick={() => tools.take('probe')}>
                probe
              </button>
              {tools.hasOpposing && (
                <button type="button" className="quiet !px-2" aria-pressed={tool === 'gauge'} onClick={() => tools.take('gauge')}>
                  gauge
                </button>
              )}
            </div>
          )}
          <div className="absolute bottom-2 left-2 max-w-[calc(100%-150px)]">
            {tool && loaded ? (
              <Readout
                tool={tool}
                probed={probed}
                from={tools.from}
                mesialSign={loaded.header.mesialSign}
                thickness={tools.thickness}
                onThickness={tools.setThickness}
                onFrom={tools.setFrom}
                pinTo={pinTo}
                onPin={onPin}
              />
            ) : shown.parts ? (
              loaded && <Parts names={loaded.header.parts} />
            ) : (
              shown.depth && view.measurement && <Legend bands={view.bands} colours={view.drawn.colours} marked={marked} lines={lines} />
            )}
          </div>
        </>
      )}
    </section>
  );
}
