import { MeshoptSimplifier } from 'meshoptimizer';
import { partOf, SURFACE, surfaceCode, surfaceOf } from '#contract/depth-ramp.ts';
import { type DisplayMesh, packDisplay } from '#contract/display.ts';
import type { ProfileView } from '#contract/profiles.ts';
import { applyPoint, determinant3, IDENTITY, type Matrix, transformPoints } from '#core/linalg/rigid.ts';
import type { CrownContext } from '#core/measure/crown/context.ts';
import { marginHeights } from '#core/measure/crown/margin-gingiva.ts';
import { marginWidths } from '#core/measure/crown/margin-width.ts';
import type { Mesh } from '#core/mesh/mesh.ts';
import type { Context, Measured } from '#core/pipeline.ts';
import type { CavityAnatomy } from '#core/segment/cavity.ts';
import { AZIMUTHS } from '#core/segment/crown.ts';
import { type Chain, cutRadially } from '#core/segment/cut.ts';
import { resample } from '#core/segment/polyline.ts';
import { castRay } from '#core/spatial/surface.ts';

const SCAN_TRIANGLES = 60_000;
const MASTER_TRIANGLES = 12_000;
const PAIR_TRIANGLES = 25_000;

/** The measured scan made light for the screen; depths are those of the full resolution. */
export async function displayFile(m: Measured): Promise<Uint8Array> {
  await MeshoptSimplifier.ready;
  const { master, region, alignment } = m;
  const leftHanded = determinant3(master.toTooth) < 0;
  const frame: Matrix = [leftHanded ? -1 : 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];
  const depth = new Float32Array(alignment.scan.positions.length / 3);
  const surface = new Uint8Array(depth.length);
  const { codes, depths, parts } = surfacesOf(m.context);
  region.from.forEach((v, i) => {
    depth[v] = depths[i];
    surface[v] = codes[i];
  });
  const meshes = [
    light('scan', alignment.scan, frame, leftHanded, SCAN_TRIANGLES, depth, surface),
    light('master', master.target.mesh, frame, leftHanded, MASTER_TRIANGLES, null, null),
    ...(master.opposing ? [light('opposing', master.opposing.mesh, frame, leftHanded, MASTER_TRIANGLES, null, null)] : []),
  ];
  // Where there is an outline it is the whole edge; a finish line may leave sides open.
  const edge = m.curves.outline ?? m.curves.finishLine ?? [];
  const finishLine = edge.map((p): [number, number, number] => {
    const q = applyPoint(master.toTooth, [p[0], p[1], p[2]]);
    return [leftHanded ? -q[0] : q[0], q[1], q[2]];
  });
  return packDisplay({ mesialSign: leftHanded ? -1 : 1, finishLine, parts: [...parts] }, meshes);
}

/** Raw scan and master arch for setting three points by hand, each in its own file's frame. */
export async function pairFile(scan: Mesh, master: Mesh): Promise<Uint8Array> {
  await MeshoptSimplifier.ready;
  const meshes = [
    light('scan', scan, IDENTITY, false, PAIR_TRIANGLES, null, null),
    light('master', master, IDENTITY, false, PAIR_TRIANGLES, null, null),
  ];
  return packDisplay({ mesialSign: 1, finishLine: [], parts: [] }, meshes);
}

interface Surfaces {
  readonly codes: ArrayLike<number>;
  readonly depths: ArrayLike<number>;
  /** Names behind the part numbers; number 0 is "nothing". */
  readonly parts: readonly string[];
}

function surfacesOf(c: Context): Surfaces {
  if (!c.cavity) return crownSurfaces(c.crown);
  const inside = cavitySurfaces(c.cavity);
  if (!c.crown) return inside;
  // An onlay: where no wall or floor of the inside is named, the covered side shows its own surfaces.
  const cover = crownSurfaces(c.crown);
  const shift = inside.parts.length - 1;
  const named = (i: number): boolean => partOf(inside.codes[i]) > 0;
  return {
    codes: Array.from(cover.codes, (code, i) =>
      named(i) ? inside.codes[i] : partOf(code) > 0 ? surfaceCode(surfaceOf(code), partOf(code) + shift) : code,
    ),
    depths: Array.from(cover.depths, (d, i) => (named(i) ? inside.depths[i] : d)),
    parts: [...inside.parts, ...cover.parts.slice(1)],
  };
}

