/** Lines and values round a tooth or along an outline, by name; kinds/ lists those of each kind. */
export type Curves = Readonly<Record<string, readonly (readonly number[])[]>>;

/** Curve that holds the millimetres of edge at each place of the others. */
export const EDGE_LENGTH = 'edge.length';

/** Curve that holds the azimuths at which the finish line is hidden along the path of insertion. */
export const HIDDEN_MARGIN = 'margin.hidden';
