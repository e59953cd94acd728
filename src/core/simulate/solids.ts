import type { Solid } from '../anatomy/tessellate.ts';

/** A body with boolean operations: the part of the boolean library that the simulator uses, so that the core stays free of its loading. */
export interface Body {
  add(other: Body): Body;
  subtract(other: Body): Body;
  intersect(other: Body): Body;
  refineToLength(length: number): Body;
  /** Fewer triangles, none of them moved by more than so many mm. */
  simplify(tolerance: number): Body;
  getMesh(): { numProp: number; vertProperties: Float32Array; triVerts: Uint32Array; runIndex: Uint32Array; runOriginalID: Uint32Array };
  asOriginal(): Body;
  originalID(): number;
  volume(): number;
  delete(): void;
}

export interface SolidKernel {
  /** Throws when the mesh does not enclose a volume. */
  make(solid: Solid): Body;
  union(bodies: readonly Body[]): Body;
  /** The body where a function is positive, looked at every `edge` mm. */
  levelSet(inside: (p: readonly [number, number, number]) => number, min: readonly number[], max: readonly number[], edge: number): Body;
  sphere(radius: number, at: readonly [number, number, number]): Body;
  /** Quadric simplification towards a triangle count without moving borders. */
  simplify(positions: Float32Array, triangles: Uint32Array, target: number): Uint32Array;
}

export interface LabelledMesh {
  readonly positions: Float64Array;
  readonly triangles: Uint32Array;
  /** Label a triangle, from the body it came from. */
  readonly labels: Uint8Array;
}

/** Mesh of a body with each triangle's label, looked up by the original body's id. */
export function labelled(body: Body, labelOf: ReadonlyMap<number, number>): LabelledMesh {
  const m = body.getMesh();
  const n = m.vertProperties.length / m.numProp;
  const positions = new Float64Array(n * 3);
  for (let i = 0; i < n; i++) for (let k = 0; k < 3; k++) positions[3 * i + k] = m.vertProperties[i * m.numProp + k];
  const triangles = Uint32Array.from(m.triVerts);
  const labels = new Uint8Array(triangles.length / 3);
  for (let r = 0; r < m.runOriginalID.length; r++) {
    const label = labelOf.get(m.runOriginalID[r]) ?? 0;
    labels.fill(label, m.runIndex[r] / 3, m.runIndex[r + 1] / 3);
  }
  return { positions, triangles, labels };
}
