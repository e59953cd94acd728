import type { Compared, Occlusion, Trial } from '#contract/master-draft.ts';
import { agrees } from '#contract/trial.ts';
import { type ArchCheck, CUT, MARGIN_SEEN } from '#core/annotate/checks.ts';
import type { Need } from '#core/annotate/needs.ts';
import type { ProposedName, Trust } from '#core/annotate/propose.ts';
import { digitsOf, readingWords, unitWords } from './readings.ts';

/** Sentences of the pages on which masters are brought and annotated. */
export const MASTERS = {
  title: 'Masters',
  lead: 'A master is the unprepared tooth in its arch, with the marks that readings start from. Bring a scan of your own typodont; its parts and marks are proposed, and you correct them.',
  bring: 'Bring an arch',
  arch: 'Scan of the unprepared arch or quadrant (STL, PLY or OBJ; also zipped)',
  opposing: 'What bites against it, in the same position (optional)',
  name: 'Name, for example “Lower first molar, series C”',
  tooth: 'Tooth to prepare, for example 46',
  inside: 'Bodies inside the tooth, where its maker gives them (optional)',
  reading: 'Reading the arch…',
  own: 'Brought to this course',
  none: 'Nothing has been brought yet.',
  finished: 'finished',
  drawing: 'being annotated',
  exercises: 'Exercises and the master that each measures on',
  loading: 'Loading the arch…',
  touch: (tooth: string): string => `Click the biting surface of ${tooth}, about its middle.`,
  working: 'Working on it…',
  laying: 'Laying the usual form on it and looking for valleys. This takes about five seconds.',
  again: 'Touch another place',
  mesial: 'Which way is mesial? The form fits both ways round. Click any place to mesial of the tooth.',
  right: 'Looks right',
  undo: 'Undo',
  redo: 'Redo',
  paint: 'Paint a part',
  stop: 'Stop painting',
  brush: 'Brush, mm',
  finish: 'Finish this master',
  finishing: 'Making it ready…',
  done: 'Finished. It stays as it is from now on.',
  zip: 'Download as zip',
  use: 'Measure this exercise on it',
  exercise: 'Exercise',
  used: (title: string): string => `${title} measures its next scans on this master. What was measured before stays.`,
  noExercise: (tooth: string): string => `No exercise of this course is on ${tooth} yet.`,
  axisView: 'Axis: as I look now',
  turn: 'Turn mesial by 1°',
  about: 'Turn half about',
  kept: 'Kept',
  keeping: 'Keeping…',
  unkept: 'Not kept yet',
  move: 'Drag a point, or choose it in the list and move it with the arrow keys. It stays on the surface.',
  askFirst: (what: string): string => `Before it can be finished, a person has to say: ${what}.`,
  gives: 'What this master can give',
  lacks: (n: number): string => `${n} ${n === 1 ? 'reading' : 'readings'} not given`,
  foundInFile: 'What was found in the file',
  tabs: { marks: 'Marks', bite: 'Bite', proof: 'Proof' },
  bite: 'Bite',
  biteFile: 'Both jaws closed, from the facial side, or the mounted pair (optional)',
  shared: 'Take in a shared master',
  sharedFile: 'A master as zip, as another school sent it',
  noOpposing: 'No opposing arch was brought, so clearances and excursions cannot be read on this master.',
  notPlaced: 'The opposing arch has not been brought to its place yet.',
  placing: 'Bringing the jaws together. This takes about ten seconds.',
  rocking: 'Fewer than three contacts, or all in one line: the jaws would rock. Bring them together by a bite scan, or by three places.',
  asInFile: 'As they lie in their files',
  byBite: 'By the bite scan',
  byPoints: 'By three places',
  settle: 'Settle on contacts',
  excursions: 'Ways of the lower jaw',
  way: 'Way',
  along: 'Along it',
  path: 'Path, mm',
  condylar: 'Condylar, °',
  bennett: 'Bennett, °',
  measuringGaps: 'Looking where the jaws meet…',
  overlap: (mm: number): string =>
    mm > 0.02
      ? `Here the jaws run into each other by ${mm.toFixed(2)} mm.`
      : 'Here the jaws touch or stand apart; nothing runs into anything.',
  threeLead: 'Click the same three places on both: one on each of three teeth, far apart.',
  threeArch: 'Arch',
  threeOpposing: 'Opposing arch',
  threeDone: 'Bring together',
  threeStop: 'Cancel',
  proof: 'Proof',
  proofLead:
    'A plain crown is cut into this master, scanned in another pose with noise, and measured as a student’s would be. What is read should be what was cut.',
  proofAsks: 'First say what is still open under Marks.',
  proofOld: 'The marks were changed since. Try it again.',
  try: 'Try a crown in it',
  trying: 'Cutting, scanning and measuring…',
  reading_: 'Reading',
  cut: 'cut',
  read: 'read',
  sectionTool: 'Section',
  section: 'Section',
  sectionOf: (across: string): string => `Section ${across} through the clicked place, squares of 1 mm`,
  closeSection: 'Close',
  sectionAsk: 'Click a place to cut through it.',
  carry: 'Take the marks of',
  carryChoose: 'another master…',
  further: 'Further marks',
  cej: 'Cementoenamel junction, where it shows',
  cejDraw: 'Click along it',
  cejStop: 'Done',
  cejClear: 'Clear',
  compare: 'Compare with the master in use',
  comparing: 'Laying both on each other and measuring the last attempts on both…',
  found: 'Teeth found in the arch, and how far the usual form lies from each',
} as const;

