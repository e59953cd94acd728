import type { DepthBands } from '#contract/depth-ramp.ts';
import { VIEWS } from '../../files/render.ts';
import { depthPicture } from '../scans/picture.ts';

export const PICTURE = { width: 620, height: 460, perMm: 30 } as const;
export const SIDES = ['occlusal', 'facial'] as const;
export type SideName = (typeof SIDES)[number];

const GROUND = [255, 255, 255];
/** Height over the origin that a view from the side looks at, mm. */
const MIDDLE = { occlusal: [0, 0, 0], facial: [0, 0, 2.4] } as const;

/** The prepared tooth from one side, on paper. */
export const pictureOf = (display: Uint8Array, bands: DepthBands, side: SideName): Uint8Array =>
  depthPicture(display, bands, { ...PICTURE, scale: PICTURE.perMm, ground: GROUND, side, centre: MIDDLE[side] });

type Place = readonly [x: number, y: number];

/** Where a place of the tooth stands on its picture from occlusal, in shares of width and height. */
export function placeOn(point: readonly number[]): Place {
  const { right, up } = VIEWS.occlusal;
  const along = (axis: readonly number[]): number => point[0] * axis[0] + point[1] * axis[1] + point[2] * axis[2];
  return [0.5 + (along(right) * PICTURE.perMm) / PICTURE.width, 0.5 - (along(up) * PICTURE.perMm) / PICTURE.height];
}

/** Distance of a label from the middle, and least angle between two, so that none covers another. */
const RING = 0.4;
const STEP = 0.26;

/** Labels on a ring round the tooth, each in the direction of its place, pushed on where two would meet. */
export function apart<T extends { readonly at: Place }>(marks: readonly T[]): (T & { readonly label: Place })[] {
  const sorted = marks
    .map((m) => ({ m, angle: Math.atan2(m.at[1] - 0.5, (m.at[0] - 0.5) * (PICTURE.width / PICTURE.height)) }))
    .sort((a, b) => a.angle - b.angle);
  const step = Math.min(STEP, (2 * Math.PI) / Math.max(1, sorted.length));
  let last = -Infinity;
  return sorted.map(({ m, angle }) => {
    last = Math.max(angle, last + step);
    return { ...m, label: [0.5 + (RING * Math.cos(last) * PICTURE.height) / PICTURE.width, 0.5 + RING * Math.sin(last)] as const };
  });
}
