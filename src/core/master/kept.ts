import { forgetFlat } from '../mesh/flat-faces.ts';
import { faceNormals, makeMesh } from '../mesh/mesh.ts';
import type { Surface } from '../spatial/surface.ts';
import { cornersOf } from '../spatial/tree.ts';
import type { Master } from './master.ts';

const SURFACES = ['whole', 'target', 'root', 'mesial', 'distal', 'gingiva', 'opposing', 'dej', 'caries', 'pulp'] as const;
type Part = (typeof SURFACES)[number];

/** A part of a master without what follows from the rest in no time. */
interface KeptSurface extends Omit<Surface<'tooth'>, 'faceNormals' | 'tree'> {
  readonly tree: Omit<Surface['tree'], 'corners'>;
}

/** A master made ready, as plain values and arrays of numbers that can be written down. */
export interface KeptMaster extends Omit<Master, Part | 'made'> {
  readonly surfaces: Readonly<Record<Part, KeptSurface | null>>;
  readonly made: readonly (readonly [string, KeptSurface | null])[];
}

/** What to keep of a master, with all of its bodies: bringing it back takes a tenth of the time of making it. */
export function keptOf(m: Master): KeptMaster {
  const { whole, target, root, mesial, distal, gingiva, opposing, dej, caries, pulp, made, ...rest } = m;
  const parts = { whole, target, root, mesial, distal, gingiva, opposing, dej, caries, pulp };
  return {
    ...rest,
    surfaces: eachPart((name) => withoutDerived(parts[name])),
    made: [...made].map(([name, s]) => [name, withoutDerived(s)] as const),
  };
}

export function fromKept({ surfaces, made, ...rest }: KeptMaster): Master {
  return {
    ...rest,
    ...(eachPart((name) => revived(surfaces[name])) as Pick<Master, Part>),
    made: new Map(made.map(([name, s]) => [name, revived(s)])),
  };
}

const eachPart = <T>(of: (name: Part) => T): Record<Part, T> =>
  Object.fromEntries(SURFACES.map((name) => [name, of(name)])) as Record<Part, T>;

function withoutDerived(s: Surface<'tooth'> | null): KeptSurface | null {
  if (!s) return null;
  const { faceNormals: _, tree, ...rest } = s;
  const { corners: __, ...own } = tree;
  return { ...rest, tree: own };
}

function revived(s: KeptSurface | null): Surface<'tooth'> | null {
  if (!s) return null;
  const mesh = makeMesh('tooth', s.mesh.positions, s.mesh.triangles);
  const faces = faceNormals(mesh);
  forgetFlat(mesh, faces);
  const { boxes, children, root, leaves, discs, nodeDiscs, order } = s.tree;
  const { vertexNormals, vertexAreas, neighbours, borderVertex } = s;
  // Put together as `makeSurface` does it: the engine tells objects apart by how they were made, and runs a search over two sorts slower.
  const tree = { boxes, children, root, leaves, discs, nodeDiscs, order, corners: cornersOf(mesh, order) };
  return { mesh, faceNormals: faces.normals, vertexNormals, vertexAreas, neighbours, borderVertex, tree };
}