export const PART_WORDS = ['other teeth', 'target', 'mesial neighbour', 'distal neighbour', 'gingiva'] as const;

export const ITEM_WORDS: Readonly<Record<ProposedName, string>> = {
  parts: 'Parts of the arch',
  axis: 'Long axis',
  mesial: 'Mesial direction',
  gingivalMargin: 'Gingival margin',
  cusps: 'Cusp tips',
  grooves: 'Grooves',
  ridges: 'Ridges',
  contacts: 'Contacts',
};

export const TRUST_WORDS: Readonly<Record<Trust, string>> = { sure: 'sure', look: 'look at it', ask: 'yours to say' };

export const NEED_WORDS: Readonly<Record<Need, string>> = {
  target: 'target tooth',
  mesial: 'mesial neighbour',
  distal: 'distal neighbour',
  gingiva: 'gingiva',
  cusps: 'cusp tips',
  grooves: 'grooves',
  ridges: 'marginal ridges',
  contacts: 'contacts',
  gingivalMargin: 'gingival margin',
  opposing: 'opposing arch',
  dej: 'dentine inside',
  caries: 'decay inside',
  pulp: 'pulp inside',
};

const UNIT: Readonly<Record<string, string>> = { 1000: 'metres', 25.4: 'inches', 10: 'centimetres', 0.001: 'micrometres' };
export const unitWord = (factor: number): string => UNIT[String(factor)] ?? 'millimetres';

/** What a file's longest extent would be in another unit. */
export const asUnit = (factor: number, longest: number): string =>
  `Take them as ${unitWord(factor)} (${(factor * longest).toFixed(0)} mm long)`;

/** What a check found, and the way out. */
export function checkWords(c: ArchCheck): string {
  switch (c.what) {
    case 'unit':
      return c.state === 'fine'
        ? `${c.figure.toFixed(0)} mm long: a quadrant or an arch.`
        : c.factors?.length
          ? `As millimetres it would be ${c.figure < 1 ? c.figure.toFixed(3) : c.figure.toFixed(1)} mm long. Say what its lengths are in.`
          : `It is ${c.figure.toFixed(2)} long, which no unit makes a quadrant. Export it again in millimetres, with its neighbours.`;
    case 'pieces':
      return c.state === 'fine'
        ? 'One piece.'
        : `${c.figure} separate pieces. If one is the opposing arch, bring it as a file of its own; otherwise join them in the scanner’s program.`;
    case 'holes':
      return c.state === 'fine'
        ? 'No holes.'
        : `${c.figure} ${c.figure === 1 ? 'hole' : 'holes'}${c.state === 'stop' ? ', one of them large' : ''}. Where a hole meets the tooth nothing can be read: scan these places again.`;
    case 'coarse':
      return c.state === 'fine'
        ? `Points ${c.figure.toFixed(2)} mm apart.`
        : `Points ${c.figure.toFixed(2)} mm apart: ${c.state === 'stop' ? 'too coarse for a master' : 'coarse, so that tips and grooves are blunt'}. Export it without thinning.`;
    case 'mirrored':
      return c.state === 'fine'
        ? 'It is not mirrored.'
        : `It looks like the same tooth of the other side: that form lies on it ${c.figure.toFixed(1)} times better. Check the tooth’s number; if it is right, the file is a mirror image and wants to be exported again.`;
    case 'coverage':
      return coverageWords(c);
    case 'cej':
      return `A line like a cementoenamel junction shows over ${c.figure.toFixed(0)}° of the neck and was drawn. Look whether it is one; if not, clear it under “${MASTERS.further}”.`;
    case 'upward':
      return c.state === 'fine'
        ? 'It is clear which way the teeth point.'
        : 'It is not clear which way the teeth point; the tooth that you touch decides.';
  }
}

