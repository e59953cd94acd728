import { PNG } from 'pngjs';
import * as v from 'valibot';
import { describe, expect, it } from 'vitest';
import { SURFACE, surfaceOf } from '#contract/depth-ramp.ts';
import { unpackDisplay } from '#contract/display.ts';
import { ProfilesFile } from '#contract/profiles.ts';
import { IDENTITY } from '#core/linalg/rigid.ts';
import { type Master, prepareMaster } from '#core/master/master.ts';
import { measure } from '#core/pipeline.ts';
import { bandsOf } from '#server/view/bands.ts';
import { displayFile, pairFile, profileViews } from '../../src/server/scans/display.ts';
import { occlusalPicture } from '../../src/server/scans/picture.ts';
import { archMaster, archScan, frustum } from '../helpers/bench-crown.ts';
import { RUBRIC } from '../helpers/school.ts';

const right = archMaster();
/** The same scene as a tooth of the other side: facial is where lingual was, so that its axes are left-handed. */
const left: Master = prepareMaster(
  { ...right.description, tooth: '37', facial: [0, -1, 0] },
  { arch: { mesh: right.whole.mesh, parts: right.wholeParts }, opposing: null, dej: null, caries: null, pulp: null },
);
const scan = archScan(frustum(0.8, 6));
const measured = (master: Master) => measure('crown', { ...scan, frame: 'scanner' } as never, master, { byHand: IDENTITY });
const shown = async (master: Master) => {
  const m = measured(master);
  const bytes = await displayFile(m);
  return { m, bytes, ...unpackDisplay(bytes.slice().buffer) };
};
type Shown = Awaited<ReturnType<typeof shown>>;
const meshOf = (s: Shown, name: string) => {
  const found = s.meshes.find((q) => q.name === name);
  if (!found) throw new Error(`no ${name}`);
  return found;
};

describe.each([
  ['right-handed axes', right, 1],
  ['left-handed axes', left, -1],
] as const)('the picture’s file of a tooth with %s', (_, master, sign) => {
  const file = shown(master);
  it('says on which side mesial is, and that is where the mesial neighbour stands', async () => {
    const s = await file;
    expect(s.header.mesialSign).toBe(sign);
    // The mesial neighbour’s top, 9.6 mm away in the scene, stands highest beside the target.
    const { positions: p } = meshOf(s, 'scan');
    const high: number[] = [];
    for (let i = 0; i < p.length; i += 3) if (p[i + 2] > 6 && Math.hypot(p[i], p[i + 1]) > 5.6) high.push(p[i]);
    expect(high.length).toBeGreaterThan(20);
    for (const x of high) expect(x * sign).toBeGreaterThan(5);
  });
  it('is no mirror image: upper sides look up', async () => {
    const { positions: p, indices: t } = meshOf(await file, 'scan');
    let up = 0;
    let down = 0;
    for (let f = 0; f < t.length; f += 3) {
      const [a, b, c] = [0, 1, 2].map((k) => 3 * t[f + k]);
      if (Math.min(p[a + 2], p[b + 2], p[c + 2]) < 4.95 || Math.hypot(p[a], p[a + 1]) > 3) continue;
      const z = (p[b] - p[a]) * (p[c + 1] - p[a + 1]) - (p[b + 1] - p[a + 1]) * (p[c] - p[a]);
      // A sliver without area looks nowhere.
      if (z > 1e-6) up++;
      else if (z < -1e-6) down++;
    }
    expect(up).toBeGreaterThan(10);
    expect(down).toBe(0);
  });
  it('carries the depth of the full scan at its points: 2 mm on top, none beside', async () => {
    const mesh = meshOf(await file, 'scan');
    const { positions: p, depth, surface } = mesh;
    if (!depth || !surface) throw new Error('the scan has its depths');
    for (let i = 0; i < depth.length; i++) {
      const r = Math.hypot(p[3 * i], p[3 * i + 1]);
      if (p[3 * i + 2] > 4.99 && r < 2.5) {
        expect(depth[i]).toBeCloseTo(2, 1);
        expect(surfaceOf(surface[i])).toBe(SURFACE.occlusal);
      }
      if (r > 8) expect([depth[i], surfaceOf(surface[i])]).toEqual([0, 0]);
    }
  });
  it('draws the finish line where it was measured', async () => {
    const { header } = await file;
    expect(header.finishLine.length).toBeGreaterThan(100);
    for (const [x, y, z] of header.finishLine) {
      expect(Math.hypot(x, y)).toBeCloseTo(5, 1);
      expect(z).toBeCloseTo(1, 1);
    }
  });
  it('is light enough to be sent, master and scan', async () => {
    const s = await file;
    expect(meshOf(s, 'scan').indices.length / 3).toBeLessThanOrEqual(62_000);
    expect(meshOf(s, 'master').indices.length / 3).toBeLessThanOrEqual(13_000);
    expect(s.meshes.some((m) => m.name === 'opposing')).toBe(false);
  });
});

