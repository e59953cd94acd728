import { describe, expect, it } from 'vitest';
import { along, plate, revolve } from '../../../test/helpers/shapes.ts';
import { fromRotation, fromTranslation, multiply, transformPoints } from '../linalg/rigid.ts';
import { faceNormals, type Mesh, makeMesh, turnedOver } from '../mesh/mesh.ts';
import { writeStl } from '../simulate/write.ts';
import { facingOutward, outwardShare } from './outward.ts';
import { readScan } from './scan.ts';

const turned = ({ triangles }: Mesh): Uint32Array => turnedOver(triangles);

/** A dome of 20 mm without a base, meridian from the axis to the rim. */
const dome = revolve(
  Array.from({ length: 40 }, (_, i) => [20 * Math.sin((Math.PI * i) / 78), 20 * Math.cos((Math.PI * i) / 78)] as const),
  80,
);
/** A stump in a level field, as a tooth stands in its gingiva. */
const stump = revolve(
  along(
    [
      [0, 8],
      [4, 8],
      [5, 0],
      [14, 0],
    ],
    0.5,
  ),
  120,
);

describe('which way a surface faces', () => {
  it('is outward for a dome and a stump in a field, wherever they lie, and inward for the same inside out', () => {
    for (const shape of [dome, stump])
      for (const angle of [0, 1.7, 3.1]) {
        const p = transformPoints(multiply(fromTranslation([40, -30, 25]), fromRotation([0.6, 0.8, 0], angle)), shape.positions);
        const share = outwardShare(p, shape.triangles);
        expect(share).toBeGreaterThan(0.6);
        expect(outwardShare(p, turned(shape))).toBeCloseTo(-share, 9);
      }
    expect(outwardShare(dome.positions, dome.triangles)).toBeCloseTo(1, 2);
  });

  it('is outward for a closed body from any of its own places', () => {
    const tetrahedron = Float64Array.of(0, 0, 0, 10, 0, 0, 0, 10, 0, 0, 0, 10);
    const faces = Uint32Array.of(0, 2, 1, 0, 1, 3, 0, 3, 2, 1, 2, 3);
    expect(outwardShare(tetrahedron, faces)).toBe(1);
    expect(outwardShare(tetrahedron, turned(makeMesh('tooth', tetrahedron, faces)))).toBe(-1);
  });

  it('is neither for a flat sheet, which stays as it is', () => {
    const sheet = plate(5, 0);
    expect(outwardShare(sheet.positions, sheet.triangles)).toBeCloseTo(0, 9);
    expect(facingOutward(sheet.positions, turned(sheet))).toEqual(turned(sheet));
  });

  it('is mended when a file is read: every triangle of a scan turned inside out faces outward again', () => {
    const right = readScan(writeStl(stump)).mesh;
    const wrong = readScan(writeStl(makeMesh('tooth', stump.positions, turned(stump)))).mesh;
    const upward = (m: Mesh): number => faceNormals(m).normals.filter((n, i) => i % 3 === 2 && n > 0.9).length;
    expect(upward(right)).toBeGreaterThan(1000);
    expect(upward(wrong)).toBe(upward(right));
    expect(wrong.triangles.length).toBe(right.triangles.length);
  });

  it('does not change for a few triangles that an export turned', () => {
    const t = stump.triangles.slice();
    for (let h = 0; h < t.length; h += 30) [t[h + 1], t[h + 2]] = [t[h + 2], t[h + 1]];
    expect(facingOutward(stump.positions, t)).toBe(t);
  });
});
