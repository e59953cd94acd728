import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { checked } from '#contract/check.ts';
import { MasterFile } from '#contract/master.ts';
import type { MasterDescription, MasterMeshes } from '#core/master/master.ts';
import type { Mesh } from '#core/mesh/mesh.ts';
import { Fault } from '#core/result/fault.ts';
import { FILE_LIMITS } from '#core/scan/limits.ts';
import { writePly } from '#core/simulate/write.ts';
import { unzipped } from './archive.ts';
import { scanFromBytes } from './read-file.ts';

const REMEDY = 'Correct the file, or export the master again.';

export interface LoadedMaster {
  readonly description: MasterDescription;
  readonly meshes: MasterMeshes;
  /** Keys of the file that nothing here reads; they are kept and passed on. */
  readonly extra?: Readonly<Record<string, unknown>>;
}

/** The files of a master by name, from a folder or a .zip; a zip may hold them in one folder of its own. */
async function filesOf(where: string): Promise<ReadonlyMap<string, () => Uint8Array>> {
  if (!existsSync(where))
    throw new Fault('master.json', {
      where,
      expected: 'a master is a folder or a .zip',
      received: 'there is nothing of that name',
      remedy: 'Check the path.',
    });
  if (statSync(where).isDirectory()) return new Map(readdirSync(where).map((n) => [n, () => readFileSync(path.join(where, n))]));
  const files = new Map<string, () => Uint8Array>();
  for await (const e of unzipped(readFileSync(where), where, FILE_LIMITS)) files.set(e.name, () => e.bytes);
  return files;
}

export async function loadMaster(where: string): Promise<LoadedMaster> {
  const files = await filesOf(where);
  const need = (name: string): Uint8Array => {
    const read = files.get(name);
    if (!read)
      throw new Fault('master.json', {
        where: `${where}, ${name}`,
        expected: `it holds ${[...files.keys()].slice(0, 6).join(', ') || 'nothing'}`,
        received: 'the file is missing',
        remedy: REMEDY,
      });
    return read();
  };
  let json: unknown;
  try {
    json = JSON.parse(new TextDecoder().decode(need('master.json')));
  } catch (e) {
    if (e instanceof Fault) throw e;
    throw new Fault('master.json', {
      where: `${where}, master.json`,
      expected: 'it is JSON',
      received: `it is not: ${(e as Error).message}`,
      remedy: REMEDY,
    });
  }
  const m = checked(MasterFile, json, 'master.json', `${where}, master.json`, REMEDY);
  const mesh = async (name: string | null): Promise<Mesh | null> =>
    name ? (await scanFromBytes(need(name), `${where}, ${name}`, { checkSize: false })).mesh : null;
  const arch = await scanFromBytes(need(m.meshes.arch), `${where}, ${m.meshes.arch}`);
  if (!arch.parts)
    throw new Fault('master.part', {
      where: `${where}, ${m.meshes.arch}`,
      expected: 'its vertices carry “property uchar part” (PLY)',
      received: 'there are no part labels',
      remedy: 'Label target, neighbours and gingiva, and save the arch as PLY.',
    });
  const description: MasterDescription = {
    name: m.name,
    tooth: m.tooth,
    axis: m.axis,
    mesial: m.mesial,
    facial: m.facial,
    cusps: m.cusps,
    grooves: m.grooves,
    ridges: { mesial: m.ridges.mesial ?? [], distal: m.ridges.distal ?? [], oblique: m.ridges.oblique ?? [] },
    contacts: { mesial: m.contacts.mesial ?? null, distal: m.contacts.distal ?? null },
    gingivalMargin: m.gingivalMargin,
    ...(m.neighbourCusps ? { neighbourCusps: m.neighbourCusps } : {}),
    ...(m.opposingAxes ? { opposingAxes: m.opposingAxes } : {}),
    ...(m.cej ? { cej: m.cej } : {}),
    ...(m.conditions ? { conditions: m.conditions } : {}),
  };
  return {
    description,
    extra: Object.fromEntries(Object.entries(m).filter(([k]) => !(k in MasterFile.entries))),
    meshes: {
      arch: { mesh: arch.mesh, parts: arch.parts },
      opposing: await mesh(m.meshes.opposing),
      dej: await mesh(m.meshes.dej),
      caries: await mesh(m.meshes.caries),
      pulp: await mesh(m.meshes.pulp),
    },
  };
}

/** Writes a master as a folder in the documented format. */
export function saveMaster(dir: string, m: LoadedMaster): void {
  mkdirSync(dir, { recursive: true });
  const file = (name: string, mesh: Mesh | null): string | null => {
    if (!mesh) return null;
    writeFileSync(path.join(dir, name), writePly(mesh, null));
    return name;
  };
  writeFileSync(path.join(dir, 'arch.ply'), writePly(m.meshes.arch.mesh, m.meshes.arch.parts));
  const meshes = {
    arch: 'arch.ply',
    opposing: file('opposing.ply', m.meshes.opposing),
    dej: file('dej.ply', m.meshes.dej),
    caries: file('caries.ply', m.meshes.caries),
    pulp: file('pulp.ply', m.meshes.pulp),
  };
  const { name, tooth, axis, mesial, facial, ...landmarks } = m.description;
  writeFileSync(
    path.join(dir, 'master.json'),
    JSON.stringify({ ...m.extra, format: 'veritor-master/1', name, tooth, meshes, axis, mesial, facial, ...landmarks }, null, 1),
  );
}
