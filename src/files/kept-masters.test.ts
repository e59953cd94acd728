import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, utimesSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { keptOf } from '#core/master/kept.ts';
import { type Master, PART, partAlone } from '#core/master/master.ts';
import { closestPoint, newClosest } from '#core/spatial/surface.ts';
import { cylinderFiles } from '../../test/helpers/bench-crown.ts';
import { KeptMasters } from './kept-masters.ts';
import { saveMaster } from './master-files.ts';
import { packed } from './packed.ts';

const root = mkdtempSync(path.join(tmpdir(), 'kept-'));
afterAll(() => rmSync(root, { recursive: true }));

/** A master's folder: a cylinder of the given height under a flat opposing jaw. */
function folderOf(name: string, height: number): string {
  const { description, meshes } = cylinderFiles({ height, opposingAt: height + 1 });
  const where = path.join(root, name);
  saveMaster(where, { description: { ...description, name: 'Zylinder “ž”' }, meshes });
  return where;
}

const folder = path.join(root, 'made');
const masters = (program: string | null = 'one'): KeptMasters => new KeptMasters(folder, program);
const files = (): string[] => (existsSync(folder) ? readdirSync(folder) : []);

const bytes = (a: Float64Array | Uint8Array | undefined): string =>
  createHash('sha1')
    .update(a ?? '')
    .digest('hex');
/** Whether two masters are alike to the last bit, but for what follows from the rest. */
const same = (a: Master, b: Master): boolean => {
  const [x, y] = [a, b].map((m) => bytes(packed({ ...keptOf(m), made: [] })));
  return x === y;
};

describe('masters made ready', () => {
  const where = folderOf('a', 7);
  it('are the same when they come back, with what was made of them meanwhile', async () => {
    const first = masters();
    const made = await first.at(where);
    partAlone(made, PART.target);
    expect(files()).toHaveLength(0);
    first.keep();
    const again = await masters().at(where);
    expect(same(again, made)).toBe(true);
    for (const part of ['whole', 'target', 'opposing'] as const) {
      expect(bytes(again[part]?.faceNormals)).toEqual(bytes(made[part]?.faceNormals));
      expect(bytes(again[part]?.tree.corners)).toEqual(bytes(made[part]?.tree.corners));
    }
    expect(again.pulp).toBeNull();
    expect(again.made.size).toBe(1);
    const hit = newClosest();
    expect(closestPoint(again.target, 9, 0, 3, hit) && Math.sqrt(hit.distanceSquared)).toBeCloseTo(4, 2);
  });
  it('are made again when another program asks, and never kept without a name for it', async () => {
    const [before] = files();
    const other = masters('another');
    await other.at(where);
    other.keep();
    expect(files()).toHaveLength(2);
    const nameless = masters(null);
    await nameless.at(where);
    nameless.keep();
    expect(files()).toHaveLength(2);
    expect(files()).toContain(before);
  });
  it('are made again when one of their files has changed', async () => {
    const changed = folderOf('changed', 7);
    await masters().at(changed);
    const top = (await masters().at(changed)).target.mesh.positions.reduce((m, v, i) => (i % 3 === 2 ? Math.max(m, v) : m), 0);
    expect(top).toBeCloseTo(7, 4);
    folderOf('changed', 6);
    const lower = (await masters().at(changed)).target.mesh.positions.reduce((m, v, i) => (i % 3 === 2 ? Math.max(m, v) : m), 0);
    expect(lower).toBeCloseTo(6, 4);
  });
  it('are made again when what was kept is damaged anywhere', async () => {
    const made = await masters(null).at(where);
    for (const spoil of [
      (b: Buffer) => b.subarray(0, b.length - 100),
      (b: Buffer) => b.subarray(0, 5),
      (b: Buffer) => b.map((v, k) => (k === b.length >> 1 ? v ^ 1 : v)),
    ])
      for (const name of files()) {
        const whole = readFileSync(path.join(folder, name));
        writeFileSync(path.join(folder, name), spoil(whole));
        expect(same(await masters().at(where), made)).toBe(true);
        writeFileSync(path.join(folder, name), whole);
      }
  });
  it('stay four, those used last', async () => {
    const old = files();
    for (const name of old) utimesSync(path.join(folder, name), new Date(0), new Date(0));
    const used = masters();
    await used.at(where);
    const many = masters();
    for (const k of [1, 2, 3]) await many.at(folderOf(`more${k}`, 7 + k / 10));
    many.keep();
    expect(files()).toHaveLength(4);
    // The one that was used is still there beside the three.
    expect(old.filter((n) => files().includes(n))).toHaveLength(1);
  });
  it('work where nothing can be written', async () => {
    const blocked = path.join(root, 'blocked');
    writeFileSync(blocked, '');
    const none = new KeptMasters(path.join(blocked, 'made'), 'one');
    await none.at(where);
    expect(() => none.keep()).not.toThrow();
  });
  it('a master that cannot be read is a fault as ever, whatever its file names', async () => {
    const broken = path.join(root, 'broken');
    mkdirSync(broken);
    writeFileSync(path.join(broken, 'master.json'), '{"meshes":{"arch":"../a/arch.ply"}}');
    await expect(masters().at(broken)).rejects.toMatchObject({ code: 'master.json' });
    writeFileSync(path.join(broken, 'master.json'), 'no json');
    await expect(masters().at(broken)).rejects.toMatchObject({ code: 'master.json' });
    await expect(masters().at(path.join(root, 'nowhere'))).rejects.toMatchObject({ code: 'master.json' });
  });
});
