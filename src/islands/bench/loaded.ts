import type { DisplayHeader, DisplayMesh } from '#contract/display.ts';

export interface Loaded {
  readonly header: DisplayHeader;
  readonly meshes: DisplayMesh[];
  /** The file itself: the worker that reads at a place wants it too. */
  readonly display: ArrayBuffer;
}
