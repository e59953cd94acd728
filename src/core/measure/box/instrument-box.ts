import { methodUncertainty } from '../../catalogue/catalogue.ts';
import { neighbourClosed } from '../../master/master.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';
import type { Box, CavityAnatomy } from '../../segment/cavity/cavity.ts';
import { floorAt } from '../../segment/cavity/floors.ts';

/** mm: side of the cells of the floor, and thickness of a hatchet's blade. */
const CELL = 0.05;
export const BLADE = 0.5;
/** mm over the gingival floor from which walls and the neighbour stand in an instrument's way. */
const OVER = 0.2;
/** mm beyond the floor within which anything can be in the way. */
const REACH = 3;
/** mm by which a wall's foot is unsure: where its rounding has risen by 0.2 mm hangs on the rounding. */
const FOOT = 0.05;

const NAMES = ['instrument.box.condenser', 'instrument.box.hatchet'] as const;

/**
 * Widest condenser and widest hatchet that reach the gingival floor of a box without touching its walls or the neighbour.
 * @formula seen along the axis, over cells of 0.05 mm of the floor: condenser = 2 × the largest distance of a cell from everything that stands 0.2 mm and more over the floor's level; hatchet = longest faciolingual blade of 0.5 mm thickness with round ends: the longest run of cells from which nothing stands within 0.25 mm, and 0.5 mm
 * @units mm
 * @frame tooth, seen along the axis
 * @fails no-neighbour, no-gingival-floor
 * @source own definition, docs/definitions.md
 * @example upright walls 3 mm apart, an axial wall 1.4 mm inward and a neighbour 0.6 mm outward of the floor's edge let a condenser of 2.0 mm and a blade of 3.0 mm down
 */
export function instrumentBox(a: CavityAnatomy): Reading[] {
  return a.boxes.flatMap((b): Reading[] => {
    const zone = `box ${b.side}`;
    const neighbour = neighbourClosed(a.master, b.side);
    if (!neighbour) return NAMES.flatMap((n) => refusal(n, zone, ['max'], 'no-neighbour'));
    const cells = freeCells(a, b, neighbour.mesh.positions);
    if (cells.size === 0) return NAMES.flatMap((n) => refusal(n, zone, ['max'], 'no-gingival-floor'));
    const all = [...cells.values()];
    const widest = all.reduce((p, q) => (q.free > p.free ? q : p));
    const blade = longestRun(cells);
    const at = (x: number, y: number) => ({ point: [x, y, floorAt(b.floor.plane, x, y)] as const });
    const { noise, pointError } = a.alignment;
    const give = (name: string, value: number, place: { x: number; y: number }): Reading =>
      reading({
        name,
        zone,
        stat: 'max',
        value,
        U: expanded(CELL, FOOT, pointError, noise, methodUncertainty(name, 'max')),
        at: at(place.x, place.y),
        samples: all.length,
      });
    return [give(NAMES[0], 2 * widest.free, widest), give(NAMES[1], blade.length + BLADE, blade)];
  });
}

interface Cell {
  readonly x: number;
  readonly y: number;
  /** mm to the nearest thing that stands in the way, seen along the axis. */
  readonly free: number;
}

const key = (i: number, j: number): number => (i + 2048) * 4096 + j + 2048;

