import { closedCentroid } from '../linalg/curve.ts';
import { applyDirection, applyPoint, invertRigid, type Matrix } from '../linalg/rigid.ts';
import { cross, dot, scale, sub, unit, type Vec3 } from '../linalg/vec.ts';
import { intoFrame, type Mesh, subMesh, triangleCount } from '../mesh/mesh.ts';
import { Fault } from '../result/fault.ts';
import { makeSurface, type Surface } from '../spatial/surface.ts';
import { withContactsClosed } from './contact-caps.ts';
import { bridged } from './fused.ts';
import { rootOf } from './root.ts';

export const PART = { other: 0, target: 1, mesial: 2, distal: 3, gingiva: 4 } as const;

export interface Cusp {
  readonly name: string;
  readonly role: 'functional' | 'non-functional';
  readonly at: Vec3;
}
export interface Groove {
  readonly name: string;
  readonly rank: 'primary' | 'secondary';
  readonly line: readonly Vec3[];
}
/** Landmarks in the frame of their holder (master file frame in `Master`, tooth frame in `ToothMaster`). */
export interface Landmarks {
  readonly cusps: readonly Cusp[];
  readonly grooves: readonly Groove[];
  readonly ridges: { readonly mesial: readonly Vec3[]; readonly distal: readonly Vec3[]; readonly oblique: readonly Vec3[] };
  readonly contacts: { readonly mesial: Vec3 | null; readonly distal: Vec3 | null };
  readonly gingivalMargin: readonly Vec3[];
  /** Cementoenamel junction: a closed or open curve. */
  readonly cej?: readonly Vec3[];
  /** Cusp tips of the teeth beside it. */
  readonly neighbourCusps?: { readonly mesial: readonly Vec3[]; readonly distal: readonly Vec3[] };
  /** Long axes of opposing teeth by their number, pointing occlusally. */
  readonly opposingAxes?: Readonly<Record<string, Vec3>>;
}

/** Landmarks in another frame. */
export function movedLandmarks(l: Landmarks, matrix: Matrix): Landmarks {
  const p = (v: Vec3): Vec3 => applyPoint(matrix, v);
  const { mesial, distal, oblique } = l.ridges;
  return {
    cusps: l.cusps.map((c) => ({ ...c, at: p(c.at) })),
    grooves: l.grooves.map((g) => ({ ...g, line: g.line.map(p) })),
    ridges: { mesial: mesial.map(p), distal: distal.map(p), oblique: oblique.map(p) },
    contacts: { mesial: l.contacts.mesial && p(l.contacts.mesial), distal: l.contacts.distal && p(l.contacts.distal) },
    gingivalMargin: l.gingivalMargin.map(p),
    ...(l.cej && { cej: l.cej.map(p) }),
    ...(l.neighbourCusps && { neighbourCusps: { mesial: l.neighbourCusps.mesial.map(p), distal: l.neighbourCusps.distal.map(p) } }),
    ...(l.opposingAxes && {
      opposingAxes: Object.fromEntries(Object.entries(l.opposingAxes).map(([tooth, axis]) => [tooth, applyDirection(matrix, axis)])),
    }),
  };
}

/** Content of a master file as plain values; the contract has checked the file. */
export interface MasterDescription extends Landmarks {
  readonly name: string;
  /** FDI two-digit. */
  readonly tooth: string;
  readonly axis: Vec3;
  readonly mesial: Vec3;
  readonly facial: Vec3;
  /** How the lower jaw moves against the upper one. */
  readonly conditions?: { readonly path_mm: number; readonly condylar_deg: number; readonly bennett_deg: number };
}

export interface MasterMeshes {
  readonly arch: { readonly mesh: Mesh; readonly parts: Uint8Array };
  readonly opposing: Mesh | null;
  readonly dej: Mesh | null;
  readonly caries: Mesh | null;
  readonly pulp: Mesh | null;
}

/**
 * A master made ready for measuring: everything already in the tooth frame, with a closest-point surface a part.
 * Built once for each content and kept; aligning and measuring only read it.
 */
export interface Master {
  readonly description: MasterDescription;
  /** Master file frame → tooth frame; reflects when the quadrant is left-handed. */
  readonly toTooth: Matrix;
  readonly fromTooth: Matrix;
  readonly landmarks: Landmarks;
  readonly whole: Surface<'tooth'>;
  readonly wholeParts: Uint8Array;
  readonly target: Surface<'tooth'>;
  /** 1 where a vertex of `whole` lies on or beside a bridge between the target and a neighbour: surface that is no tooth. */
  readonly onBridge: Uint8Array;
  /** The target's side carried on under the gingiva; null where the margin does not lie on it. */
  readonly root: Surface<'tooth'> | null;
  readonly mesial: Surface<'tooth'> | null;
  readonly distal: Surface<'tooth'> | null;
  readonly gingiva: Surface<'tooth'> | null;
  readonly opposing: Surface<'tooth'> | null;
  readonly dej: Surface<'tooth'> | null;
  readonly caries: Surface<'tooth'> | null;
  readonly pulp: Surface<'tooth'> | null;
  /** What `neighbourClosed` and `partAlone` made of the whole when they were first asked: a master with another whole has another map. */
  readonly made: Map<string, Surface<'tooth'> | null>;
}

