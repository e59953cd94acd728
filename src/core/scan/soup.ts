/** What a file reader gives back: corners as they stood in the file, before welding and checking. */
export interface Soup {
  readonly kind: 'stl' | 'stl-ascii' | 'ply' | 'obj';
  readonly positions: Float64Array;
  /** Null when every three positions are a triangle of their own (STL). */
  readonly triangles: Uint32Array | null;
  /** Part label per vertex, when the file carries `property uchar part`. */
  readonly parts: Uint8Array | null;
}
