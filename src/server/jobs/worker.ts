// Runs the core's stages on one scan, away from the request path. Started by the pool, one task at a time.
import { createHash } from 'node:crypto';
import { readdirSync, readFileSync, statSync } from 'node:fs';
import { constants, setPriority } from 'node:os';
import path from 'node:path';
import type { MessagePort } from 'node:worker_threads';
import type { DepthBands } from '#contract/depth-ramp.ts';
import { type Master, prepareMaster } from '#core/master/master.ts';
import { type Kind, measure, type Stage } from '#core/pipeline.ts';
import { Fault } from '#core/result/fault.ts';
import type { Reading } from '#core/result/reading.ts';
import { loadMaster } from '../../files/master-files.ts';
import { scanFromBytes } from '../../files/read-file.ts';
import { displayFile, pairFile, profileViews } from './display.ts';
import { occlusalPicture } from './picture.ts';

export interface MeasureTask {
  readonly scanFile: string;
  readonly masterFolder: string;
  readonly kind: Kind;
  readonly bands: DepthBands;
  /** Scan → master file, when somebody set it by three points. */
  readonly handPose: readonly number[] | null;
  readonly progress: MessagePort;
}

export type MeasureResult =
  | {
      readonly ok: true;
      readonly readings: readonly Reading[];
      readonly alignment: { matrix: readonly number[]; rms: number; stableArea: number; spread: number; pointError: number };
      readonly curves: Readonly<Record<string, readonly (readonly number[])[]>>;
      readonly display: Uint8Array;
      readonly profiles: Uint8Array;
      readonly picture: Uint8Array;
      readonly durationMs: number;
      readonly peakMb: number;
    }
  | { readonly ok: false; readonly code: string; readonly message: string };

// Measuring has time, people have not: pages and database go first. On Linux this is the thread's own priority.
if (process.platform === 'linux') setPriority(constants.priority.PRIORITY_LOW);

// Preparing a master takes longer than reading a scan: the last few are kept, by what their files hold.
const masters = new Map<string, Master>();

function masterOf(folder: string): Master {
  const content = contentOf(folder);
  let m = masters.get(content);
  if (!m) {
    const { description, meshes } = loadMaster(folder);
    m = prepareMaster(description, meshes);
    masters.set(content, m);
    if (masters.size > 4) masters.delete(masters.keys().next().value as string);
  }
  return m;
}

const digests = new Map<string, { readonly stamp: string; readonly digest: string }>();

/** Digest over a master's files; taken again only when one of them has another size or time. */
function contentOf(folder: string): string {
  const files = statSync(folder).isDirectory()
    ? readdirSync(folder)
        .sort()
        .map((f) => path.join(folder, f))
    : [folder];
  const stamp = files.map((f) => [f, statSync(f).size, statSync(f).mtimeMs].join(' ')).join('\n');
  const known = digests.get(folder);
  if (known?.stamp === stamp) return known.digest;
  const hash = createHash('sha256');
  for (const f of files) hash.update(path.basename(f)).update(readFileSync(f));
  const digest = hash.digest('hex');
  digests.set(folder, { stamp, digest });
  return digest;
}

export default async function run(task: MeasureTask): Promise<MeasureResult> {
  const start = performance.now();
  const report = (stage: Stage, share: number): void => task.progress.postMessage({ stage, share });
  try {
    report('scan', 0);
    const scan = scanFromBytes(readFileSync(task.scanFile), '');
    const m = measure(task.kind, scan.mesh, masterOf(task.masterFolder), report, task.handPose);
    const display = await displayFile(m);
    const profiles = new TextEncoder().encode(JSON.stringify({ format: 'veritor-profiles/1', profiles: profileViews(m) }));
    const { rms, stableArea, spread, pointError } = m.alignment;
    return {
      ok: true,
      readings: m.readings,
      alignment: { matrix: m.scanToMaster, rms, stableArea, spread, pointError },
      curves: m.curves,
      display,
      profiles,
      picture: occlusalPicture(display, task.bands),
      durationMs: performance.now() - start,
      peakMb: process.memoryUsage().rss / 1e6,
    };
  } catch (e) {
    if (e instanceof Fault) return { ok: false, code: e.code, message: e.message };
    return {
      ok: false,
      code: 'internal',
      message: `Measuring stopped unexpectedly (${e instanceof Error ? e.message : String(e)}). The scan is kept: try again, or grade by hand and tell the assistant.`,
    };
  }
}

/** Scan and master side by side, light enough to pick points on; each in its own frame. */
export async function pairMeshes(task: { scanFile: string; masterFolder: string }): Promise<Uint8Array> {
  const scan = scanFromBytes(readFileSync(task.scanFile), '');
  return pairFile(scan.mesh, loadMaster(task.masterFolder).meshes.arch.mesh);
}
