import { readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { gzipSync } from 'node:zlib';
import { type Compared, INNER, type Inner } from '#contract/master-draft.ts';
import { carryMarks } from '#core/annotate/carry.ts';
import { checkArch } from '#core/annotate/checks.ts';
import { compareMasters } from '#core/annotate/compare.ts';
import { needsOf } from '#core/annotate/needs.ts';
import { opposingAxes } from '#core/annotate/opposing.ts';
import { painted } from '#core/annotate/paint.ts';
import { propose } from '#core/annotate/propose.ts';
import { IDENTITY } from '#core/linalg/rigid.ts';
import { byAxis, unit, type Vec3 } from '#core/linalg/vec.ts';
import { type Master, prepareMaster } from '#core/master/master.ts';
import { intoFrame, type Mesh } from '#core/mesh/mesh.ts';
import { placeByBite } from '#core/occlusion/bite.ts';
import { contactsBetween, HELD_BY, settle } from '#core/occlusion/settle.ts';
import type { FileLimits } from '#core/scan/limits.ts';
import { writePly } from '#core/simulate/write.ts';
import { makeSurface } from '#core/spatial/surface.ts';
import { masterArchive } from '../../files/master-archive.ts';
import { type LoadedMaster, loadMaster, saveMaster } from '../../files/master-files.ts';
import { scanFromBytes } from '../../files/read-file.ts';
import { comparedScan } from '../masters/compared.ts';
import { trialOf } from '../masters/trial.ts';
import { archFile } from '../scans/display.ts';
import type { MasterParts, Results, Task } from './tasks.ts';

type Of<K extends Task['kind']> = Extract<Task, { kind: K }>;

const meshOf = async (file: string, factor: number, limits: FileLimits): Promise<Mesh> =>
  (await scanFromBytes(readFileSync(file), '', { limits, checkSize: false, unitFactor: factor })).mesh;

/** What an arch is like, and a picture to touch it on. */
async function surveyed(task: Of<'survey'>, limits: FileLimits): Promise<Results['survey']> {
  const mesh = await meshOf(task.archFile, task.factor, limits);
  const display = path.join(task.outFolder, 'arch');
  writeFileSync(display, gzipSync(await archFile(mesh, null)));
  return { checks: checkArch(mesh), triangles: mesh.triangles.length / 3, display };
}

/** Parts and landmarks proposed for the touched tooth. */
async function proposed(task: Of<'propose'>, limits: FileLimits): Promise<Results['propose']> {
  const mesh = await meshOf(task.archFile, task.factor, limits);
  const { parts, ...proposal } = propose(mesh, task.tooth, task.touched, task.mesialward ? { mesialward: task.mesialward } : {});
  const [file, display] = [path.join(task.outFolder, 'parts'), path.join(task.outFolder, 'arch')];
  writeFileSync(file, parts);
  writeFileSync(display, gzipSync(await archFile(mesh, parts)));
  return { proposal, parts: file, display };
}

/** The master that arch, marks and bodies make together, with the parts of its vertices. */
async function putTogether(task: MasterParts, limits: FileLimits): Promise<LoadedMaster> {
  const mesh = await meshOf(task.archFile, task.factor, limits);
  const parts = painted(mesh.positions, new Uint8Array(readFileSync(task.partsFile)), task.strokes);
  const lying = task.opposingFile ? await meshOf(task.opposingFile, task.factor, limits) : null;
  const opposing = lying && task.opposingPlace ? intoFrame(lying, task.opposingPlace, 'master') : lying;
  const inner = async (which: Inner): Promise<Mesh | null> => {
    const file = task.innerFiles[which];
    return file ? meshOf(file, task.factor, limits) : null;
  };
  const meshes = { arch: { mesh, parts }, opposing, dej: await inner('dej'), caries: await inner('caries'), pulp: await inner('pulp') };
  return { description: task.description, meshes, extra: task.extra };
}

/** The finished master as one archive; it is made ready for measuring once, so that nothing is kept that cannot be used. */
async function built(task: Of<'build'>, limits: FileLimits): Promise<Results['build']> {
  const m = await putTogether(task, limits);
  const { meshes } = m;
  prepareMaster(m.description, meshes);
  const folder = path.join(task.outFolder, 'master');
  saveMaster(folder, m);
  const archive = path.join(task.outFolder, 'master.zip');
  writeFileSync(archive, masterArchive(folder));
  return {
    archive,
    needs: needsOf({
      parts: meshes.arch.parts,
      landmarks: task.description,
      opposing: meshes.opposing !== null,
      inner: { dej: meshes.dej !== null, caries: meshes.caries !== null, pulp: meshes.pulp !== null },
    }),
  };
}

/** A plain crown cut into the master and measured: what was cut beside what was read. */
async function tried(task: Of<'trial'>, limits: FileLimits): Promise<Results['trial']> {
  const { description, meshes } = await putTogether(task, limits);
  return { lines: trialOf(prepareMaster(description, meshes)) };
}

const middleOf = (points: readonly Vec3[]): Vec3 => byAxis((k) => points.reduce((s, p) => s + p[k], 0) / points.length);

/** The opposing arch brought to its place, the axes of its teeth, and a picture of it there. */
async function occluded(task: Of<'occlude'>, limits: FileLimits): Promise<Results['occlude']> {
  const arch = makeSurface(await meshOf(task.archFile, task.factor, limits));
  const opposing = await meshOf(task.opposingFile, task.factor, limits);
  const { marks } = task;
  const at = middleOf(marks.cusps.length ? marks.cusps.map((c) => c.at) : marks.gingivalMargin);
  const bite = task.biteFile ? await meshOf(task.biteFile, task.factor, limits) : null;
  const by = task.start ? 'points' : bite ? 'bite' : 'file';
  const start = task.start ?? (bite ? placeByBite(bite, arch, makeSurface(opposing), { ...marks, at }) : IDENTITY);
  // As it lies in its file it is taken, not moved, unless a person asks for it.
  const rest = settle(arch, opposing, start, unit(marks.axis), by === 'points' ? HELD_BY.hand : HELD_BY.bite);
  const matrix = task.settle && rest ? rest.matrix : start;
  const placed = intoFrame(opposing, matrix, 'master');
  const touch = contactsBetween(arch, placed);
  const display = path.join(task.outFolder, 'opposing');
  writeFileSync(display, gzipSync(await archFile(placed, null)));
  return {
    occlusion: {
      by,
      matrix: [...matrix],
      settled: task.settle && rest !== null,
      ...touch,
      contacts: [...touch.contacts],
      moved_mm: task.settle && rest ? rest.moved_mm : 0,
      turned_deg: task.settle && rest ? rest.turned_deg : 0,
    },
    axes: opposingAxes(placed, task.tooth, at, unit(marks.axis)),
    display,
  };
}

/** Marks taken over from another master. */
async function carried(task: Of<'carry'>, limits: FileLimits): Promise<Results['carry']> {
  const mesh = await meshOf(task.archFile, task.factor, limits);
  const parts = painted(mesh.positions, new Uint8Array(readFileSync(task.partsFile)), task.strokes);
  const from = await loadMaster(task.masterFile);
  const { description, rms } = carryMarks(prepareMaster(from.description, from.meshes), {
    mesh,
    parts,
    tooth: task.tooth,
    at: { ...task.marks, name: '', tooth: task.tooth },
  });
  return { marks: description, rms };
}

/** A shared master taken apart into what a draft is made of. */
async function unpackedMaster(task: Of<'unpack-master'>): Promise<Results['unpack-master']> {
  const { description, meshes, extra } = await loadMaster(task.masterFile);
  const put = (name: string, bytes: Uint8Array): string => {
    const file = path.join(task.outFolder, name);
    writeFileSync(file, bytes);
    return file;
  };
  const mesh = (name: string, m: Mesh | null): string | null => m && put(name, writePly(m, null));
  const { arch } = meshes;
  const inner = Object.fromEntries(INNER.flatMap((k) => (meshes[k] ? [[k, mesh(k, meshes[k]) as string]] : [])));
  return {
    arch: mesh('arch-mesh', arch.mesh) as string,
    opposing: mesh('opposing', meshes.opposing),
    inner,
    parts: put('parts', arch.parts),
    display: put('arch', gzipSync(await archFile(arch.mesh, arch.parts))),
    description,
    extra: extra ?? {},
    checks: checkArch(arch.mesh),
    triangles: arch.mesh.triangles.length / 3,
  };
}

/** Two versions of a master, and attempts measured on both. */
async function comparedMasters(task: Of<'compare'>, limits: FileLimits): Promise<Results['compare']> {
  const load = async (file: string): Promise<Master> => {
    const { description, meshes } = await loadMaster(file);
    return prepareMaster(description, meshes);
  };
  const [before, after] = [await load(task.oldFile), await load(task.newFile)];
  const scans: Compared['scans'] = [];
  for (const s of task.scans)
    scans.push(await comparedScan(s, async () => (await scanFromBytes(readFileSync(s.scanFile), '', { limits })).mesh, before, after));
  return { with: '', name: before.description.name, ...compareMasters(before, after), scans };
}

export type MasterTask = Extract<
  Task,
  { kind: 'survey' | 'propose' | 'build' | 'trial' | 'occlude' | 'carry' | 'unpack-master' | 'compare' }
>;

/** What is done to masters in the making. */
export function masterTask(task: MasterTask, limits: FileLimits): Promise<Results[MasterTask['kind']]> {
  switch (task.kind) {
    case 'survey':
      return surveyed(task, limits);
    case 'propose':
      return proposed(task, limits);
    case 'build':
      return built(task, limits);
    case 'trial':
      return tried(task, limits);
    case 'occlude':
      return occluded(task, limits);
    case 'carry':
      return carried(task, limits);
    case 'unpack-master':
      return unpackedMaster(task);
    case 'compare':
      return comparedMasters(task, limits);
  }
}
