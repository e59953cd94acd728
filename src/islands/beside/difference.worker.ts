import { unpackDisplay } from '#contract/display.ts';
import { makeMesh } from '#core/mesh/mesh.ts';
import { differenceFrom } from '#core/spatial/difference.ts';

export interface DifferenceAsk {
  readonly earlier: ArrayBuffer;
  readonly later: ArrayBuffer;
}

const scanOf = (display: ArrayBuffer) => {
  const scan = unpackDisplay(display).meshes.find((m) => m.name === 'scan');
  return scan ? makeMesh('tooth', Float64Array.from(scan.positions), scan.indices) : null;
};

self.onmessage = ({ data }: MessageEvent<DifferenceAsk>): void => {
  const [earlier, later] = [scanOf(data.earlier), scanOf(data.later)];
  self.postMessage(earlier && later ? differenceFrom(later, earlier) : null);
};
