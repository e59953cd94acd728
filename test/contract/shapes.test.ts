import DxfParser from 'dxf-parser';
import { XMLParser, XMLValidator } from 'fast-xml-parser';
import * as THREE from 'three';
import { GLTFLoader } from 'three/examples/jsm/loaders/GLTFLoader.js';
import { PLYLoader } from 'three/examples/jsm/loaders/PLYLoader.js';
import { describe, expect, it } from 'vitest';
import { depthColour } from '#contract/depth-ramp.ts';
import type { DisplayMesh } from '#contract/display.ts';
import { glbOf, planSvg, plyOf, sectionDxf, sectionSvg } from '../../src/files/shapes.ts';

// Each file is read by a program that is not ours, and says what went in.
const BANDS = { occlusal: [1, 1.5], axial: [0.5, 1] } as const;
const scan: DisplayMesh = {
  name: 'scan',
  positions: Float32Array.from([0, 0, 0, 4, 0, 0, 0, 3, 0, 0, 0, 2]),
  indices: Uint32Array.from([0, 2, 1, 0, 1, 3, 0, 3, 2, 1, 2, 3]),
  depth: Float32Array.from([1.2, 0.2, 3, 1.2]),
  surface: Uint8Array.from([3, 3, 3, 0]),
};
const buffer = (bytes: Uint8Array): ArrayBuffer => bytes.slice().buffer;
const byte = (c: readonly number[]): number[] => c.map((x) => Math.round(255 * x));
const volume = (g: THREE.BufferGeometry): number => {
  const [p, i] = [g.getAttribute('position'), g.getIndex() as THREE.BufferAttribute];
  const at = (k: number) => new THREE.Vector3().fromBufferAttribute(p, i.getX(k));
  let sum = 0;
  for (let f = 0; f < i.count; f += 3) sum += at(f).dot(at(f + 1).cross(at(f + 2))) / 6;
  return sum;
};

describe('the coloured tooth', () => {
  it('as PLY has its size in mm and the screen’s colours', () => {
    const g = new PLYLoader().parse(buffer(plyOf(scan, BANDS)));
    expect([g.getAttribute('position').count, g.getIndex()?.count]).toEqual([4, 12]);
    // A right-angled corner of 4 × 3 × 2: a sixth of the box.
    expect(volume(g)).toBeCloseTo(4, 5);
    const colour = g.getAttribute('color');
    const colours = [0, 1, 2, 3].map((v) =>
      new THREE.Color().fromBufferAttribute(colour as THREE.BufferAttribute, v).convertLinearToSRGB(),
    );
    colours.forEach((c, v) => {
      const wanted = byte(depthColour(scan.depth?.[v] ?? 0, scan.surface?.[v] ?? 0, BANDS));
      byte([c.r, c.g, c.b]).forEach((x, k) => {
        // That reader keeps colours as light and rounds on the way back.
        expect(Math.abs(x - wanted[k])).toBeLessThanOrEqual(2);
      });
    });
  });
  it('as GLB stands upright in metres, as that format asks', async () => {
    const glb = buffer(await glbOf(scan, BANDS));
    const { scene } = await new Promise<{ scene: THREE.Group }>((resolve, reject) => new GLTFLoader().parse(glb, '', resolve, reject));
    scene.updateMatrixWorld(true);
    const mesh = scene.getObjectByProperty('type', 'Mesh') as THREE.Mesh;
    const size = new THREE.Box3().setFromObject(mesh).getSize(new THREE.Vector3());
    // Occlusal height (2 mm) is up, faciolingual (3 mm) is depth.
    expect(size.toArray().map((x) => Number((1000 * x).toFixed(4)))).toEqual([4, 2, 3]);
    expect(mesh.geometry.getAttribute('color').count).toBe(4);
  });
});

const half = (r: number) => ({
  azimuth: 0,
  scan: [0, 4, r, 4, r + 1, 0],
  master: [0, 5, r + 1.5, 5, r + 2, 0],
  finish: null,
  foot: null,
  wall: null,
  width: null,
  taper: null,
  height: null,
});
const CUT = { near: half(2), far: half(3) };

describe('a section', () => {
  it('as SVG is well-formed and to scale: a unit is a millimetre, the square beside it is ten', () => {
    const svg = sectionSvg(CUT, 'facial to lingual, <b> & “c”');
    expect(XMLValidator.validate(svg)).toBe(true);
    const read = new XMLParser({ ignoreAttributes: false, attributeNamePrefix: '' }).parse(svg).svg;
    const [, , width, height] = read.viewBox.split(' ').map(Number);
    expect([read.width, read.height]).toEqual([`${width.toFixed(3)}mm`, `${height.toFixed(3)}mm`]);
    expect([Number(read.rect.width), Number(read.rect.height)]).toEqual([10, 10]);
    const across = read.path
      .filter((p: { id: string }) => p.id.startsWith('preparation'))
      .flatMap((p: { d: string }) =>
        p.d
          .slice(1)
          .split('L')
          .map((q) => Number(q.split(' ')[0])),
      );
    // Near side out to 3 mm, far side out to 4 mm the other way.
    expect([Math.min(...across), Math.max(...across)]).toEqual([-4, 3]);
  });
  it('as DXF has its lines in mm on their layers', () => {
    const dxf = new DxfParser().parseSync(sectionDxf(CUT));
    const lines = (dxf?.entities ?? []) as unknown as { type: string; layer: string; vertices: { x: number; y: number }[] }[];
    const of = (layer: string) => lines.filter((l) => l.layer === layer).flatMap((l) => l.vertices);
    expect(lines.every((l) => l.type === 'LWPOLYLINE')).toBe(true);
    expect([Math.min(...of('preparation').map((p) => p.x)), Math.max(...of('preparation').map((p) => p.x))]).toEqual([-4, 3]);
    expect(Math.max(...of('master').map((p) => p.y))).toBe(5);
    const xs = of('check').map((p) => p.x);
    expect(Math.max(...xs) - Math.min(...xs)).toBe(10);
    expect(dxf?.header.$INSUNITS).toBe(4);
  });
});

describe('a plan', () => {
  const curves = {
    'plan.outline': [
      [1, 0],
      [2, 1],
      [0, 2],
    ],
    'plan.tooth': [
      [-4, -4],
      [4, -4],
      [4, 4],
    ],
  };
  it('stands as the tooth does: facial up, mesial where the quadrant has it', () => {
    const read = (sign: number) =>
      new XMLParser({ ignoreAttributes: false, attributeNamePrefix: '' }).parse(planSvg(curves, sign, 'Class I') as string).svg;
    const outline = (sign: number): string => read(sign).path.find((p: { id: string }) => p.id === 'outline').d;
    expect(outline(1)).toBe('M1.000 0.000L2.000 -1.000L0.000 -2.000Z'.replace('0.000L2', '0.000L2'));
    expect(outline(-1)).toMatch(/^M-1\.000/);
  });
  it('is none where a kind has no outline from above', () => expect(planSvg({}, 1, '')).toBeNull());
});
