// One child process: reads, unpacks and measures files from outside, one at a time. It may be ended at any moment.
import { createHash } from 'node:crypto';
import { readFileSync, writeFileSync } from 'node:fs';
import { constants, setPriority } from 'node:os';
import path from 'node:path';
import { gzipSync } from 'node:zlib';
import { type Master, prepareMaster } from '#core/master/master.ts';
import { measure, type Stage } from '#core/pipeline.ts';
import { Fault } from '#core/result/fault.ts';
import type { FileLimits } from '#core/scan/limits.ts';
import { unzipped } from '../../files/archive.ts';
import { loadMaster } from '../../files/master-files.ts';
import { SCAN_NAME, scanFromBytes, withoutArchive } from '../../files/read-file.ts';
import { displayFile, masterFile, pairFile, profileViews } from '../scans/display.ts';
import { occlusalPicture } from '../scans/picture.ts';
import { masterTask } from './masters.ts';
import { planTask } from './plan.ts';
import type { Measurement, Order, Report, Results, Task, Unpacked } from './tasks.ts';

// Lowest priority: pages and the database go before measuring.
setPriority(constants.priority.PRIORITY_LOW);

// Preparing a master takes longer than reading a scan, so the last few are cached by content.
const masters = new Map<string, Promise<Master>>();
const MASTERS_MOST = 4;

function masterOf(file: string): Promise<Master> {
  const content = createHash('sha256').update(readFileSync(file)).digest('hex');
  let master = masters.get(content);
  if (!master) {
    master = loadMaster(file).then(({ description, meshes }) => prepareMaster(description, meshes));
    masters.set(content, master);
    master.catch(() => masters.delete(content));
    if (masters.size > MASTERS_MOST) masters.delete(masters.keys().next().value as string);
  }
  return master;
}

type Tell = (stage: Stage, share: number) => void;

async function measured(task: Extract<Task, { kind: 'measure' }>, limits: FileLimits, tell: Tell): Promise<Measurement> {
  const start = performance.now();
  const put = (name: string, bytes: Uint8Array): string => {
    const file = path.join(task.outFolder, name);
    writeFileSync(file, bytes);
    return file;
  };
  tell('scan', 0);
  const scan = await scanFromBytes(readFileSync(task.scanFile), '', { limits });
  const m = measure(task.preparation, scan.mesh, await masterOf(task.masterFile), {
    report: tell,
    byHand: task.handPose,
    tooLargeBy: task.tooLargeBy,
    abutment: task.abutment && { kind: task.abutment.preparation, master: await masterOf(task.abutment.masterFile) },
  });
  const display = await displayFile(m);
  const profiles = JSON.stringify({ format: 'veritor-profiles/1', profiles: profileViews(m) });
  const { rms, stableArea, spread, pointError, size } = m.alignment;
  return {
    readings: m.readings,
    alignment: { matrix: m.scanToMaster, rms, stableArea, spread, pointError, size, corrected: m.corrected },
    curves: m.curves,
    display: put('display', gzipSync(display)),
    profiles: put('profiles', gzipSync(profiles)),
    picture: put('picture', occlusalPicture(display, task.bands)),
    durationMs: performance.now() - start,
    peakMb: process.memoryUsage().rss / 1e6,
  };
}

/** Scan and master side by side, light enough to pick points on; each in its own frame. */
async function paired(task: Extract<Task, { kind: 'pair' }>, limits: FileLimits): Promise<Results['pair']> {
  const scan = await scanFromBytes(readFileSync(task.scanFile), '', { limits });
  const { meshes } = await loadMaster(task.masterFile);
  const file = path.join(task.outFolder, 'pair');
  writeFileSync(file, gzipSync(await pairFile(scan.mesh, meshes.arch.mesh)));
  return { file };
}

/** The master alone, for an attempt that is read by hand. */
async function pictured(task: Extract<Task, { kind: 'master' }>): Promise<Results['master']> {
  const { description, meshes } = await loadMaster(task.masterFile);
  const file = path.join(task.outFolder, 'master');
  writeFileSync(file, gzipSync(await masterFile(prepareMaster(description, meshes))));
  return { file };
}

/** Unpacks an archive's scans into files; entries that are not scans are listed with the reason. */
async function unpacked(task: Extract<Task, { kind: 'unpack' }>, limits: FileLimits): Promise<Unpacked> {
  const parts: Unpacked['parts'][number][] = [];
  for await (const e of unzipped(readFileSync(task.archive), task.name, limits)) {
    if (!SCAN_NAME.test(e.name)) {
      parts.push({ name: e.name, left: 'It is no STL, PLY or OBJ.' });
      continue;
    }
    const file = path.join(task.outFolder, String(parts.length));
    // A gzipped scan in a zip is a scan; a zip in a zip is not opened.
    if (!e.name.toLowerCase().endsWith('.gz')) withoutArchive(e.bytes, `${task.name}, ${e.name}`);
    writeFileSync(file, e.bytes);
    parts.push({ name: e.name, file });
  }
  return { parts };
}

function run({ task, limits }: Order, tell: Tell): Promise<Results[Task['kind']]> {
  switch (task.kind) {
    case 'measure':
      return measured(task, limits, tell);
    case 'pair':
      return paired(task, limits);
    case 'unpack':
      return unpacked(task, limits);
    case 'master':
      return pictured(task);
    case 'dry':
    case 'guide':
    case 'guide-body':
      return masterOf(task.masterFile).then((m) => planTask(task, m));
    default:
      return masterTask(task, limits);
  }
}

const send = (r: Report): void => {
  process.send?.(r);
};

process.on('message', (order: Order) => {
  const { id } = order;
  run(order, (stage, share) => send({ id, stage, share })).then(
    (result) => send({ id, result }),
    (e: unknown) => {
      if (e instanceof Fault) return send({ id, fault: { code: e.code, message: e.message } });
      console.error(e);
      const message =
        'The scan cannot be measured: its surface breaks off or folds over in a way that nothing could be followed on. Look at it in the scanner’s program and scan the tooth again, or grade by hand.';
      send({ id, fault: { code: 'file.unreadable', message } });
    },
  );
});
// The parent process has ended; so does the child.
process.on('disconnect', () => process.exit(0));
