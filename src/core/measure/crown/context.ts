import { heightAt } from '../../linalg/curve.ts';
import { toRadians, unit, type Vec3 } from '../../linalg/vec.ts';
import { type Around, smoothAround } from '../../segment/around.ts';
import { AZIMUTHS, type CrownAnatomy, isAnterior, radialPoint } from '../../segment/crown/crown.ts';
import { type OcclusalZone, occlusalZones } from '../../segment/crown/occlusal-zones.ts';
import { classify, type SurfaceKind } from '../../segment/crown/surfaces.ts';
import type { Wall } from '../../segment/crown/wall.ts';
import { median } from '../../statistics/quantile.ts';
import { type Draw, drawLean, insertion, wallsFaceEachOther } from './draw-direction.ts';

/** What the measures of crowns, partial crowns and an onlay's covered side share: the anatomy, its curves round the tooth (smoothed over about 1 mm) and the draw direction. */
export interface CrownContext {
  readonly anatomy: CrownAnatomy;
  readonly azimuths: readonly number[];
  /** Half window of the smoothing round the tooth, in azimuth steps. */
  readonly half: number;
  readonly finishR: Around;
  readonly finishZ: Around;
  readonly footR: Around;
  readonly footZ: Around;
  readonly lean: Around;
  readonly draw: Draw | null;
  /** Wall taper against the draw direction, degrees. */
  readonly taper: Around;
  /** Height at which the profile has left the margin floor for the fitted wall, by azimuth. */
  readonly wallFromZ: Around;
  /** Occlusoaxial edge by azimuth. */
  readonly topR: Around;
  readonly topZ: Around;
  /** Wall, floor or occlusal surface, per vertex of the target region. */
  readonly kinds: readonly SurfaceKind[];
  readonly zones: readonly OcclusalZone[];
  /** The region's points without most of their own noise: for least distances, which noise would shorten. */
  readonly steady: Float64Array;
  /** mm by which averaging had moved each of them and was undone: about what is still missing at edges finer than the scan. */
  readonly blunted: Float64Array;
  /** Incisors and canines. */
  readonly anterior: boolean;
}

/** mm of arc each side over which curves round the tooth are smoothed, and the least and most steps of 2° that may be. */
const SMOOTH_MM = 1;
const LEAST_HALF = 5;
const MOST_HALF = 10;

/** The same for the occlusoaxial edge, which rises and falls with the cusps. */
export const TOP_HALF = 3;

/** Half window of the smoothing round a tooth, in steps. */
function halfWindow(profiles: CrownAnatomy['profiles']): number {
  const radii = profiles.flatMap((p) => p?.finish.r ?? []);
  const radius = radii.length ? median(radii) : 5;
  return Math.max(LEAST_HALF, Math.min(MOST_HALF, Math.round(SMOOTH_MM / ((radius * 2 * Math.PI) / AZIMUTHS))));
}

/** `guides`: normals of further walls that the draw must clear (grooves, boxes, slots of what covers only a part). */
export function crownContext(anatomy: CrownAnatomy, guides: readonly Vec3[] = []): CrownContext {
  const azimuths = Array.from({ length: AZIMUTHS }, (_, k) => (360 * k) / AZIMUTHS);
  const p = anatomy.profiles;
  const half = halfWindow(p);
  const finishR = smoothAround(
    p.map((q) => q?.finish.r ?? null),
    half,
  );
  const finishZ = smoothAround(
    p.map((q) => q?.finish.z ?? null),
    half,
  );
  const footR = smoothAround(
    p.map((q) => q?.wall?.foot.r ?? null),
    half,
  );
  const footZ = smoothAround(
    p.map((q) => q?.wall?.foot.z ?? null),
    half,
  );
  const lean = smoothAround(
    p.map((q) => q?.wall?.lean ?? null),
    half,
  );
  // The draw direction belongs to the whole preparation: it is found from leans smoothed twice as far.
  const broad = smoothAround(
    p.map((q) => q?.wall?.lean ?? null),
    2 * half,
  );
  // What covers only a part has guides for the rest.
  const draw =
    anatomy.covered.every(Boolean) && !wallsFaceEachOther(broad)
      ? null
      : insertion(broad, [...wallNormals(anatomy, broad), ...guides], NORMALS_BLUR);
  const taper = lean.map((v, k) => (v === null || !draw ? null : v + drawLean(draw, azimuths[k])));
  const edge = (value: (w: Wall) => number) =>
    smoothAround(
      p.map((q) => (q?.wall ? value(q.wall) : null)),
      TOP_HALF,
    );
  const along = draw?.direction ?? [0, 0, 1];
  const parts = {
    anatomy,
    azimuths,
    half,
    finishR,
    finishZ,
    footR,
    footZ,
    lean,
    draw,
    taper,
    wallFromZ: smoothAround(
      p.map((q) => q?.wall?.leavesZ ?? null),
      3,
    ),
    topR: edge((w) => w.top.r),
    topZ: edge((w) => w.top.z),
    kinds: classify(anatomy, along),
    ...steadied(anatomy),
    anterior: isAnterior(anatomy.master),
  };
  return { ...parts, zones: occlusalZones(anatomy, parts.kinds, along) };
}

