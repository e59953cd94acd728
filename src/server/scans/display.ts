import { MeshoptSimplifier } from 'meshoptimizer';
import { SURFACE, surfaceCode } from '#contract/depth-ramp.ts';
import { type DisplayMesh, packDisplay } from '#contract/display.ts';
import type { ProfileView } from '#contract/profiles.ts';
import { acrossFrom } from '#core/anatomy/anatomy.ts';
import { applyDirection, applyPoint, determinant3, IDENTITY, type Matrix, transformPoints } from '#core/linalg/rigid.ts';
import { azimuthOf } from '#core/linalg/sectors.ts';
import { add, scale, type Vec3 } from '#core/linalg/vec.ts';
import type { Master } from '#core/master/master.ts';
import { lineBeside } from '#core/master/row-of-cusps.ts';
import { type Mesh, makeMesh } from '#core/mesh/mesh.ts';
import { standingOf, USUAL_CONDITIONS } from '#core/occlusion/excursion.ts';
import type { Measured } from '#core/pipeline.ts';
import { HIDDEN_MARGIN } from '#core/result/curves.ts';
import { AZIMUTHS } from '#core/segment/crown/crown.ts';
import { cutRadially, longestChain } from '#core/segment/cut.ts';
import { closestPoint, newClosest, onBorder, signOf } from '#core/spatial/surface.ts';

const SCAN_TRIANGLES = 60_000;
const MASTER_TRIANGLES = 12_000;
const PAIR_TRIANGLES = 25_000;
/** Triangles of an arch on the screen; what is measured keeps all of them. */
const ARCH_TRIANGLES = 220_000;

/** Simplifies the measured scan for the screen; depths are taken at full resolution. */
export async function displayFile(m: Measured): Promise<Uint8Array> {
  await MeshoptSimplifier.ready;
  const { master, region, alignment } = m;
  const leftHanded = determinant3(master.toTooth) < 0;
  const frame: Matrix = [leftHanded ? -1 : 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];
  const depth = new Float32Array(alignment.scan.positions.length / 3);
  const surface = new Uint8Array(depth.length);
  const { kinds, depths, parts, partNames } = m.surfaces();
  region.from.forEach((v, i) => {
    depth[v] = depths[i];
    surface[v] = surfaceCode(SURFACE[kinds[i]], parts[i]);
  });
  for (const side of ['mesial', 'distal'] as const) {
    markDamage(m, side, depth, surface);
    markContact(m, side, surface);
  }
  const meshes = [
    light('scan', alignment.scan, frame, leftHanded, SCAN_TRIANGLES, depth, surface),
    light('master', master.target.mesh, frame, leftHanded, MASTER_TRIANGLES, null, null),
    ...(master.opposing ? [light('opposing', master.opposing.mesh, frame, leftHanded, MASTER_TRIANGLES, null, null)] : []),
    ...plateOf(m, frame, leftHanded),
  ];
  // An outline is the whole edge; a finish line may leave sides open.
  const edge = m.curves.outline ?? m.curves.finishLine ?? [];
  const shown = ([x, y, z]: readonly number[]): [number, number, number] => [leftHanded ? -x : x, y, z];
  const finishLine = edge.map((p) => shown(applyPoint(master.toTooth, [p[0], p[1], p[2]])));
  const { landmarks } = master;
  const row = landmarks.cusps.length ? lineBeside(landmarks) : null;
  const lines = [
    ...(row ? [{ of: ['line.cusps', 'bevel.functional'], points: row.ends.map(shown) }] : []),
    ...axisOf(m).map((points) => ({ of: ['plane.incisal'], points: points.map(shown) })),
    ...hiddenMargins(m).map((points) => ({ of: ['margin.visible'], points: points.map(shown) })),
    ...(landmarks.cej ? [{ of: ['margin.cej'], points: landmarks.cej.map(shown) }] : []),
  ];
  const { tooth, conditions } = master.description;
  const draw = m.curves['draw.direction']?.[0];
  const path = draw && { path: shown(applyDirection(master.toTooth, [draw[0], draw[1], draw[2]])) };
  const jaw = master.opposing ? { jaw: { ...standingOf(tooth), conditions: conditions ?? USUAL_CONDITIONS } } : {};
  return packDisplay({ mesialSign: leftHanded ? -1 : 1, finishLine, lines, parts: [...partNames], ...path, ...jaw }, meshes);
}

