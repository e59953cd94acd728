import type { Mesh } from '../mesh/mesh.ts';
import { SideNumbers } from '../mesh/side-numbers.ts';

/**
 * Where a mesh's triangles pass from inside to outside of something: a point on each side that does, put together over shared
 * sides into chains. Open chains begin at their ends; a hole in the mesh breaks a chain.
 */
export function chainsBetween<T>(
  mesh: Mesh,
  triangles: ArrayLike<number>,
  inside: (v: number) => boolean,
  place: (inner: number, outer: number) => T,
): T[][] {
  const t = mesh.triangles;
  const sides = new SideNumbers(2 * triangles.length);
  const points: T[] = [];
  const links = new Links(2 * triangles.length);
  const node = (inner: number, outer: number): number => {
    const before = sides.count;
    const k = sides.of(inner, outer);
    if (k === before) points.push(place(inner, outer));
    return k;
  };
  for (let i = 0; i < triangles.length; i++) {
    const f = triangles[i];
    const [a, b, c] = [t[f], t[f + 1], t[f + 2]];
    const [inA, inB, inC] = [inside(a), inside(b), inside(c)];
    if (inA === inB && inB === inC) continue;
    // The one that stands alone, and the two others in the order of the triangle's sides.
    const [alone, one, two, within] = inB === inC ? [a, b, c, inA] : inA === inC ? [b, a, c, inB] : [c, b, a, inC];
    if (within) links.join(node(alone, one), node(alone, two));
    else links.join(node(one, alone), node(two, alone));
  }
  return links.chains(points.length).flatMap((chain) => (chain.length > 1 ? [chain.map((k) => points[k])] : []));
}

/** Which nodes hang together, each with two others at the most. */
export class Links {
  private readonly of: Int32Array;

  constructor(most: number) {
    this.of = new Int32Array(2 * most).fill(-1);
  }

  join(a: number, b: number): void {
    this.put(a, b);
    this.put(b, a);
  }

  private put(a: number, b: number): void {
    if (this.of[2 * a] < 0) this.of[2 * a] = b;
    else if (this.of[2 * a + 1] < 0) this.of[2 * a + 1] = b;
  }

  /** The first `count` nodes in chains, open ones first and from their ends. */
  chains(count: number): number[][] {
    const seen = new Uint8Array(count);
    const out: number[][] = [];
    const walk = (start: number): void => {
      const chain: number[] = [];
      for (let at = start; at >= 0; ) {
        seen[at] = 1;
        chain.push(at);
        const a = this.of[2 * at];
        const b = this.of[2 * at + 1];
        at = a >= 0 && !seen[a] ? a : b >= 0 && !seen[b] ? b : -1;
      }
      out.push(chain);
    };
    for (let i = 0; i < count; i++) if (!seen[i] && this.of[2 * i + 1] < 0) walk(i);
    for (let i = 0; i < count; i++) if (!seen[i]) walk(i);
    return out;
  }
}
