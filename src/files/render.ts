import { PNG } from 'pngjs';

/** Input of the software renderer: a mesh with one colour per vertex and a viewing direction. */
export interface Drawn {
  readonly positions: ArrayLike<number>;
  readonly triangles: ArrayLike<number>;
  /** Red, green, blue (0 to 1) of a vertex. */
  colour(v: number): readonly [number, number, number];
}

export interface View {
  /** Unit vectors of the picture in the mesh's frame: to the right, up, and towards the eye. */
  readonly right: readonly number[];
  readonly up: readonly number[];
  readonly eye: readonly number[];
  readonly centre: readonly number[];
  /** Pixels per millimetre. */
  readonly scale: number;
}

export const VIEWS = {
  occlusal: { right: [1, 0, 0], up: [0, 1, 0], eye: [0, 0, 1] },
  facial: { right: [-1, 0, 0], up: [0, 0, 1], eye: [0, 1, 0] },
  lingual: { right: [1, 0, 0], up: [0, 0, 1], eye: [0, -1, 0] },
  mesial: { right: [0, 1, 0], up: [0, 0, 1], eye: [1, 0, 0] },
  distal: { right: [0, -1, 0], up: [0, 0, 1], eye: [-1, 0, 0] },
} as const;

export function blank(width: number, height: number, ground: readonly number[]): PNG {
  const png = new PNG({ width, height });
  for (let i = 0; i < width * height; i++) png.data.set([ground[0], ground[1], ground[2], 255], 4 * i);
  return png;
}

/** Draws into a rectangle of the picture, nearest surface first, lit from the upper left. */
export function draw(png: PNG, m: Drawn, view: View, box: { x: number; y: number; width: number; height: number }): void {
  const nearest = new Float32Array(box.width * box.height).fill(-1e9);
  const p = m.positions;
  const dot = (v: number, d: readonly number[]): number =>
    (p[3 * v] - view.centre[0]) * d[0] + (p[3 * v + 1] - view.centre[1]) * d[1] + (p[3 * v + 2] - view.centre[2]) * d[2];
  for (let f = 0; f < m.triangles.length; f += 3) {
    const corner = [m.triangles[f], m.triangles[f + 1], m.triangles[f + 2]];
    const x = corner.map((v) => box.width / 2 + dot(v, view.right) * view.scale);
    const y = corner.map((v) => box.height / 2 - dot(v, view.up) * view.scale);
    const area = (x[1] - x[0]) * (y[2] - y[0]) - (y[1] - y[0]) * (x[2] - x[0]);
    if (area >= 0) continue;
    const z = corner.map((v) => dot(v, view.eye));
    const light = shade(p, corner, view);
    const colours = corner.map((v) => m.colour(v));
    for (let v = Math.max(0, Math.floor(Math.min(...y))); v <= Math.min(box.height - 1, Math.ceil(Math.max(...y))); v++)
      for (let u = Math.max(0, Math.floor(Math.min(...x))); u <= Math.min(box.width - 1, Math.ceil(Math.max(...x))); u++) {
        const a = ((x[1] - u) * (y[2] - v) - (x[2] - u) * (y[1] - v)) / area;
        const b = ((x[2] - u) * (y[0] - v) - (x[0] - u) * (y[2] - v)) / area;
        const c = 1 - a - b;
        if (a < 0 || b < 0 || c < 0) continue;
        const depth = a * z[0] + b * z[1] + c * z[2];
        if (depth <= nearest[v * box.width + u]) continue;
        nearest[v * box.width + u] = depth;
        const rgb = [0, 1, 2].map((q) => Math.min(255, 255 * light * (a * colours[0][q] + b * colours[1][q] + c * colours[2][q])));
        png.data.set([rgb[0], rgb[1], rgb[2], 255], 4 * ((box.y + v) * png.width + box.x + u));
      }
  }
}

function shade(p: ArrayLike<number>, [i, j, k]: readonly number[], view: View): number {
  const e = [p[3 * j] - p[3 * i], p[3 * j + 1] - p[3 * i + 1], p[3 * j + 2] - p[3 * i + 2]];
  const g = [p[3 * k] - p[3 * i], p[3 * k + 1] - p[3 * i + 1], p[3 * k + 2] - p[3 * i + 2]];
  const n = [e[1] * g[2] - e[2] * g[1], e[2] * g[0] - e[0] * g[2], e[0] * g[1] - e[1] * g[0]];
  const l = Math.hypot(n[0], n[1], n[2]) || 1;
  const on = (d: readonly number[]): number => (n[0] * d[0] + n[1] * d[1] + n[2] * d[2]) / l;
  return 0.36 + 0.64 * Math.max(0, -0.42 * on(view.right) + 0.5 * on(view.up) + 0.76 * on(view.eye));
}
