import { PNG } from 'pngjs';
import { type DepthBands, depthColour } from '#contract/depth-ramp.ts';
import { unpackDisplay } from '#contract/display.ts';
import { blank, draw, VIEWS } from '../../files/render.ts';

const SIZE = { width: 240, height: 180 };
const GROUND = [229, 235, 232];

/** Small depth-coloured picture of the preparation seen from occlusal, facial side up: the Tray's thumbnail. */
export function occlusalPicture(display: Uint8Array, bands: DepthBands): Uint8Array {
  const { meshes } = unpackDisplay(display.slice().buffer);
  const scan = meshes.find((m) => m.name === 'scan');
  const png = blank(SIZE.width, SIZE.height, GROUND);
  if (scan)
    draw(
      png,
      {
        positions: scan.positions,
        triangles: scan.indices,
        colour: (v) => depthColour(scan.depth ? scan.depth[v] : 0, scan.surface ? scan.surface[v] : 0, bands),
      },
      { ...VIEWS.occlusal, centre: [0, 0, 0], scale: 12 },
      { x: 0, y: 0, ...SIZE },
    );
  return PNG.sync.write(png);
}
