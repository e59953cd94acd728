import { PNG } from 'pngjs';
import { type DepthBands, depthColour } from '#contract/depth-ramp.ts';
import { unpackDisplay } from '#contract/display.ts';
import { blank, draw, VIEWS } from '../../files/render.ts';

export interface PictureOf {
  readonly width: number;
  readonly height: number;
  /** Pixels a millimetre. */
  readonly scale: number;
  readonly ground: readonly number[];
  readonly side: keyof typeof VIEWS;
  /** Place of the tooth in the middle of the picture. */
  readonly centre: readonly number[];
}

/** The prepared tooth in the colours of the screen, drawn without one. */
export function depthPicture(display: Uint8Array, bands: DepthBands, o: PictureOf): Uint8Array {
  const { meshes } = unpackDisplay(display.slice().buffer);
  const scan = meshes.find((m) => m.name === 'scan');
  const png = blank(o.width, o.height, o.ground);
  if (scan)
    draw(
      png,
      {
        positions: scan.positions,
        triangles: scan.indices,
        colour: (v) => depthColour(scan.depth ? scan.depth[v] : 0, scan.surface ? scan.surface[v] : 0, bands),
      },
      { ...VIEWS[o.side], centre: o.centre, scale: o.scale },
      { x: 0, y: 0, width: o.width, height: o.height },
    );
  return PNG.sync.write(png);
}

/** Small picture of the preparation seen from occlusal, facial side up: the Tray's thumbnail. */
export const occlusalPicture = (display: Uint8Array, bands: DepthBands): Uint8Array =>
  depthPicture(display, bands, { width: 240, height: 180, scale: 12, ground: [229, 235, 232], side: 'occlusal', centre: [0, 0, 0] });