/**
 * Tooth frame: origin = length-weighted centroid of the gingival margin curve; +z = long axis;
 * +x = mesial made perpendicular to z; +y = the third axis, on the facial side.
 */
export function toothFrame(d: Pick<MasterDescription, 'axis' | 'mesial' | 'facial' | 'gingivalMargin'>): Matrix {
  const z = unit(d.axis);
  const x = unit(sub(d.mesial, scale(z, dot(d.mesial, z))));
  const y0 = cross(z, x);
  const y = dot(y0, d.facial) >= 0 ? y0 : scale(y0, -1);
  const o = closedCentroid(d.gingivalMargin);
  return [...[x, y, z].flatMap((r) => [r[0], r[1], r[2], -dot(r, o)]), 0, 0, 0, 1];
}

/**
 * A neighbour with its contact closed where the scan of the arch bridged it, for gaps to it: the place nearest to a box is its contact. What damage is
 * read from stays open there, since a surface carried on over a hole is no scan. Made once.
 */
export function neighbourClosed(m: Master, side: 'mesial' | 'distal'): Surface<'tooth'> | null {
  const open = m[side];
  if (!open || !m.onBridge.includes(1)) return open;
  return madeOnce(m, `closed ${side}`, () =>
    makeSurface(withContactsClosed(m.whole.mesh, (v) => m.wholeParts[v] === PART[side], m.onBridge)),
  );
}

/**
 * A part without the triangles that bridge it and another: where a tooth meets the papilla these reach over the gum, and a
 * distance to them would be one to the gum. Made once.
 */
export const partAlone = (m: Master, part: number): Surface<'tooth'> | null =>
  madeOnce(m, `alone ${part}`, () => {
    const t = m.whole.mesh.triangles;
    const { mesh } = subMesh(m.whole.mesh, (f) => [0, 1, 2].every((k) => m.wholeParts[t[3 * f + k]] === part));
    return triangleCount(mesh) ? makeSurface(mesh) : null;
  });

function madeOnce(m: Master, name: string, make: () => Surface<'tooth'> | null): Surface<'tooth'> | null {
  let surface = m.made.get(name);
  if (surface === undefined) {
    surface = make();
    m.made.set(name, surface);
  }
  return surface;
}

function lacking(what: string, remedy: string): Fault {
  return new Fault('master.part', { expected: 'a master carries it (see the format page)', received: what, remedy });
}

export function prepareMaster(d: MasterDescription, meshes: MasterMeshes): Master {
  if (d.gingivalMargin.length < 3)
    throw lacking(
      `its gingival margin has ${d.gingivalMargin.length} points`,
      'Draw the gingival margin as a closed curve of three points or more.',
    );
  const toTooth = toothFrame(d);
  const fromTooth = invertRigid(toTooth);
  const place = (m: Mesh): Mesh<'tooth'> => intoFrame(m, toTooth, 'tooth');
  const parts = meshes.arch.parts;
  const arch = place(meshes.arch.mesh);
  const landmarks = movedLandmarks(d, toTooth);
  const onBridge = bridged(arch, parts, PART.target, [PART.mesial, PART.distal], landmarks.gingivalMargin);
  const partSurface = (part: number, has: (v: number) => boolean = () => true): Surface<'tooth'> | null => {
    // A triangle that bridges two parts belongs to both, so that neither has a gap along their common line.
    const t = arch.triangles;
    const sub = subMesh(arch, (f) => {
      const corners = [t[3 * f], t[3 * f + 1], t[3 * f + 2]];
      return corners.some((v) => parts[v] === part) && corners.every(has);
    });
    return triangleCount(sub.mesh) ? makeSurface(sub.mesh) : null;
  };
  const own = withContactsClosed(arch, (v) => parts[v] === PART.target, onBridge);
  const target = triangleCount(own) ? makeSurface(own) : null;
  const neighbour = (part: number): Surface<'tooth'> | null => partSurface(part, (v) => !onBridge[v]);
  if (!target) throw lacking('no vertex of its arch is labelled as the target tooth (part 1)', 'Label the target tooth on the arch mesh.');
  const [opposing, dej, caries, pulp] = [meshes.opposing, meshes.dej, meshes.caries, meshes.pulp].map((m) =>
    whenAsked(() => (m ? makeSurface(place(m)) : null)),
  );
  return {
    description: d,
    toTooth,
    fromTooth,
    landmarks,
    whole: makeSurface(arch),
    wholeParts: parts,
    target,
    onBridge,
    root: rootOf(target, landmarks.gingivalMargin),
    mesial: neighbour(PART.mesial),
    distal: neighbour(PART.distal),
    gingiva: partSurface(PART.gingiva),
    get opposing() {
      return opposing();
    },
    get dej() {
      return dej();
    },
    get caries() {
      return caries();
    },
    get pulp() {
      return pulp();
    },
    made: new Map(),
  };
}

/** A value made when it is first asked for: most kinds of preparation need few of a master's bodies. */
function whenAsked<T>(make: () => T): () => T {
  let made: { value: T } | null = null;
  return () => {
    made ??= { value: make() };
    return made.value;
  };
}
