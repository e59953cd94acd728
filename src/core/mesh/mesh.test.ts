import { describe, expect, it } from 'vitest';
import type { Matrix } from '../linalg/rigid.ts';
import {
  borderVertices,
  bounds,
  faceNormals,
  intoFrame,
  makeMesh,
  subMesh,
  triangleNeighbours,
  vertexAdjacency,
  vertexNormals,
} from './mesh.ts';

/** A cube of side 2 about the origin: eight corners, twelve triangles, outside outward. */
const CORNERS = [-1, 1].flatMap((z) => [-1, 1].flatMap((y) => [-1, 1].flatMap((x) => [x, y, z])));
const SIDES = [
  [0, 2, 3, 1],
  [4, 5, 7, 6],
  [0, 1, 5, 4],
  [2, 6, 7, 3],
  [0, 4, 6, 2],
  [1, 3, 7, 5],
];
const cube = makeMesh('tooth', Float64Array.from(CORNERS), Uint32Array.from(SIDES.flatMap(([a, b, c, d]) => [a, b, c, a, c, d])));
/** The cube without its top. */
const box = makeMesh('tooth', cube.positions, Uint32Array.from(cube.triangles.filter((_, i) => i < 6 || i >= 12)));

describe('normals', () => {
  it('of faces look outward and have their areas', () => {
    const { normals, areas } = faceNormals(cube);
    expect(Array.from(areas)).toEqual(Array(12).fill(2));
    for (let f = 0; f < 12; f++) {
      const c = [0, 1, 2].map((k) => [0, 1, 2].reduce((s, i) => s + cube.positions[3 * cube.triangles[3 * f + i] + k], 0));
      expect(normals[3 * f] * c[0] + normals[3 * f + 1] * c[1] + normals[3 * f + 2] * c[2]).toBeGreaterThan(0);
    }
  });
  it('of corners are the diagonals, however a side is split; their areas make the whole', () => {
    const { normals, areas } = vertexNormals(cube);
    for (let v = 0; v < 8; v++)
      for (let k = 0; k < 3; k++) expect(normals[3 * v + k]).toBeCloseTo(cube.positions[3 * v + k] / Math.sqrt(3), 9);
    expect(areas.reduce((a, b) => a + b, 0)).toBeCloseTo(24);
  });
});

describe('neighbours and borders', () => {
  it('a closed cube has no border', () => {
    expect(triangleNeighbours(cube.triangles, 8).every((n) => n >= 0)).toBe(true);
    expect(Array.from(borderVertices(cube))).toEqual(Array(8).fill(0));
  });
  it('a box without its top has its upper corners on the border', () => {
    expect(triangleNeighbours(box.triangles, 8).filter((n) => n < 0)).toHaveLength(4);
    expect(Array.from(borderVertices(box))).toEqual([0, 0, 0, 0, 1, 1, 1, 1]);
  });
  it('neighbours name each other', () => {
    const n = triangleNeighbours(cube.triangles, 8);
    for (let s = 0; s < n.length; s++) expect([0, 1, 2].some((k) => n[3 * n[s] + k] === Math.floor(s / 3))).toBe(true);
  });
  it('the neighbours of a vertex are those that it shares a side with', () => {
    const { start, list } = vertexAdjacency(cube);
    const of = (v: number) => Array.from(list.slice(start[v], start[v + 1])).sort((a, b) => a - b);
    // Corner 0 has three edges, and the diagonals of the sides that were split through it.
    expect(of(0)).toEqual(expect.arrayContaining([1, 2, 4]));
    for (let v = 0; v < 8; v++) for (const w of of(v)) expect(of(w)).toContain(v);
  });
});

describe('parts and frames', () => {
  it('a part keeps only its own vertices and knows where they came from', () => {
    const { mesh, from } = subMesh(cube, (f) => f < 2);
    expect(mesh.positions.length).toBe(12);
    expect(Array.from(from).sort()).toEqual([0, 1, 2, 3]);
    expect(bounds(mesh.positions)).toEqual({ min: [-1, -1, -1], max: [1, 1, -1] });
  });
  it('a mirror turns the winding, so that outside stays outside', () => {
    const mirror: Matrix = [-1, 0, 0, 5, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];
    const m = intoFrame(cube, mirror, 'master');
    expect(m.frame).toBe('master');
    expect(bounds(m.positions)).toEqual({ min: [4, -1, -1], max: [6, 1, 1] });
    const { normals } = faceNormals(m);
    const c = [0, 1, 2].map((k) => [0, 1, 2].reduce((s, i) => s + m.positions[3 * m.triangles[i] + k] / 3, 0) - [5, 0, 0][k]);
    expect(normals[0] * c[0] + normals[1] * c[1] + normals[2] * c[2]).toBeGreaterThan(0);
  });
  it('a triangle without area has no direction', () => {
    const flat = makeMesh('tooth', Float64Array.from([0, 0, 0, 1, 0, 0, 2, 0, 0]), Uint32Array.from([0, 1, 2]));
    const { normals, areas } = faceNormals(flat);
    expect([Array.from(normals), areas[0]]).toEqual([[0, 0, 0], 0]);
  });
});
