/** Lines and values round a tooth or along an outline, by name; kinds/ says what each kind gives. */
export type Curves = Readonly<Record<string, readonly (readonly number[])[]>>;

/** Curve that holds the millimetres of edge at each place of the others. */
export const EDGE_LENGTH = 'edge.length';
