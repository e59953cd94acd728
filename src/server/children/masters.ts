import { readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { gzipSync } from 'node:zlib';
import type { Inner } from '#contract/master-draft.ts';
import { checkArch } from '#core/annotate/checks.ts';
import { needsOf } from '#core/annotate/needs.ts';
import { painted } from '#core/annotate/paint.ts';
import { propose } from '#core/annotate/propose.ts';
import { prepareMaster } from '#core/master/master.ts';
import type { Mesh } from '#core/mesh/mesh.ts';
import type { FileLimits } from '#core/scan/limits.ts';
import { masterArchive, saveMaster } from '../../files/master-files.ts';
import { scanFromBytes } from '../../files/read-file.ts';
import { archFile } from '../scans/display.ts';
import type { Results, Task } from './tasks.ts';

type Of<K extends Task['kind']> = Extract<Task, { kind: K }>;

const meshOf = async (file: string, factor: number, limits: FileLimits): Promise<Mesh> =>
  (await scanFromBytes(readFileSync(file), '', { limits, checkSize: false, unitFactor: factor })).mesh;

/** What an arch is like, and a picture to touch it on. */
export async function surveyed(task: Of<'survey'>, limits: FileLimits): Promise<Results['survey']> {
  const mesh = await meshOf(task.archFile, task.factor, limits);
  const display = path.join(task.outFolder, 'arch');
  writeFileSync(display, gzipSync(await archFile(mesh, null)));
  return { checks: checkArch(mesh), triangles: mesh.triangles.length / 3, display };
}

/** Parts and landmarks proposed for the touched tooth. */
export async function proposed(task: Of<'propose'>, limits: FileLimits): Promise<Results['propose']> {
  const mesh = await meshOf(task.archFile, task.factor, limits);
  const { parts, ...proposal } = propose(mesh, task.tooth, task.touched, task.mesialward ? { mesialward: task.mesialward } : {});
  const [file, display] = [path.join(task.outFolder, 'parts'), path.join(task.outFolder, 'arch')];
  writeFileSync(file, parts);
  writeFileSync(display, gzipSync(await archFile(mesh, parts)));
  return { proposal, parts: file, display };
}

/** The finished master as one archive; it is made ready for measuring once, so that nothing is kept that cannot be used. */
export async function built(task: Of<'build'>, limits: FileLimits): Promise<Results['build']> {
  const mesh = await meshOf(task.archFile, task.factor, limits);
  const parts = painted(mesh.positions, new Uint8Array(readFileSync(task.partsFile)), task.strokes);
  const opposing = task.opposingFile ? await meshOf(task.opposingFile, task.factor, limits) : null;
  const inner = async (which: Inner): Promise<Mesh | null> => {
    const file = task.innerFiles[which];
    return file ? meshOf(file, task.factor, limits) : null;
  };
  const meshes = { arch: { mesh, parts }, opposing, dej: await inner('dej'), caries: await inner('caries'), pulp: await inner('pulp') };
  prepareMaster(task.description, meshes);
  const folder = path.join(task.outFolder, 'master');
  saveMaster(folder, { description: task.description, meshes });
  const archive = path.join(task.outFolder, 'master.zip');
  writeFileSync(archive, masterArchive(folder));
  return {
    archive,
    needs: needsOf({
      parts,
      landmarks: task.description,
      opposing: opposing !== null,
      inner: { dej: meshes.dej !== null, caries: meshes.caries !== null, pulp: meshes.pulp !== null },
    }),
  };
}
