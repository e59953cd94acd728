/**
 * Standard uncertainty (k = 1) that the method itself adds to a reading, beyond alignment and noise: set from the
 * known-truth study (docs/accuracy.md) so that U is true to its name. One row a reading; `edge` statistics (least,
 * largest, 5 % and 95 %) carry more than the middle ones.
 */
export const METHOD: Readonly<Record<string, { readonly middle: number; readonly edge: number }>> = {
  'reduction.occlusal': { middle: 0.018, edge: 0.026 },
  'reduction.axial': { middle: 0.017, edge: 0.019 },
  'reduction.incisal': { middle: 0.012, edge: 0.02 },
  'reduction.sites': { middle: 0.01, edge: 0.01 },
  'margin.width': { middle: 0.009, edge: 0.02 },
  'margin.gingiva': { middle: 0.01, edge: 0.013 },
  'margin.exit': { middle: 2.2, edge: 6.5 },
  'margin.wander': { middle: 0.01, edge: 0.02 },
  'margin.step': { middle: 0.03, edge: 0.03 },
  'resistance.share': { middle: 0.04, edge: 0.04 },
  'planes.facial.angle': { middle: 1.5, edge: 1.5 },
  'bevel.angle': { middle: 2, edge: 2 },
  'bevel.width': { middle: 0.08, edge: 0.08 },
  'form.occlusal': { middle: 1.5, edge: 1.5 },
  'outline.isthmus': { middle: 0.032, edge: 0.032 },
  'outline.ridge': { middle: 0.024, edge: 0.024 },
  'outline.entered': { middle: 0.02, edge: 0.02 },
  'outline.cusp': { middle: 0.066, edge: 0.066 },
  'depth.pulpal': { middle: 0.022, edge: 0.037 },
  'floor.pulpal.tilt': { middle: 0.4, edge: 0.4 },
  'floor.gingival.tilt': { middle: 0.75, edge: 0.75 },
  'wall.angle': { middle: 0.5, edge: 0.5 },
  divergence: { middle: 0.75, edge: 0.75 },
  cavosurface: { middle: 2.5, edge: 5 },
  'box.axialdepth': { middle: 0.024, edge: 0.024 },
  'box.height': { middle: 0.02, edge: 0.02 },
  'box.width': { middle: 0.042, edge: 0.042 },
  'box.clearance': { middle: 0.033, edge: 0.033 },
  axiopulpal: { middle: 0.02, edge: 0.02 },
  'retention.depth': { middle: 0.047, edge: 0.047 },
  'groove.depth': { middle: 0.045, edge: 0.045 },
  'groove.width': { middle: 0.04, edge: 0.04 },
  'groove.parallel': { middle: 0.6, edge: 0.6 },
  'pin.depth': { middle: 0.04, edge: 0.04 },
  'margin.lip': { middle: 0.021, edge: 0.039 },
  'taper.wall': { middle: 0.5, edge: 0.42 },
  'wall.lean': { middle: 0.09, edge: 0.055 },
  'slice.angle': { middle: 0.22, edge: 0.22 },
  'wall.height': { middle: 0.07, edge: 0.068 },
  'toc.faciolingual': { middle: 0.5, edge: 0.5 },
  'toc.mesiodistal': { middle: 0.36, edge: 0.36 },
  'toc.mean': { middle: 0.24, edge: 0.24 },
  'draw.tilt': { middle: 0.48, edge: 0.48 },
  'contact.broken': { middle: 0.02, edge: 0.02 },
  'undercut.depth': { middle: 0.012, edge: 0.012 },
  'clearance.static': { middle: 0.01, edge: 0.015 },
  'clearance.lateral': { middle: 0.02, edge: 0.025 },
  'clearance.protrusive': { middle: 0.02, edge: 0.025 },
  'neighbour.mesial': { middle: 0.014, edge: 0.016 },
  'neighbour.distal': { middle: 0.014, edge: 0.016 },
  'gingiva.contact': { middle: 0.01, edge: 0.015 },
};

const EDGE = new Set(['min', 'p05', 'p95', 'max']);

export const methodUncertainty = (name: string, stat: string): number => {
  const m = METHOD[name];
  if (!m) throw new RangeError(`no method uncertainty is kept for ${name}`);
  return EDGE.has(stat) ? m.edge : m.middle;
};