const CROWN_PARTS = { none: '', floor: 'margin floor', wall: 'axial wall', inner: 'inner wall', occlusal: 'occlusal surface' } as const;

function crownSurfaces(c: CrownContext): Surfaces {
  const parts = Object.values(CROWN_PARTS);
  return {
    codes: c.kinds.map((k) => surfaceCode(SURFACE[k], parts.indexOf(CROWN_PARTS[k]))),
    depths: c.anatomy.region.depth,
    parts,
  };
}

const LEAST_PART = 20;

/** Depth colours on a cavity's pulpal floor say its depth along the axis; its other parts only show what they are. */
function cavitySurfaces(a: CavityAnatomy): Surfaces {
  // A scrap that looks like a wall has no name worth a colour.
  const named = [...a.parts.entries()].filter(([, vertices]) => vertices.length >= LEAST_PART);
  const parts = ['', ...named.map(([name]) => name)];
  const codes = Uint8Array.from(a.region.prepared, (p) => (p ? surfaceCode(SURFACE.floor, 0) : 0));
  const depths = Float64Array.from(a.region.depth);
  const p = a.region.mesh.positions;
  named.forEach(([name, vertices], i) => {
    for (const v of vertices) codes[v] = surfaceCode(name === 'pulpal floor' ? SURFACE.occlusal : SURFACE.floor, i + 1);
    if (name === 'pulpal floor')
      for (const v of vertices) depths[v] = castRay(a.master.target, [p[3 * v], p[3 * v + 1], p[3 * v + 2]], [0, 0, 1], 12) ?? depths[v];
  });
  return { codes, depths, parts };
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
  const { crown, cavity } = m.context;
  const target = m.master.target.mesh;
  const masters = cutRadially(target, new Float64Array(target.positions.length / 3), AZIMUTHS);
  const own = crown ? crownHalves(crown) : cavityHalves(cavity as CavityAnatomy);
  // Where no profile could be read the plain cut is still there to be seen.
  const plain = crown ? cutRadially(m.region.mesh, m.region.depth, AZIMUTHS) : [];
  return own.map((half, k) => ({
    ...half,
    scan: half.scan.length || !plain[k] ? half.scan : longest(plain[k], 0.08),
    azimuth: (360 * k) / AZIMUTHS,
    master: longest(masters[k], 0.15),
  }));
}

type Half = Omit<ProfileView, 'azimuth' | 'master'>;
const NO_DIMENSIONS = { finish: null, foot: null, wall: null, width: null, taper: null, height: null };

function crownHalves(c: CrownContext): Half[] {
  const widths = marginWidths(c);
  const heights = marginHeights(c);
  return c.azimuths.map((_, k): Half => {
    const p = c.anatomy.profiles[k] ?? c.anatomy.open[k];
    if (!p) return { scan: [], ...NO_DIMENSIONS };
    const scan = [...pairs(p.outside.r, p.outside.z).reverse(), ...pairs(p.r, p.z).slice(1)].filter((_, i) => i % 2 === 0).flat();
    const w = p.wall;
    const at = (i: number): [number, number] => [p.r[i], p.z[i]];
    const ends = w && [...at(w.from), ...at(Math.min(w.to, p.r.length - 1))];
    return {
      scan: scan.map(round),
      finish: [round(p.finish.r), round(p.finish.z)],
      foot: w ? [round(w.foot.r), round(w.foot.z)] : null,
      wall: ends ? (ends.map(round) as [number, number, number, number]) : null,
      width: nullable(widths[k]),
      taper: nullable(c.taper[k]),
      height: nullable(heights[k]),
    };
  });
}

const cavityHalves = (a: CavityAnatomy): Half[] =>
  cutRadially(a.region.mesh, a.region.depth, AZIMUTHS).map((chains) => ({ scan: longest(chains, 0.08), ...NO_DIMENSIONS }));

/** The longest chain of a half plane, thinned to `step` mm. */
function longest(chains: readonly Chain[], step: number): number[] {
  const chain = chains.reduce<Chain | null>((p, q) => (!p || q.r.length > p.r.length ? q : p), null);
  return chain ? thin(resample(chain.r, chain.z, chain.value, step, 40)) : [];
}

const nullable = (v: number | null): number | null => (v === null ? null : round(v));
const pairs = (r: readonly number[], z: readonly number[]): number[][] => r.map((v, i) => [v, z[i]]);
const thin = (l: { r: number[]; z: number[] }): number[] => pairs(l.r, l.z).flat().map(round);
