import type { Vec3 } from '../linalg/vec.ts';
import type { TargetRegion } from './target.ts';

/** Region points by cell, for looking round a place. */
export class PointGrid {
  private readonly cells = new Map<number, number[]>();
  constructor(
    region: TargetRegion,
    private readonly cell: number,
  ) {
    const p = region.mesh.positions;
    for (let v = 0; v < p.length / 3; v++) {
      const key = this.key(p[3 * v], p[3 * v + 1], p[3 * v + 2]);
      const list = this.cells.get(key);
      if (list) list.push(v);
      else this.cells.set(key, [v]);
    }
  }

  private key(x: number, y: number, z: number): number {
    const i = Math.floor(x / this.cell) + 512;
    const j = Math.floor(y / this.cell) + 512;
    const k = Math.floor(z / this.cell) + 512;
    return i + 1024 * (j + 1024 * k);
  }

  /** Points of the cell that holds p and the 26 around it. */
  *near(p: Vec3): Generator<number> {
    for (let i = -1; i <= 1; i++)
      for (let j = -1; j <= 1; j++)
        for (let k = -1; k <= 1; k++) {
          const list = this.cells.get(this.key(p[0] + i * this.cell, p[1] + j * this.cell, p[2] + k * this.cell));
          if (list) yield* list;
        }
  }
}
