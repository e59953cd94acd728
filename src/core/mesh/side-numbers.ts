/**
 * Numbers a mesh's sides in the order in which they are first asked for, whichever way round their two vertices come: a hash of
 * pairs, since pairs of large meshes fit into no small integer and a map of large numbers takes four times as long.
 */
export class SideNumbers {
  private readonly mask: number;
  private readonly slots: Int32Array;
  private readonly ends: Int32Array;
  /** How many sides have a number. */
  count = 0;

  /** `most`: sides that will be asked for at the most. */
  constructor(most: number) {
    const size = 2 ** Math.ceil(Math.log2(Math.max(8, 2 * most)));
    this.mask = size - 1;
    this.slots = new Int32Array(size).fill(-1);
    this.ends = new Int32Array(2 * most);
  }

  /** The number of the side between two vertices; `count` before the call where it is new. */
  of(u: number, v: number): number {
    const a = Math.min(u, v);
    const b = Math.max(u, v);
    for (let at = (Math.imul(a, 0x9e3779b1) ^ Math.imul(b, 0x85ebca6b)) >>> 7; ; at++) {
      const slot = at & this.mask;
      const n = this.slots[slot];
      if (n >= 0) {
        if (this.ends[2 * n] === a && this.ends[2 * n + 1] === b) return n;
        continue;
      }
      this.slots[slot] = this.count;
      this.ends[2 * this.count] = a;
      this.ends[2 * this.count + 1] = b;
      return this.count++;
    }
  }
}
