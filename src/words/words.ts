/** Every sentence that several screens share. */
export const STATE_WORDS: Readonly<Record<string, string>> = {
  unmatched: 'whose is it?',
  arrived: 'waiting',
  measuring: 'measuring',
  failed: 'could not be measured',
  cancelled: 'cancelled',
  eye: 'needs an eye',
  ready: 'ready to sign',
  signed: 'signed',
  released: 'released',
  'no-scan': 'no scan, by hand',
  stage: 'on the way, not finished',
};

export const VERDICT_WORDS = { inside: 'inside', close: 'too close to call', outside: 'outside', none: 'no reading' } as const;

export const STAGE_WORDS: Readonly<Record<string, string>> = {
  scan: 'reading the file',
  align: 'fitting to the master',
  segment: 'finding the preparation',
  measure: 'measuring',
};

export const UNIT_WORDS: Readonly<Record<string, string>> = {
  mm: 'mm',
  deg: '°',
  mm2: 'mm²',
  mm3: 'mm³',
  ratio: '',
  share: '',
  count: '',
  none: '',
};

export const CAUTION =
  'For learning and assessment only; not a medical device. The licensed instructor’s judgement and the school’s rules prevail. At the bench: eye protection, mask and extraction for typodont dust, a finger rest, mind the sharps.';

const READING_WORDS: Readonly<Record<string, string>> = {
  'reduction.occlusal': 'occlusal reduction',
  'reduction.incisal': 'incisal reduction',
  'reduction.axial': 'axial reduction',
  'reduction.sites': 'depth at',
  'clearance.static': 'clearance in occlusion',
  'clearance.lateral': 'clearance, lateral',
  'clearance.protrusive': 'clearance, protrusive',
  'margin.width': 'margin width',
  'margin.gingiva': 'height over gingiva',
  'margin.exit': 'exit angle of the margin',
  'margin.lip': 'lip of the margin',
  'margin.form': 'margin form',
  'margin.wander': 'wander of the finish line',
  'margin.step': 'step in the finish line',
  'taper.wall': 'wall taper',
  'wall.lean': 'wall’s lean to the axis',
  'wall.height': 'wall height',
  'toc.faciolingual': 'convergence, facial to lingual',
  'toc.mesiodistal': 'convergence, mesial to distal',
  'toc.mean': 'convergence, all round',
  'draw.tilt': 'tilt of the draw direction',
  'undercut.depth': 'undercut depth',
  'undercut.area': 'undercut area',
  'resistance.share': 'resistance form',
  'planes.facial': 'facial planes',
  'planes.facial.angle': 'angle between facial planes',
  'planes.facial.depth': 'facial outer third',
  'form.occlusal': 'angle to the tooth’s own form',
  'form.lingual.height': 'cingulum wall, height',
  'form.lingual.angle': 'cingulum wall to facial plane',
  'form.lingual.concavity': 'concavity of the fossa',
  'edge.sharp': 'length of sharp edges',
  'neighbour.mesial': 'damage to the mesial neighbour',
  'neighbour.distal': 'damage to the distal neighbour',
  'gingiva.contact': 'loss on the gingiva',
  'depth.pulpal': 'pulpal depth',
  'floor.pulpal.tilt': 'tilt of the pulpal floor',
  'floor.pulpal.flat': 'unevenness of the pulpal floor',
  'floor.gingival.tilt': 'tilt of the gingival floor',
  'floor.gingival.flat': 'unevenness of the gingival floor',
  'outline.isthmus': 'isthmus',
  'outline.coverage': 'groove covered',
  'outline.entered': 'secondary groove entered',
  'contact.broken': 'gap to the neighbour',
  'outline.ridge.mesial': 'mesial marginal ridge left',
  'outline.ridge.distal': 'distal marginal ridge left',
  'outline.cusp': 'margin to cusp tip',
  'outline.oblique': 'oblique ridge crossed',
  'outline.smooth.corners': 'corners of the outline',
  'wall.angle': 'wall angle',
  cavosurface: 'cavosurface angle',
  'box.axialdepth': 'gingival floor width',
  'box.height': 'height of the box',
  'box.width': 'width of the box',
  'box.clearance.facial': 'gap, facial',
  'box.clearance.lingual': 'gap, lingual',
  'box.clearance.gingival': 'gap, gingival',
  'box.axialform': 'axial wall against the outer surface',
  'axiopulpal.radius': 'axiopulpal rounding',
  'retention.depth': 'hidden depth',
  'caries.left': 'caries left',
  'caries.left.depth': 'caries left, depth',
  'pulp.distance': 'distance to the pulp',
  divergence: 'opening between walls',
  'enamel.undermined': 'enamel without dentine beneath',
  'reversecurve.radius': 'radius of the reverse curve',
  'reversecurve.exit': 'exit angle at the box’s facial margin',
  'groove.depth': 'depth of the groove',
  'groove.width': 'width of the groove',
  'groove.parallel': 'angle between grooves',
  'pin.depth': 'depth of the pinhole',
  'pin.parallel': 'pinhole against',
  'slice.angle': 'lean of the slice',
  'bevel.width': 'width of the margin’s bevel',
  'bevel.angle': 'angle of the margin’s bevel',
  'facial.extension': 'finish line seen from facial',
};

const STAT_WORDS: Readonly<Record<string, string>> = {
  p05: 'thinnest',
  median: 'middle',
  mean: 'mean',
  p95: 'deepest',
  min: 'least',
  max: 'largest',
  value: '',
};

/** "occlusal reduction, ML, thinnest": a reading in words. */
export function readingWords(name: string, zone: string | null, stat: string): string {
  return [READING_WORDS[name] ?? name, zone, STAT_WORDS[stat] ?? stat].filter(Boolean).join(', ');
}

export const digitsOf = (unit: string): number => (unit === 'deg' ? 1 : unit === 'count' ? 0 : 2);

/** A reading by hand as it was taken: an interval, never a single figure. */
export const handWords = (lo: number, hi: number, unit: string): string => {
  // Nobody reads half degrees by eye.
  const d = unit === 'deg' ? 0 : digitsOf(unit);
  return `${lo.toFixed(d)}${lo === hi ? '' : ` to ${hi.toFixed(d)}`} ${UNIT_WORDS[unit] ?? unit}`.trim();
};

/** A value with its U and unit, the same wherever it appears. */
export function valueWords(value: number | null, U: number | null, unit: string, reason?: string | null): string {
  if (value === null) return reason ?? 'not read';
  const d = digitsOf(unit);
  return `${value.toFixed(d)} ± ${Math.max(U ?? 0, 0.5 * 10 ** -d).toFixed(d)} ${UNIT_WORDS[unit] ?? unit}`.trim();
}
