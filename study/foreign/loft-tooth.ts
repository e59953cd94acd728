import type { Vec3 } from '#core/linalg/vec.ts';
import { rounded } from './loft-mesh.ts';
import type { foreignMaster } from './scanner.ts';

export type P = readonly [number, number];

export const RAD = Math.PI / 180;

export interface Tooth {
  readonly tooth: string;
  readonly anterior: boolean;
  readonly md: number;
  readonly fl: number;
  readonly h: number;
  /** Cusps by azimuth (degrees) round the rim. */
  readonly cusps: readonly { readonly name: string; readonly role: 'functional' | 'non-functional'; readonly azimuth: number }[];
}

const molar = (tooth: string, md: number, fl: number, h: number): Tooth => {
  const upper = ['1', '2'].includes(tooth[0]);
  const role = (facial: boolean) => (facial === upper ? 'non-functional' : 'functional') as 'functional' | 'non-functional';
  return {
    tooth,
    anterior: false,
    md,
    fl,
    h,
    cusps: [
      { name: 'MB', role: role(true), azimuth: 42 },
      { name: 'DB', role: role(true), azimuth: 318 },
      { name: 'ML', role: role(false), azimuth: 138 },
      { name: 'DL', role: role(false), azimuth: 222 },
    ],
  };
};

export const LOFT_TEETH: Readonly<Record<string, Tooth>> = {
  molar46: molar('46', 11.2, 10, 6.8),
  molar26: molar('26', 10.4, 11.4, 6.6),
  premolar35: {
    tooth: '35',
    anterior: false,
    md: 7.2,
    fl: 8.4,
    h: 7,
    cusps: [
      { name: 'B', role: 'functional', azimuth: 0 },
      { name: 'L', role: 'non-functional', azimuth: 180 },
    ],
  },
  premolar14: {
    tooth: '14',
    anterior: false,
    md: 7,
    fl: 9.2,
    h: 7.4,
    cusps: [
      { name: 'B', role: 'non-functional', azimuth: 0 },
      { name: 'L', role: 'functional', azimuth: 180 },
    ],
  },
};

/** A bump of cos² about an azimuth. */
export const bump = (phi: number, at: number, half: number): number => {
  const d = Math.abs(((((phi - at) % 360) + 540) % 360) - 180);
  return d < half ? Math.cos((d / half) * 90 * RAD) ** 2 : 0;
};

/** Radius of the uncut tooth: superellipse sections, widest at the height of contour. */
export function side(t: Tooth, phi: number, z: number): number {
  const u = Math.max(-0.5, Math.min(1.1, z / t.h));
  const swell = 0.86 + 0.14 * Math.cos((u - 0.42) * 2.1) ** 2;
  // Fuller mesially and facially, as teeth are, so that the tooth has no symmetry of its own.
  const a = (t.md / 2) * swell * (1 + 0.04 * Math.sin(phi * RAD));
  const b = (t.fl / 2) * swell * (1 - 0.16 * Math.max(0, u - 0.4) ** 2) * (1 + 0.03 * Math.cos(phi * RAD));
  const n = 2.6;
  return (Math.abs(Math.sin(phi * RAD) / a) ** n + Math.abs(Math.cos(phi * RAD) / b) ** n) ** (-1 / n);
}

export const gingiva = (phi: number): number =>
  0.15 - 0.35 * Math.cos(2 * phi * RAD) + 0.12 * Math.sin(phi * RAD) - 0.1 * Math.cos(phi * RAD);

export const rimZ = (t: Tooth, phi: number): number =>
  t.h - 1.1 + t.cusps.reduce((s, c) => s + 1.1 * bump(phi, c.azimuth, t.cusps.length > 2 ? 52 : 95), 0);

