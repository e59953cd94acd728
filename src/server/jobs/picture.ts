import { PNG } from 'pngjs';
import { type DepthBands, depthColour } from '#contract/depth-ramp.ts';
import { type DisplayMesh, unpackDisplay } from '#contract/display.ts';

const SIZE = { width: 240, height: 180 };
const GROUND = [229, 235, 232];

/** Small depth-coloured picture of the preparation seen from occlusal, facial side up: the Tray's thumbnail. */
export function occlusalPicture(display: Uint8Array, bands: DepthBands): Uint8Array {
  const { meshes } = unpackDisplay(display.slice().buffer);
  const scan = meshes.find((m) => m.name === 'scan');
  const png = new PNG(SIZE);
  for (let i = 0; i < SIZE.width * SIZE.height; i++) png.data.set([...GROUND, 255], 4 * i);
  if (scan) draw(png, scan, bands);
  return PNG.sync.write(png);
}

function draw(png: PNG, m: DisplayMesh, bands: DepthBands): void {
  const { width, height } = SIZE;
  const nearest = new Float32Array(width * height).fill(-1e9);
  const scale = 12;
  const p = m.positions;
  for (let f = 0; f < m.indices.length; f += 3) {
    const [i, j, k] = [m.indices[f], m.indices[f + 1], m.indices[f + 2]];
    const x = [i, j, k].map((v) => width / 2 + p[3 * v] * scale);
    const y = [i, j, k].map((v) => height / 2 - p[3 * v + 1] * scale);
    const z = [i, j, k].map((v) => p[3 * v + 2]);
    const area = (x[1] - x[0]) * (y[2] - y[0]) - (y[1] - y[0]) * (x[2] - x[0]);
    if (area >= 0) continue;
    const e = [p[3 * j] - p[3 * i], p[3 * j + 1] - p[3 * i + 1], p[3 * j + 2] - p[3 * i + 2]];
    const g = [p[3 * k] - p[3 * i], p[3 * k + 1] - p[3 * i + 1], p[3 * k + 2] - p[3 * i + 2]];
    const n = [e[1] * g[2] - e[2] * g[1], e[2] * g[0] - e[0] * g[2], e[0] * g[1] - e[1] * g[0]];
    const l = Math.hypot(n[0], n[1], n[2]) || 1;
    const light = 0.42 + 0.58 * Math.max(0, (-0.35 * n[0] + 0.45 * n[1] + 0.82 * n[2]) / l);
    const colours = [i, j, k].map((v) => depthColour(m.depth ? m.depth[v] : 0, m.surface ? m.surface[v] : 0, bands));
    for (let v = Math.max(0, Math.floor(Math.min(...y))); v <= Math.min(height - 1, Math.ceil(Math.max(...y))); v++)
      for (let u = Math.max(0, Math.floor(Math.min(...x))); u <= Math.min(width - 1, Math.ceil(Math.max(...x))); u++) {
        const a = ((x[1] - u) * (y[2] - v) - (x[2] - u) * (y[1] - v)) / area;
        const b = ((x[2] - u) * (y[0] - v) - (x[0] - u) * (y[2] - v)) / area;
        const c = 1 - a - b;
        if (a < 0 || b < 0 || c < 0) continue;
        const depth = a * z[0] + b * z[1] + c * z[2];
        if (depth <= nearest[v * width + u]) continue;
        nearest[v * width + u] = depth;
        const rgb = [0, 1, 2].map((q) => Math.min(255, 255 * light * (a * colours[0][q] + b * colours[1][q] + c * colours[2][q])));
        png.data.set([rgb[0], rgb[1], rgb[2], 255], 4 * (v * width + u));
      }
  }
}
