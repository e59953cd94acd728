// Family "loft": teeth and stumps as surfaces of profiles lofted round the axis, meshed directly, without bodies or booleans.
import type { Vec3 } from '#core/linalg/vec.ts';
import { PART } from '#core/master/master.ts';
import { type ForeignCase, SCAN, type ScanOptions, type Truth } from './case.ts';
import { crownTruths, cutCorners, type LoftCrown } from './loft-crown.ts';
import { loft, rounded, stretches } from './loft-mesh.ts';
import { surfaceTruths } from './loft-surface.ts';
import { gingiva, insideNeighbour, LOFT_TEETH, marks, neighbours, type P, RAD, side, type Tooth, uncutCorners } from './loft-tooth.ts';
import { emptySheet, foreignMaster, type Sheet, scanOf } from './scanner.ts';

function surroundings(
  sheet: Sheet,
  t: Tooth,
  spacing: number,
  nick: LoftCrown['nick'],
  trench: ((phi: number) => P | null) | null,
  gum = 0,
): void {
  const beside = neighbours(t);
  for (const [part, s] of [
    [PART.mesial, 1],
    [PART.distal, -1],
  ] as const) {
    const n = nick && nick.side === (s === 1 ? 'mesial' : 'distal') ? nick : null;
    const facing = s === 1 ? 270 : 90;
    const { tooth, at } = beside[s === 1 ? 0 : 1];
    loft(
      sheet,
      part,
      (phi) => {
        const { points } = rounded(uncutCorners(tooth, phi).line, uncutCorners(tooth, phi).radii, 0.06);
        const d = Math.abs(((((phi - facing) % 360) + 540) % 360) - 180);
        const dug = points.map(([r, z]): P => {
          if (!n) return [r, z];
          // A spherical cap of the given depth and width, sunk into the face towards the target.
          const arc = d * RAD * r;
          const q = Math.hypot(arc, z - tooth.h * 0.5) / (n.across / 2);
          return [r - (q < 1 ? n.depth * (1 - q * q) : 0), z];
        });
        return [dug];
      },
      n ? Math.min(spacing, 0.1) : 1.3 * spacing,
      (p) => p[2] > gingiva(90) - 0.05 && Math.abs(p[0]) < 14,
      at,
    );
  }
  // Gum: from the tooth outward, level away from it.
  loft(
    sheet,
    PART.gingiva,
    (phi) => {
      const own = trench?.(phi);
      const z = gingiva(phi);
      const r = side(t, phi, z) + (own ? gum : 0.02);
      // From outside inward: far gum, the crest beside the tooth, and down the trench where there is one.
      const start: P[] = [[13, z - 1.6], [r + 2.5, z - 0.6], [r, z], ...(own ? [own] : [])];
      const { points } = rounded(start, [0, 0.8, own ? 0.08 : 0, 0], 0.1);
      return [points];
    },
    1.4 * spacing,
    (p) => Math.abs(p[1]) < t.fl * 0.5 + 4 && Math.abs(p[0]) < 14 && !insideNeighbour(beside, p),
  );
}

/** A trench's gum was pushed away or cut. */
const isOverGum = (c: LoftCrown): boolean => Array.from({ length: 72 }, (_, k) => c.over(5 * k)).every((z) => z > 0);
/** No cutter came near the gum. */
const UNTOUCHED_GUM: Truth = { name: 'gingiva.contact', zone: null, stat: 'max', value: 0 };

/** Smooth walls and floors, and a scan whose points have each a noise of their own: what is rough is the scan. */
const roughTruths = ({ noise, correlation, blunt, defects }: ScanOptions): Truth[] =>
  correlation || blunt || defects.length
    ? []
    : ['wall', 'floor'].map((zone) => ({ name: 'surface.rough', zone, stat: 'median', value: noise }));

export function loftCrown(name: string, form: string, c: LoftCrown, options: Partial<ScanOptions> = {}): ForeignCase {
  const t = LOFT_TEETH[form];
  const o = { ...SCAN, ...options };
  const uncut = (phi: number): P[][] => stretches(rounded(uncutCorners(t, phi).line, uncutCorners(t, phi).radii, 0.03));
  const seen = (p: Vec3): boolean => {
    const phi = (Math.atan2(p[0], p[1]) * 180) / Math.PI;
    return p[2] > gingiva(phi) - 0.03;
  };
  const arch = emptySheet();
  loft(arch, PART.target, uncut, 0.12, seen);
  surroundings(arch, t, 0.14, null, null);
  const master = foreignMaster(`Loft ${form}`, t.tooth, arch, marks(t));
  const scene = emptySheet();
  loft(
    scene,
    PART.target,
    (phi) => {
      const k = cutCorners(t, c, phi);
      const cut = stretches(rounded(k.line, k.radii, 0.02));
      // Uncut side below the finish line; under the gingiva the gum hides it.
      const low = Math.min(gingiva(phi), k.finish[1] - 0.001);
      const below: P[] = Array.from({ length: 5 }, (_, i) => {
        const z = low + ((k.finish[1] - low) * i) / 4;
        return [side(t, phi, z), z];
      });
      return [below, ...cut];
    },
    o.spacing,
    () => true,
  );
  surroundings(
    scene,
    t,
    o.spacing,
    c.nick,
    (phi) => {
      const over = c.over(phi);
      const z = gingiva(phi) + over;
      return over < -0.02 ? [side(t, phi, z), z] : null;
    },
    c.gum,
  );
  const { scan, pose } = scanOf(t.tooth, scene, o);
  return {
    family: 'loft',
    name,
    kind: 'crown',
    master,
    scan,
    pose,
    truths: () =>
      o.scale === 1 ? [...crownTruths(t, c), ...surfaceTruths(t, c), ...(isOverGum(c) ? [UNTOUCHED_GUM] : []), ...roughTruths(o)] : [],
    size: o.scale,
    ...(o.mirrored ? { refused: 'align.mirrored' } : {}),
  };
}
