import { m3, type Solid } from './bodies.ts';

export interface Form {
  readonly tooth: string;
  readonly md: number;
  readonly fl: number;
  readonly h: number;
  /** Tips and heights over the table; none for an incisor, which thins to an edge. */
  readonly cusps: readonly { name: string; role: 'functional' | 'non-functional'; x: number; y: number; up: number }[];
}

const cusp = (name: string, functional: boolean, x: number, y: number, up: number) =>
  ({ name, role: functional ? 'functional' : 'non-functional', x, y, up }) as const;

export const FORMS: Record<string, Form> = {
  molarLL: {
    tooth: '36',
    md: 11,
    fl: 10.2,
    h: 6.6,
    cusps: [
      cusp('MB', true, 2.4, 2.7, 1.5),
      cusp('DB', true, -2.2, 2.7, 1.4),
      cusp('ML', false, 2.4, -2.7, 1.8),
      cusp('DL', false, -2.2, -2.7, 1.7),
    ],
  },
  molarUR: {
    tooth: '17',
    md: 9.6,
    fl: 11,
    h: 6.4,
    cusps: [
      cusp('MB', false, 2.3, 3, 1.6),
      cusp('DB', false, -2.1, 3, 1.5),
      cusp('ML', true, 1.8, -2.9, 1.7),
      cusp('DL', true, -2.3, -2.9, 1.1),
    ],
  },
  premolarUL: { tooth: '25', md: 6.8, fl: 9, h: 7.2, cusps: [cusp('B', false, 0.1, 2.6, 1.9), cusp('L', true, 0.2, -2.5, 1.7)] },
  premolarLR: { tooth: '45', md: 7.2, fl: 8.2, h: 7, cusps: [cusp('B', true, 0, 2, 1.9), cusp('L', false, 0.3, -2.3, 1.3)] },
  canineUR: { tooth: '13', md: 7.6, fl: 7.8, h: 9.6, cusps: [cusp('C', true, 0, 0, 1.6)] },
  incisorUL: { tooth: '21', md: 8.6, fl: 7, h: 10.4, cusps: [] },
  incisorLR: { tooth: '41', md: 5.4, fl: 6, h: 8.8, cusps: [] },
  primaryMolar: {
    tooth: '75',
    md: 9.6,
    fl: 8.4,
    h: 4.9,
    cusps: [cusp('MB', true, 2.2, 1.9, 1), cusp('DB', true, -2, 1.9, 1), cusp('ML', false, 2.2, -1.9, 1.1), cusp('DL', false, -2, -1.9, 1)],
  },
};

export const anterior = (f: Form) => ['1', '2', '3'].includes(f.tooth[1]);

/** Half widths of the cross-section at height z. */
function section(f: Form, z: number): { a: number; b: number; y: number } {
  const t = Math.max(-0.5, Math.min(1.1, z / f.h));
  const neck = 0.84 + 0.16 * Math.sin(Math.min(1, Math.max(0, (t + 0.25) / 0.8)) * Math.PI * 0.5);
  if (!anterior(f))
    return { a: (f.md / 2) * (neck - 0.05 * Math.max(0, t - 0.55)), b: (f.fl / 2) * (neck - 0.22 * Math.max(0, t - 0.45)), y: 0 };
  // Facial face nearly straight, lingual face falling away above the cingulum.
  const thick = (f.fl / 2) * (0.92 - 0.62 * Math.min(1, Math.max(0, (t - 0.18) / 0.75)) ** 0.8);
  return { a: (f.md / 2) * (0.78 + 0.22 * Math.min(1, Math.max(0, (t + 0.2) / 0.9))), b: thick, y: 0.55 * ((f.fl / 2) * 0.92 - thick) };
}

function top(f: Form, x: number, y: number): number {
  if (!anterior(f)) {
    let z = f.h - 1.9;
    for (const c of f.cusps) z += c.up * Math.exp(-((x - c.x) ** 2 + (y - c.y) ** 2) / 4.4);
    return z - 0.7 * Math.exp(-(y * y) / 0.5) * Math.exp(-((x / (0.33 * f.md)) ** 4));
  }
  return f.h - (f.cusps.length ? 1.7 * (Math.abs(x) / (f.md / 2)) : 0.25 * (x / (f.md / 2)) ** 2);
}

const SOFT = 9;

const smin = (p: number, q: number): number => -Math.log(Math.exp(-SOFT * p) + Math.exp(-SOFT * q)) / SOFT;

export function inside(f: Form, x: number, y: number, z: number): number {
  const s = section(f, z);
  const n = 2.5;
  const rho = ((Math.abs(x) / s.a) ** n + (Math.abs(y - s.y) / s.b) ** n) ** (1 / n);
  return smin((1 - rho) * Math.min(s.a, s.b), (top(f, x, y) - z) * 0.8);
}

/** Where the ray at azimuth phi (radians) leaves the body at height z. */
export function outer(f: Form, phi: number, z: number): number {
  let lo = 0;
  let hi = 9;
  for (let i = 0; i < 40; i++) {
    const r = (lo + hi) / 2;
    if (inside(f, r * Math.sin(phi), r * Math.cos(phi), z) > 0) lo = r;
    else hi = r;
  }
  return lo;
}

export const body = (f: Form, edge: number): Solid =>
  m3.Manifold.levelSet(
    ([x, y, z]) => Math.min(inside(f, x, y, z), z + 5),
    { min: [-f.md * 0.7, -f.fl * 0.75, -5.2], max: [f.md * 0.7, f.fl * 0.75, f.h + 1.5] },
    edge,
  );

/** Gum line: high between the teeth. */
export const gum = (x: number, y: number): number =>
  -0.2 + 0.5 * Math.sin(Math.atan2(x, y)) ** 2 - 0.18 * Math.max(0, Math.hypot(x, y) - 4);

export const lineHeight = (f: Form, phi: number, over: number): number => {
  let z = 0;
  for (let i = 0; i < 40; i++) {
    const r = outer(f, phi, z);
    z += 0.7 * (gum(r * Math.sin(phi), r * Math.cos(phi)) + over - z);
  }
  return z;
};

export const surfaceTop = (f: Form, x: number, y: number): number => {
  let lo = 0;
  let hi = 14;
  for (let i = 0; i < 40; i++) {
    const z = (lo + hi) / 2;
    if (inside(f, x, y, z) > 0) lo = z;
    else hi = z;
  }
  return lo;
};