/** Stretches of the finish line that are hidden along the path of insertion, in the tooth frame. */
function hiddenMargins({ master, curves }: Measured): Vec3[][] {
  const hidden = new Set((curves[HIDDEN_MARGIN] ?? []).map(([a]) => Math.round(a)));
  const stretches: Vec3[][] = [];
  let isOpen = false;
  for (const q of hidden.size ? (curves.finishLine ?? []) : []) {
    const p = applyPoint(master.toTooth, [q[0], q[1], q[2]]);
    const isHidden = hidden.has(Math.round(azimuthOf(p[0], p[1])) % 360);
    if (isHidden && !isOpen) stretches.push([]);
    if (isHidden) stretches[stretches.length - 1].push(p);
    isOpen = isHidden;
  }
  return stretches.filter((s) => s.length > 1);
}

/** Triangles of the plate on the screen. */
const PLATE_TRIANGLES = 8000;

/** The prepared surface behind a partial crown's facial plate, with the plate's thickness where other meshes have their depth. */
function plateOf(m: Measured, frame: Matrix, leftHanded: boolean): DisplayMesh[] {
  const thickness = m.plate?.();
  if (!thickness?.size) return [];
  const { positions, triangles } = m.region.mesh;
  const kept: number[] = [];
  for (let f = 0; f < triangles.length; f += 3)
    if ([0, 1, 2].every((k) => thickness.has(triangles[f + k]))) kept.push(triangles[f], triangles[f + 1], triangles[f + 2]);
  if (kept.length === 0) return [];
  const depth = Float32Array.from({ length: positions.length / 3 }, (_, v) => thickness.get(v) ?? 0);
  const mesh = makeMesh('tooth', positions, Uint32Array.from(kept));
  return [light('plate', mesh, frame, leftHanded, PLATE_TRIANGLES, depth, new Uint8Array(depth.length))];
}

/** mm of the opposing tooth's long axis that are drawn, from the incisal cut on. */
const AXIS = 6;

/** The opposing tooth's long axis, standing on the incisal cut that is read against it. */
function axisOf({ master, readings }: Measured): Vec3[][] {
  const axis = master.landmarks.opposingAxes?.[acrossFrom(master.description.tooth)];
  const cut = readings.find((r) => r.name === 'plane.incisal')?.at?.point;
  if (!axis || !cut) return [];
  const from = applyPoint(master.toTooth, cut);
  return [[from, add(from, scale(axis, -AXIS))]];
}

/** mm round the deepest place of damage within which the neighbour is coloured, and times the scan's noise that must be lost there. */
const ROUND = 2;
const TIMES_NOISE = 3;

/** Colours the damage that was found on a neighbour, by how much is lost there. */
function markDamage(m: Measured, side: 'mesial' | 'distal', depth: Float32Array, surface: Uint8Array): void {
  const found = m.readings.find((r) => r.name === `neighbour.${side}` && r.stat === 'max' && r.value !== null && r.value > 0);
  const neighbour = m.master[side];
  if (!neighbour || !found?.at?.point) return;
  const at = applyPoint(m.master.toTooth, found.at.point);
  const p = m.alignment.scan.positions;
  const hit = newClosest();
  for (let v = 0; v < depth.length; v++) {
    const [x, y, z] = [p[3 * v], p[3 * v + 1], p[3 * v + 2]];
    if (surface[v] !== SURFACE.none || Math.hypot(x - at[0], y - at[1], z - at[2]) > ROUND) continue;
    if (!closestPoint(neighbour, x, y, z, hit, 2 * ROUND) || onBorder(neighbour, hit) || signOf(neighbour, hit, x, y, z) > 0) continue;
    const lost = Math.sqrt(hit.distanceSquared);
    if (lost < TIMES_NOISE * m.alignment.noise) continue;
    depth[v] = lost;
    surface[v] = SURFACE.damaged;
  }
}