function freeCells(a: CavityAnatomy, b: Box, neighbour: Float64Array): Map<number, Cell> {
  const { mesh, prepared } = a.region;
  const p = mesh.positions;
  const own = new Set<number>();
  let [x0, x1, y0, y1] = [Infinity, -Infinity, Infinity, -Infinity];
  const floorCell = (v: number): void => {
    const [x, y] = [p[3 * v], p[3 * v + 1]];
    [x0, x1, y0, y1] = [Math.min(x0, x), Math.max(x1, x), Math.min(y0, y), Math.max(y1, y)];
    // A cell beside a point's own is floor too: a scan's points lie two to three cells apart.
    for (const i of [-1, 0, 1]) for (const j of [-1, 0, 1]) own.add(key(Math.round(x / CELL) + i, Math.round(y / CELL) + j));
  };
  for (const v of b.floor.vertices) floorCell(v);
  const near = (x: number, y: number): boolean => x > x0 - REACH && x < x1 + REACH && y > y0 - REACH && y < y1 + REACH;
  const bins = new Map<number, number[]>();
  // Walls stand over one another: seen along the axis most of their points fall on few places.
  const taken = new Set<number>();
  const put = (x: number, y: number): void => {
    const place = key(Math.round(x / FINE), Math.round(y / FINE));
    if (taken.has(place)) return;
    taken.add(place);
    const k = key(Math.floor(x / BIN), Math.floor(y / BIN));
    const list = bins.get(k);
    if (list) list.push(x, y);
    else bins.set(k, [x, y]);
  };
  const stands = (x: number, y: number, z: number): boolean => near(x, y) && z > floorAt(b.floor.plane, x, y) + OVER;
  const besideFloor = [x0, x1, y0, y1];
  for (let v = 0; v < prepared.length; v++) {
    if (!prepared[v]) continue;
    const [x, y, z] = [p[3 * v], p[3 * v + 1], p[3 * v + 2]];
    if (stands(x, y, z)) put(x, y);
    // The rounding at its foot is floor as far as it stands in nobody's way.
    else if (isBeside(besideFloor, x, y) && Math.abs(z - floorAt(b.floor.plane, x, y)) <= OVER) floorCell(v);
  }
  for (let i = 0; i < neighbour.length; i += 3)
    if (stands(neighbour[i], neighbour[i + 1], neighbour[i + 2])) put(neighbour[i], neighbour[i + 1]);
  const cells = new Map<number, Cell>();
  for (const k of own) {
    const [i, j] = [Math.floor(k / 4096) - 2048, (k % 4096) - 2048];
    const [x, y] = [i * CELL, j * CELL];
    cells.set(k, { x, y, free: nearestIn(bins, x, y) });
  }
  return cells;
}

/** mm beyond the floor's own points within which its rounding runs. */
const ROUNDING = 0.5;
const isBeside = ([x0, x1, y0, y1]: readonly number[], x: number, y: number): boolean =>
  x > x0 - ROUNDING && x < x1 + ROUNDING && y > y0 - ROUNDING && y < y1 + ROUNDING;

/** mm within which places that stand in the way count once. */
const FINE = 0.02;
/** mm: side of the bins in which what stands in the way is looked up. */
const BIN = 0.5;

/** Distance to the nearest place in the bins (x and y in turn), looked for in rings of bins from the nearest on; at most REACH. */
function nearestIn(bins: ReadonlyMap<number, readonly number[]>, x: number, y: number): number {
  const i = Math.floor(x / BIN);
  const j = Math.floor(y / BIN);
  let best = REACH * REACH;
  for (let ring = 0; (ring - 1) * BIN < Math.sqrt(best); ring++)
    for (let di = -ring; di <= ring; di++)
      // Between its first and last column a ring has a bin at either end alone.
      for (let dj = -ring; dj <= ring; dj += Math.abs(di) === ring ? 1 : 2 * ring) {
        const bin = bins.get(key(i + di, j + dj));
        if (!bin) continue;
        for (let k = 0; k < bin.length; k += 2) {
          const dx = bin[k] - x;
          const dy = bin[k + 1] - y;
          const d = dx * dx + dy * dy;
          if (d < best) best = d;
        }
      }
  return Math.sqrt(best);
}

/** The longest faciolingual run of cells over which a blade finds room for its thickness. */
function longestRun(cells: ReadonlyMap<number, Cell>): { length: number; x: number; y: number } {
  const columns = new Map<number, number[]>();
  for (const c of cells.values()) {
    const i = Math.round(c.x / CELL);
    const list = columns.get(i) ?? [];
    if (list.length === 0) columns.set(i, list);
    if (c.free >= BLADE / 2) list.push(Math.round(c.y / CELL));
  }
  let best = { length: 0, x: 0, y: 0 };
  for (const [i, list] of columns) {
    list.sort((p, q) => p - q);
    let from = 0;
    list.forEach((j, k) => {
      if (k > 0 && j - list[k - 1] > GAP) from = k;
      const length = (j - list[from] + 1) * CELL;
      if (length > best.length) best = { length, x: i * CELL, y: ((j + list[from]) / 2) * CELL };
    });
  }
  return best;
}

/** Cells over which a run is carried on: a wider gap than between a scan's points is something that stands there. */
const GAP = 3;