/** What every reading along the finish line shares. */
export const alongFinishLine = (c: CrownContext) => ({
  azimuths: c.azimuths,
  covered: c.anatomy.covered,
  point: (k: number): Vec3 | undefined => {
    const r = c.finishR[k];
    const z = c.finishZ[k];
    return r === null || z === null ? undefined : radialPoint(c.azimuths[k], r, z);
  },
});

/** Share of the covered azimuths for which a value is there. */
export const coverageOf = (c: CrownContext, there: (k: number) => boolean): number => {
  const own = c.azimuths.flatMap((_, k) => (c.anatomy.covered[k] ? [k] : []));
  return own.length ? own.filter(there).length / own.length : 0;
};

/** The region's points without most of their own noise: averaged twice, and what that took off edges and tips averaged in once more. */
function steadied(a: CrownAnatomy): Pick<CrownContext, 'steady' | 'blunted'> {
  const { positions } = a.region.mesh;
  const blunt = averagedTwice(a, positions);
  const lost = averagedTwice(
    a,
    positions.map((v, i) => v - blunt[i]),
  );
  return {
    steady: blunt.map((v, i) => v + lost[i]),
    blunted: Float64Array.from({ length: lost.length / 3 }, (_, v) => Math.hypot(lost[3 * v], lost[3 * v + 1], lost[3 * v + 2])),
  };
}

/** Values of three at every point, each half its own and half its neighbours' mean, twice. */
function averagedTwice({ region: { adjacency } }: CrownAnatomy, values: Float64Array): Float64Array {
  let from = values;
  for (let pass = 0; pass < 2; pass++) {
    const to = from.slice();
    for (let v = 0; v < from.length / 3; v++) {
      const n = adjacency.start[v + 1] - adjacency.start[v];
      if (n < 4) continue;
      let x = 0;
      let y = 0;
      let z = 0;
      for (let i = adjacency.start[v]; i < adjacency.start[v + 1]; i++) {
        const w = 3 * adjacency.list[i];
        x += from[w];
        y += from[w + 1];
        z += from[w + 2];
      }
      to[3 * v] = 0.5 * from[3 * v] + (0.5 * x) / n;
      to[3 * v + 1] = 0.5 * from[3 * v + 1] + (0.5 * y) / n;
      to[3 * v + 2] = 0.5 * from[3 * v + 2] + (0.5 * z) / n;
    }
    from = to;
  }
  return from;
}

/** degrees: how well a wall normal is known; see draw-direction.ts. */
const NORMALS_BLUR = 0.5;

/** Half window, in steps of 2°, over which the wall's run round the tooth is taken. */
const RUN = 8;

/**
 * Outward normals of the primary wall, one per azimuth: its lean from the fitted line, its run round the tooth from the
 * wall lines of the azimuths beside it at the same height.
 */
function wallNormals(a: CrownAnatomy, lean: Around): Vec3[] {
  const walls = a.profiles.map((p) => p?.wall ?? null);
  const n = walls.length;
  const step = (2 * Math.PI) / n;
  return walls.flatMap((w, k): Vec3[] => {
    const own = lean[k];
    if (!w || own === null) return [];
    let run = 0;
    let squares = 0;
    for (let j = 1; j <= RUN; j++) {
      const after = walls[(k + j) % n];
      const before = walls[(k - j + n) % n];
      if (!after || !before) continue;
      run += j * (radiusAt(after, w.line.y) - radiusAt(before, w.line.y));
      squares += 2 * j * j;
    }
    if (squares === 0) return [];
    const phi = k * step;
    const turn = run / squares / step / w.line.x;
    const out: Vec3 = [Math.sin(phi) - turn * Math.cos(phi), Math.cos(phi) + turn * Math.sin(phi), Math.tan(toRadians(own))];
    return [unit(out)];
  });
}

const radiusAt = (w: Wall, z: number): number => w.line.x + ((z - w.line.y) * w.line.dx) / w.line.dy;

/** Height of the finish line over the gingival margin at each azimuth, mm; null where either is unknown. */
export function marginHeights(c: CrownContext): (number | null)[] {
  const curve = c.anatomy.master.landmarks.gingivalMargin;
  return c.finishZ.map((z, k) => {
    const g = heightAt(curve, c.azimuths[k]);
    return z === null || g === null ? null : z - g;
  });
}