/** mm up to which a contact is shown as closed, and beyond its gap that the two faces are coloured. */
const CLOSED = 0.15;
const FACES = 0.25;

/** Colours both faces of a contact that was not opened, where they come nearest. */
function markContact(m: Measured, side: 'mesial' | 'distal', surface: Uint8Array): void {
  const found = m.readings.find((r) => r.name === 'contact.broken' && r.zone === side && r.value !== null);
  if (found?.value === undefined || found.value === null || found.value > CLOSED || !found.at?.point) return;
  const at = applyPoint(m.master.toTooth, found.at.point);
  const neighbour = m.master[side];
  const p = m.alignment.scan.positions;
  const hit = newClosest();
  for (let v = 0; v < surface.length; v++) {
    const [x, y, z] = [p[3 * v], p[3 * v + 1], p[3 * v + 2]];
    if (Math.hypot(x - at[0], y - at[1], z - at[2]) > ROUND / 2) continue;
    if (neighbour && closestPoint(neighbour, x, y, z, hit, found.value + FACES)) surface[v] = SURFACE.closed;
  }
}

/** A master alone: its arch where a scan would be, and the opposing one; nothing is measured, so nothing is coloured. */
export async function masterFile(master: Master): Promise<Uint8Array> {
  await MeshoptSimplifier.ready;
  const leftHanded = determinant3(master.toTooth) < 0;
  const frame: Matrix = [leftHanded ? -1 : 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];
  const meshes = [
    light('scan', master.whole.mesh, frame, leftHanded, SCAN_TRIANGLES, null, null),
    light('master', master.target.mesh, frame, leftHanded, MASTER_TRIANGLES, null, null),
    ...(master.opposing ? [light('opposing', master.opposing.mesh, frame, leftHanded, MASTER_TRIANGLES, null, null)] : []),
  ];
  return packDisplay({ mesialSign: leftHanded ? -1 : 1, finishLine: [], parts: [] }, meshes);
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

/** An unprepared arch as it lies in its file, with the part of each vertex once it is known. */
export async function archFile(mesh: Mesh, parts: Uint8Array | null): Promise<Uint8Array> {
  await MeshoptSimplifier.ready;
  const depth = new Float32Array(mesh.positions.length / 3);
  const arch = light('arch', mesh, IDENTITY, false, ARCH_TRIANGLES, depth, parts ?? new Uint8Array(depth.length));
  return packDisplay({ mesialSign: 1, finishLine: [], parts: [] }, [arch]);
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
const rounded = (v: number | null): number | null => (v === null ? null : round(v));
const flat = (points: readonly (readonly [number, number])[]): number[] => points.flat().map(round);

/** mm between the points of the master's drawn section. */
const MASTER_STEP = 0.15;

/** mm from the axis within which a section is drawn. */
const SECTION_WIDE = 7;

/** Data of the section panel at each azimuth. */
export function profileViews(m: Measured): ProfileView[] {
  const target = m.master.target.mesh;
  const masters = cutRadially(target, new Float64Array(target.positions.length / 3), AZIMUTHS);
  const other = m.master.opposing?.mesh;
  const arches = other ? cutRadially(other, new Float64Array(other.positions.length / 3), AZIMUTHS) : null;
  return m.sections().map((s, k) => ({
    azimuth: (360 * k) / AZIMUTHS,
    scan: flat(s.scan),
    master: flat(longestChain(masters[k], MASTER_STEP)),
    opposing: arches ? flat(longestChain(arches[k], MASTER_STEP).filter(([r]) => r < SECTION_WIDE)) : [],
    finish: s.finish && [round(s.finish[0]), round(s.finish[1])],
    foot: s.foot && [round(s.foot[0]), round(s.foot[1])],
    wall: s.wall && [round(s.wall[0]), round(s.wall[1]), round(s.wall[2]), round(s.wall[3])],
    width: rounded(s.width),
    taper: rounded(s.taper),
    height: rounded(s.height),
  }));
}
