import { forgetFlat } from '../mesh/flat-faces.ts';
import { faceNormals } from '../mesh/mesh.ts';
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
export interface KeptMaster extends Omit<Master, Part> {
  readonly surfaces: Readonly<Record<Part, KeptSurface | null>>;
}

/** What to keep of a master, with all of its bodies: bringing it back takes a tenth of the time of making it. */
export function keptOf(m: Master): KeptMaster {
  const { whole, target, root, mesial, distal, gingiva, opposing, dej, caries, pulp, ...rest } = m;
  const parts = { whole, target, root, mesial, distal, gingiva, opposing, dej, caries, pulp };
  return { ...rest, surfaces: eachPart((name) => withoutDerived(parts[name])) };
}

export function fromKept({ surfaces, ...rest }: KeptMaster): Master {
  return { ...rest, ...(eachPart((name) => revived(surfaces[name])) as Pick<Master, Part>) };
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
  const faces = faceNormals(s.mesh);
  forgetFlat(s.mesh, faces);
  return { ...s, faceNormals: faces.normals, tree: { ...s.tree, corners: cornersOf(s.mesh, s.tree.order) } };
}