/** What of the tooth's surroundings the scan shows, and what to do about the rest. */
function coverageWords({ state, figure, missing = [], cut_deg = 0 }: ArchCheck): string {
  if (state === 'fine')
    return `It reaches far enough: both neighbours where the row has them, and ${(100 * figure).toFixed(0)} % of the gingival margin.`;
  const lacks = [
    ...missing.map((side) => `no ${side} neighbour was found; contacts, gaps and damage there cannot be read`),
    ...(figure < MARGIN_SEEN.fine ? [`only ${(100 * figure).toFixed(0)} % of the gingival margin shows`] : []),
    ...(cut_deg > CUT.fine ? [`the scan ends on the crown itself over ${cut_deg.toFixed(0)}°`] : []),
  ].join('; ');
  return `${lacks[0].toUpperCase()}${lacks.slice(1)}. Scan from the neighbour’s far side to the other’s, with 3 mm of gingiva below the margin${state === 'stop' ? '; as it is it cannot carry the readings' : ', or go on without these readings'}.`;
}

export const EXCURSION_WORDS = { working: 'to its own side', balancing: 'to the other side', protrusive: 'forward' } as const;

const PLACED: Readonly<Record<Occlusion['by'], string>> = {
  file: 'The jaws stand as they lie in their files',
  bite: 'The jaws were brought together by the bite scan',
  points: 'The jaws were brought together by three places',
};

/** How the jaws stand, and on how many contacts; by how much they overlap is told where they stand now. */
export function occlusionWords(o: Occlusion): string {
  const touch = o.contacts.length === 1 ? '1 contact' : `${o.contacts.length} contacts`;
  const settled = o.settled ? `, and settled: ${o.moved_mm.toFixed(2)} mm across and ${o.turned_deg.toFixed(1)}° from there` : '';
  return `${PLACED[o.by]}${settled}. They touch at ${touch}.`;
}

/** What a trial preparation showed. */
export function trialWords(t: Trial): string {
  const off = t.lines.filter((l) => agrees(l) === false).length;
  const lacking = t.lines.filter((l) => agrees(l) === null).length;
  const all = t.lines.length;
  if (off === 0 && lacking === 0) return `All ${all} readings say what was cut.`;
  return `${all - off - lacking} of ${all} readings say what was cut${off ? `; ${off} do not` : ''}${lacking ? `; ${lacking} could not be given` : ''}.`;
}

/** What a new version changes, in sentences. */
export function comparedWords(c: Compared): string[] {
  const mm = (v: number): string => `${v.toFixed(2)} mm`;
  const tips = c.cusps.filter((k) => k.off_mm !== null).map((k) => k.off_mm as number);
  const lost = c.cusps.filter((k) => k.off_mm === null).map((k) => k.name);
  return [
    `Against “${c.name}” its axis is ${c.axis_deg.toFixed(1)}° off and its mesial direction ${c.mesial_deg.toFixed(1)}°.`,
    c.surface_mm === null
      ? 'The two teeth do not lie on each other.'
      : `The tooth’s surface lies within ${mm(c.surface_mm)} (95 %), its gingival margin within ${mm(c.margin_mm)}.`,
    ...(tips.length ? [`Cusp tips moved by up to ${mm(Math.max(...tips))}.`] : []),
    ...(lost.length ? [`Without ${lost.join(', ')}.`] : []),
    ...c.scans.map((s) =>
      s.fault
        ? `${s.name}: cannot be measured on both. ${s.fault}`
        : `${s.name}: ${s.differ.length} of ${s.readings} readings differ by more than both U${s.differ[0] ? `, most of all ${readingWords(s.differ[0].name, s.differ[0].zone, s.differ[0].stat)}: ${s.differ[0].before.toFixed(digitsOf(s.differ[0].unit))} before, ${s.differ[0].after.toFixed(digitsOf(s.differ[0].unit))} ${unitWords(s.differ[0].unit)} now` : ''}${s.lost ? `; ${s.lost} no longer given` : ''}${s.gained ? `; ${s.gained} newly given` : ''}.`,
    ),
    ...(c.scans.length ? [] : ['No attempt was measured on it yet.']),
  ];
}
