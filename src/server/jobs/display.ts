import { MeshoptSimplifier } from 'meshoptimizer';
import { SURFACE } from '#contract/depth-ramp.ts';
import { type DisplayMesh, packDisplay } from '#contract/display.ts';
import type { ProfileView } from '#contract/profiles.ts';
import { determinant3, type Matrix, transformPoints } from '#core/linalg/rigid.ts';
import { marginHeights } from '#core/measure/crown/margin-gingiva.ts';
import { marginWidths } from '#core/measure/crown/margin-width.ts';
import type { Mesh } from '#core/mesh/mesh.ts';
import type { Measured } from '#core/pipeline.ts';
import { AZIMUTHS, radialPoint } from '#core/segment/crown.ts';
import { cutRadially } from '#core/segment/cut.ts';
import { resample } from '#core/segment/polyline.ts';
import { classify } from '#core/segment/surfaces.ts';

const SCAN_TRIANGLES = 60_000;
const MASTER_TRIANGLES = 12_000;

/** The measured scan made light for the screen; depths are those of the full resolution. */
export async function displayFile(m: Measured): Promise<Uint8Array> {
  await MeshoptSimplifier.ready;
  const { master, region, alignment } = m.context.anatomy;
  const leftHanded = determinant3(master.toTooth) < 0;
  const frame: Matrix = [leftHanded ? -1 : 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];
  const kinds = classify(m.context.anatomy, m.context.draw?.direction ?? [0, 0, 1]);
  const depth = new Float32Array(alignment.scan.positions.length / 3);
  const surface = new Uint8Array(depth.length);
  region.from.forEach((v, i) => {
    depth[v] = region.depth[i];
    surface[v] = SURFACE[kinds[i]];
  });
  const meshes = [
    light('scan', alignment.scan, frame, leftHanded, SCAN_TRIANGLES, depth, surface),
    light('master', master.target.mesh, frame, leftHanded, MASTER_TRIANGLES, null, null),
    ...(master.opposing ? [light('opposing', master.opposing.mesh, frame, leftHanded, MASTER_TRIANGLES, null, null)] : []),
  ];
  const finishLine = m.context.azimuths.flatMap((a, k): [number, number, number][] => {
    const r = m.context.finishR[k];
    const z = m.context.finishZ[k];
    if (r === null || z === null) return [];
    const p = radialPoint(a, r, z);
    return [[leftHanded ? -p[0] : p[0], p[1], p[2]]];
  });
  return packDisplay({ mesialSign: leftHanded ? -1 : 1, finishLine }, meshes);
}

function light(
  name: string,
  mesh: Mesh,
  frame: Matrix,
  flip: boolean,
  target: number,
  depth: Float32Array | null,
  surface: Uint8Array | null,
): DisplayMesh {
  const positions = Float32Array.from(transformPoints(frame, mesh.positions));
  let indices = mesh.triangles;
  if (indices.length / 3 > target) indices = MeshoptSimplifier.simplify(indices, positions, 3, target * 3, 2e-3, ['LockBorder'])[0];
  const map = new Int32Array(positions.length / 3).fill(-1);
  const used: number[] = [];
  const out = new Uint32Array(indices.length);
  for (let i = 0; i < indices.length; i++) {
    const v = indices[i];
    if (map[v] < 0) {
      map[v] = used.length;
      used.push(v);
    }
    out[i] = map[v];
  }
  if (flip) for (let i = 0; i < out.length; i += 3) [out[i + 1], out[i + 2]] = [out[i + 2], out[i + 1]];
  const p = new Float32Array(used.length * 3);
  used.forEach((v, i) => {
    for (let k = 0; k < 3; k++) p[3 * i + k] = positions[3 * v + k];
  });
  return {
    name,
    positions: p,
    indices: out,
    depth: depth && Float32Array.from(used, (v) => depth[v]),
    surface: surface && Uint8Array.from(used, (v) => surface[v]),
  };
}

const round = (v: number): number => Math.round(v * 1000) / 1000;

/** What the section panel draws at each azimuth. */
export function profileViews(m: Measured): ProfileView[] {
  const { context: c } = m;
  const widths = marginWidths(c);
  const heights = marginHeights(c);
  const target = c.anatomy.master.target.mesh;
  const masterCuts = cutRadially(target, new Float64Array(target.positions.length / 3), AZIMUTHS);
  return c.azimuths.map((azimuth, k): ProfileView => {
    const p = c.anatomy.profiles[k];
    const chain = masterCuts[k].reduce<(typeof masterCuts)[number][number] | null>((a, b) => (!a || b.r.length > a.r.length ? b : a), null);
    const master = chain ? thin(resample(chain.r, chain.z, chain.value, 0.15, 40)) : [];
    if (!p) return { azimuth, scan: [], master, finish: null, foot: null, wall: null, width: null, taper: null, height: null };
    const scan = [...pairs(p.outside.r, p.outside.z).reverse(), ...pairs(p.r, p.z).slice(1)].filter((_, i) => i % 2 === 0).flat();
    const w = p.wall;
    const at = (i: number): [number, number] => [p.r[i], p.z[i]];
    const ends = w && [...at(w.from), ...at(Math.min(w.to, p.r.length - 1))];
    return {
      azimuth,
      scan: scan.map(round),
      master,
      finish: [round(p.finish.r), round(p.finish.z)],
      foot: w ? [round(w.foot.r), round(w.foot.z)] : null,
      wall: ends ? (ends.map(round) as [number, number, number, number]) : null,
      width: nullable(widths[k]),
      taper: nullable(c.taper[k]),
      height: nullable(heights[k]),
    };
  });
}

const nullable = (v: number | null): number | null => (v === null ? null : round(v));
const pairs = (r: readonly number[], z: readonly number[]): number[][] => r.map((v, i) => [v, z[i]]);
const thin = (l: { r: number[]; z: number[] }): number[] => pairs(l.r, l.z).flat().map(round);
