import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { checked } from '#contract/check.ts';
import { MasterFile } from '#contract/master.ts';
import type { MasterDescription, MasterMeshes } from '#core/master/master.ts';
import type { Mesh } from '#core/mesh/mesh.ts';
import { Fault } from '#core/result/fault.ts';
import { writePly } from '#core/simulate/write.ts';
import { scanFromBytes, unzipped } from './read-file.ts';

const REMEDY = 'Correct the file, or export the master again.';

export interface LoadedMaster {
  readonly description: MasterDescription;
  readonly meshes: MasterMeshes;
}

/** The files of a master, from a folder or a .zip; a zip may hold them in one folder of its own. */
function filesOf(where: string): { names: string[]; read: (name: string) => Uint8Array } {
  if (!existsSync(where))
    throw new Fault('master.json', {
      where,
      expected: 'a master is a folder or a .zip',
      received: 'there is nothing of that name',
      remedy: 'Check the path.',
    });
  if (statSync(where).isDirectory()) return { names: readdirSync(where), read: (n) => readFileSync(path.join(where, n)) };
  const files = unzipped(readFileSync(where), where);
  const json = Object.keys(files).find((n) => /(^|\/)master\.json$/.test(n));
  const base = json ? json.slice(0, -'master.json'.length) : '';
  return { names: Object.keys(files).map((n) => (n.startsWith(base) ? n.slice(base.length) : n)), read: (n) => files[base + n] };
}

export function loadMaster(where: string): LoadedMaster {
  const { names, read } = filesOf(where);
  const need = (name: string): Uint8Array => {
    if (!names.includes(name))
      throw new Fault('master.json', {
        where: `${where}, ${name}`,
        expected: `it holds ${names.slice(0, 6).join(', ') || 'nothing'}`,
        received: 'the file is missing',
        remedy: REMEDY,
      });
    return read(name);
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
  const mesh = (name: string | null): Mesh | null =>
    name ? scanFromBytes(need(name), `${where}, ${name}`, { checkSize: false }).mesh : null;
  const arch = scanFromBytes(need(m.meshes.arch), `${where}, ${m.meshes.arch}`);
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
  };
  return {
    description,
    meshes: {
      arch: { mesh: arch.mesh, parts: arch.parts },
      opposing: mesh(m.meshes.opposing),
      dej: mesh(m.meshes.dej),
      caries: mesh(m.meshes.caries),
      pulp: mesh(m.meshes.pulp),
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
    JSON.stringify({ format: 'veritor-master/1', name, tooth, meshes, axis, mesial, facial, ...landmarks }, null, 1),
  );
}
