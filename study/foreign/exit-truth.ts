// The angle at which a margin leaves the tooth, from the function of a prepared tooth.
import { bisected } from './bisected.ts';
import type { Body } from './implicit-mesh.ts';

const RAD = Math.PI / 180;
/** mm of the cut and of the uncut surface whose directions are taken, from the edge on, and mm between their places. */
const INSIDE = [0, 0.2] as const;
const OUTSIDE = [0.04, 0.5] as const;
const STEP = 0.02;

/** Exit angle (degrees) in the half plane at `phi` about `o`, where the finish line passes (r, z) in it: between the cut surface's first 0.2 mm and the uncut one's first 0.5 mm. */
export function exitAngleAt(
  prepared: Body,
  [x0, y0]: readonly number[],
  phi: number,
  finish: { readonly r: number; readonly z: number },
): number {
  const [sx, sy] = [Math.sin(phi * RAD), Math.cos(phi * RAD)];
  const at = (r: number, z: number): number => prepared(x0 + r * sx, y0 + r * sy, z);
  /** Where the surface passes a circle about the edge, degrees from straight out of the tooth towards occlusal; the tooth lies between the two. */
  const on = (d: number, from: number, to: number): readonly [number, number] => {
    const place = (a: number): readonly [number, number] => [finish.r + d * Math.cos(a * RAD), finish.z + d * Math.sin(a * RAD)];
    const angle = from + bisected((a) => -at(...place(from + (a * (to - from)) / 100)), 0, 100) * ((to - from) / 100);
    return place(angle);
  };
  const along = ([least, most]: readonly [number, number], from: number, to: number): number => {
    const places = Array.from({ length: Math.round((most - least) / STEP) + 1 }, (_, i) => least + i * STEP).map((d) =>
      d > 0 ? on(d, from, to) : ([finish.r, finish.z] as const),
    );
    return directionOf(places);
  };
  // From the open air outside the edge, over the top into the tooth, and below the edge into it.
  const [inward, outward] = [along(INSIDE, 45, 225), along(OUTSIDE, 45, -135)];
  const apart = Math.abs(inward - outward) % 360;
  return apart > 180 ? 360 - apart : apart;
}

/** Degrees of the line that lies nearest to places in a plane, from the first to the last of them. */
function directionOf(places: readonly (readonly [number, number])[]): number {
  const n = places.length;
  const [mx, my] = [0, 1].map((k) => places.reduce((s, p) => s + p[k], 0) / n);
  const sum = (f: (x: number, y: number) => number): number => places.reduce((s, [x, y]) => s + f(x - mx, y - my), 0);
  const angle =
    Math.atan2(
      2 * sum((x, y) => x * y),
      sum((x, y) => x * x - y * y),
    ) / 2;
  const [a, b] = [places[0], places[n - 1]];
  const isBack = Math.cos(angle) * (b[0] - a[0]) + Math.sin(angle) * (b[1] - a[1]) < 0;
  return angle / RAD + (isBack ? 180 : 0);
}