describe('what the section shows', () => {
  const views = profileViews(measured(right));
  it('is a half plane every two degrees, as the file’s contract has it', () => {
    expect(views.map((p) => p.azimuth)).toEqual(Array.from({ length: 180 }, (_, k) => 2 * k));
    expect(() => v.parse(ProfilesFile, { format: 'veritor-profiles/1', profiles: JSON.parse(JSON.stringify(views)) })).not.toThrow();
  });
  it('has the figures of the preparation at every one', () => {
    for (const p of views) {
      expect(p.width).toBeCloseTo(0.8, 1);
      expect(Math.abs((p.taper ?? 99) - 6)).toBeLessThan(0.8);
      expect(p.finish?.[0]).toBeCloseTo(5, 1);
      expect(p.height).toBeCloseTo(1, 1);
    }
  });
  it('runs from the uncut side over floor and wall to the top, the master outside of it', () => {
    const p = views[40];
    const r = p.scan.filter((_, i) => i % 2 === 0);
    const z = p.scan.filter((_, i) => i % 2 === 1);
    expect(Math.max(...r)).toBeGreaterThan(4.9);
    expect(Math.max(...z)).toBeCloseTo(5, 1);
    const master = p.master.filter((_, i) => i % 2 === 1);
    expect(Math.max(...master)).toBeCloseTo(7, 1);
  });
});

describe('the tray’s small picture', () => {
  it('is a picture of the tooth in the colours of its depths', async () => {
    const { bytes } = await shown(right);
    const png = PNG.sync.read(Buffer.from(occlusalPicture(bytes, bandsOf(RUBRIC as never))));
    expect([png.width, png.height]).toEqual([240, 180]);
    const colours = new Set<string>();
    for (let i = 0; i < png.data.length; i += 4) colours.add(png.data.subarray(i, i + 3).join(' '));
    // Ground, uncut tooth and at least the steps of shading on what was cut.
    expect(colours.size).toBeGreaterThan(20);
    const corner = [...png.data.subarray(0, 3)];
    const middle = 4 * (90 * 240 + 120);
    expect([...png.data.subarray(middle, middle + 3)]).not.toEqual(corner);
  });
});

it('scan and master go side by side for three points, light and each in its own frame', async () => {
  const { meshes } = unpackDisplay((await pairFile(scan as never, right.whole.mesh as never)).slice().buffer);
  expect(meshes.map((m) => m.name)).toEqual(['scan', 'master']);
  for (const m of meshes) {
    expect(m.indices.length / 3).toBeLessThanOrEqual(26_000);
    expect(m.depth).toBeNull();
  }
});

describe('what is seen along the path of insertion', () => {
  const along = async (lean: number) => {
    const m = measure('crown', { ...archScan(frustum(0.4, lean)), frame: 'scanner' } as never, right, { byHand: IDENTITY });
    return { m, header: unpackDisplay((await displayFile(m)).slice().buffer).header };
  };
  it('the path is a unit vector out of the tooth, and a clean margin is seen all round', async () => {
    const { header } = await along(6);
    expect(Math.hypot(...(header.path ?? []))).toBeCloseTo(1, 6);
    expect(header.path?.[2]).toBeGreaterThan(0.99);
    expect(header.lines.filter((l) => l.of.includes('margin.visible'))).toEqual([]);
  });
  it('a wall that stands out over its margin hides it: the hidden stretches lie on the finish line', async () => {
    const { header, m } = await along(-12);
    const hidden = header.lines.filter((l) => l.of.includes('margin.visible')).flatMap((l) => l.points);
    // Hidden all round, so that nearly every place of the finish line is one of a hidden stretch.
    expect(hidden.length).toBeGreaterThan(0.9 * m.curves.finishLine.length);
    const line = new Set(header.finishLine.map((p) => p.join()));
    expect(hidden.filter((p) => !line.has(p.join()))).toEqual([]);
  });
  it('only a partial crown has a plate to colour', async () => {
    const m = measured(right);
    expect(unpackDisplay((await displayFile(m)).slice().buffer).meshes.map((q) => q.name)).not.toContain('plate');
  });
});