export const uncutCorners = (t: Tooth, phi: number): { line: P[]; radii: number[] } => {
  const z0 = gingiva(phi) - 1;
  const z1 = rimZ(t, phi);
  const n = 14;
  const line = Array.from({ length: n + 1 }, (_, i): P => {
    const z = z0 + ((z1 - 0.7 - z0) * i) / n;
    return [side(t, phi, z), z];
  });
  const rim: P = [side(t, phi, z1) - 1.3, z1];
  return { line: [...line, rim, [0, t.h - 2.1]], radii: [...line.map(() => 0), 0.9, 0] };
};

/** The mesial neighbour is smaller and the distal one larger than the tooth. */
export function neighbours(t: Tooth): { tooth: Tooth; at: [number, number] }[] {
  return [
    [1, 0.9],
    [-1, 1.08],
  ].map(([s, size]) => {
    const tooth = { ...t, md: t.md * size, fl: t.fl * (0.5 + 0.5 * size), h: t.h * (1.1 - 0.1 * size) };
    const apart = side(t, s === 1 ? 90 : 270, t.h * 0.5) + side(tooth, s === 1 ? 270 : 90, t.h * 0.5) + 0.08;
    return { tooth, at: [s * apart, -0.25 * s] };
  });
}

export const insideNeighbour = (beside: ReturnType<typeof neighbours>, p: Vec3): boolean =>
  beside.some(({ tooth, at }) => {
    const [x, y] = [p[0] - at[0], p[1] - at[1]];
    return Math.hypot(x, y) < side(tooth, (Math.atan2(x, y) * 180) / Math.PI, p[2]) - 0.05;
  });

/** Highest place of a meridian, from the profile itself. */
function tipOf(t: Tooth, phi: number): Vec3 {
  const { points } = rounded(uncutCorners(t, phi).line, uncutCorners(t, phi).radii, 0.03);
  const [r, z] = points.reduce((b, q) => (q[1] > b[1] ? q : b));
  return [r * Math.sin(phi * RAD), r * Math.cos(phi * RAD), z];
}

/** Tips of both neighbours' cusps. */
export function tipsBeside(t: Tooth): { mesial: Vec3[]; distal: Vec3[] } {
  const [mesial, distal] = neighbours(t).map(({ tooth, at }) =>
    tooth.cusps.map((c): Vec3 => {
      const [x, y, z] = tipOf(tooth, c.azimuth);
      return [x + at[0], y + at[1], z];
    }),
  );
  return { mesial, distal };
}

/** Height of the cemento-enamel junction, which these teeth carry at a waving height under the gum. */
export const cej = (phi: number): number => gingiva(phi) - 0.4 + 0.3 * Math.cos(2 * phi * RAD);

export function marks(t: Tooth): Parameters<typeof foreignMaster>[3] {
  const at = (phi: number, r: number, z: number): Vec3 => [r * Math.sin(phi * RAD), r * Math.cos(phi * RAD), z];
  const tip = (phi: number): Vec3 => tipOf(t, phi);
  const ridge = (phi: number): Vec3[] => [-14, 0, 14].map((d) => tip(phi + d));
  return {
    cusps: t.cusps.map((c) => ({ name: c.name, role: c.role, at: tip(c.azimuth) })),
    groove: [-0.3, -0.15, 0, 0.15, 0.3].map((u) => {
      const phi = u < 0 ? 270 : 90;
      const { line } = uncutCorners(t, phi);
      const rim = line[line.length - 2];
      const r = Math.abs(u) * t.md;
      return at(phi, r, t.h - 2.1 + ((rim[1] - (t.h - 2.1)) * r) / rim[0]);
    }),
    mesialRidge: ridge(90),
    distalRidge: ridge(270),
    mesialContact: at(90, side(t, 90, t.h * 0.5), t.h * 0.5),
    distalContact: at(270, side(t, 270, t.h * 0.5), t.h * 0.5),
    neighbourCusps: tipsBeside(t),
    cej: Array.from({ length: 72 }, (_, k) => at(5 * k, side(t, 5 * k, cej(5 * k)), cej(5 * k))),
    gingivalMargin: Array.from({ length: 36 }, (_, k) => at(10 * k, side(t, 10 * k, gingiva(10 * k)), gingiva(10 * k))),
  };
}
