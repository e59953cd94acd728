// Plants one fault at a time into a rubric's clean preparation and tells which lines it moves: npm run study:fault-lines -- [--only FAULT]
import { readFileSync, writeFileSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { gunzipSync } from 'node:zlib';
import { type RubricFile, rubricFrom } from '#contract/rubric.ts';
import type { Score } from '#core/score/score.ts';
import { scoreOf } from '#core/sign/basis.ts';
import { FAULTS, type FaultRecipe } from '#core/simulate/faults/faults.ts';
import { solidKernel } from '../src/files/solid-kernel.ts';
import { AIMS, type Aim } from '../src/seed/aims.ts';
import { type CleanReadings, measuredClean } from '../src/seed/clean.ts';

const { values } = parseArgs({ options: { write: { type: 'string', default: 'docs/faults.md' }, only: { type: 'string' } } });
const CLEAN: Record<string, CleanReadings> = JSON.parse(gunzipSync(readFileSync('test/fixtures/clean.json.gz')).toString());

/** A gross fault, the rubric it is planted in, and the line or critical error that it is about. */
const TRIALS: readonly (readonly [string, FaultRecipe, readonly string[]])[] = [
  ['metal-mid-practice', { fault: 'shallow-cusp', size: 0.6, at: 'MB' }, ['occlusal-functional', 'functional-bevel']],
  ['metal-mid-practice', { fault: 'over-reduced', size: 1.2 }, ['over', 'occlusal-functional', 'occlusal-nonfunctional']],
  ['metal-mid-practice', { fault: 'flat-top', size: 1 }, ['form']],
  ['metal-mid-practice', { fault: 'line-angle', size: 0.4 }, ['corners', 'margin-width']],
  ['metal-mid-practice', { fault: 'over-taper', size: 12, at: 'distal' }, ['taper']],
  ['metal-mid-practice', { fault: 'undercut', size: 8 }, ['undercut']],
  ['metal-mid-practice', { fault: 'whole-tilt', size: 8 }, ['path']],
  ['metal-mid-practice', { fault: 'lip', size: 0.35 }, ['lip']],
  ['metal-mid-practice', { fault: 'wander', size: 0.3 }, ['margin-smooth']],
  ['metal-mid-practice', { fault: 'margin-step', size: 0.6 }, ['margin-smooth', 'margin-place']],
  ['metal-mid-practice', { fault: 'margin-high', size: 0.8 }, ['margin-place']],
  ['metal-mid-practice', { fault: 'margin-below', size: 0.9 }, ['below-gingiva', 'margin-place']],
  ['metal-mid-practice', { fault: 'margin-narrow', size: 0.4 }, ['margin-width']],
  ['metal-mid-practice', { fault: 'sharp-edge', size: 0.4 }, ['edges']],
  ['metal-mid-practice', { fault: 'contact-left', size: 0.35, at: 'mesial' }, ['contact-mesial']],
  ['metal-mid-practice', { fault: 'neighbour', size: 0.15, at: 'mesial' }, ['touched-mesial']],
  ['metal-mid-practice', { fault: 'neighbour', size: 0.35, at: 'distal' }, ['touched-distal', 'neighbour-distal']],
  ['anterior-ceramic-practice', { fault: 'single-plane', size: 1 }, ['facial']],
  ['anterior-ceramic-practice', { fault: 'incisal-angle', size: 20 }, ['incisal']],
  ['anterior-metal-ceramic-practice', { fault: 'incisal-angle', size: 15 }, ['incisal-square']],
  ['metal-crown-practice', { fault: 'bevel-angle', size: -25 }, ['bevel-parallel']],
  ['class2-amalgam-access', { fault: 'dished-floor', size: 0.35 }, ['floor']],
  ['class2-amalgam-access', { fault: 'tilted-floor', size: 10 }, ['floor']],
  ['class2-amalgam-access', { fault: 'too-deep', size: 1.8 }, ['deep', 'depth', 'pulp']],
  ['class2-amalgam-access', { fault: 'too-shallow', size: 0.7 }, ['depth']],
  ['class2-amalgam-access', { fault: 'wide-isthmus', size: 0.8 }, ['isthmus']],
  ['class1-amalgam-practice', { fault: 'thin-ridge', size: 0.2, at: 'distal' }, ['ridges']],
  ['class2-amalgam-access', { fault: 'converging-wall', size: 14, at: 'facial' }, ['walls']],
  ['class2-amalgam-access', { fault: 'flared-wall', size: 15 }, ['box-walls']],
  ['class2-amalgam-access', { fault: 'undermined-enamel', size: 15 }, ['undermined']],
  ['class2-amalgam-access', { fault: 'sharp-axiopulpal', size: 0.3 }, ['axiopulpal']],
  ['class2-amalgam-access', { fault: 'closed-contact', size: 1 }, ['clearance-sides']],
  ['class2-amalgam-access', { fault: 'gingival-contact', size: 0.8 }, ['clearance-gingival']],
  ['class2-amalgam-access', { fault: 'shallow-axial', size: 0.4 }, ['axial-depth']],
  ['class2-amalgam-access', { fault: 'no-dovetail', size: 1 }, ['dovetail']],
  ['mod-inlay-practice', { fault: 'box-askew', size: 10, at: 'mesial' }, ['boxes-parallel']],
  ['lithium-disilicate-practice', { fault: 'margin-narrow', size: 0.4 }, ['margin-thinnest']],
  ['metal-margin-first-practice', { fault: 'margin-high', size: 0.8, at: 'facial' }, ['margin-junction']],
  ['canine-ceramic-practice', { fault: 'flat-top', size: 1 }, ['canine-tip', 'form']],
  ['three-quarter-posterior-practice', { fault: 'groove-short', size: 1.2, at: 'mesial' }, ['groove-foot']],
  ['three-quarter-posterior-practice', { fault: 'groove-shallow', size: 0.4, at: 'distal' }, ['grooves']],
  ['three-quarter-posterior-practice', { fault: 'groove-leaning', size: 10, at: 'mesial' }, ['parallel']],
  ['three-quarter-posterior-practice', { fault: 'thin-plate', size: 0.3 }, ['plate']],
  ['three-quarter-anterior-practice', { fault: 'pin-near-margin', size: 0.6 }, ['recess']],
];

const markdown = ([head, ...body]: readonly (readonly string[])[]): string =>
  [head, head.map(() => '---'), ...body].map((r) => `| ${r.join(' | ')} |`).join('\n');
const rubricOf = (id: string): RubricFile => rubricFrom(JSON.parse(readFileSync(`data/rubrics/${id}.json`, 'utf8')), id);
const scored = (rubric: RubricFile, r: CleanReadings): Score => scoreOf({ ...r, rubric, hand: [], judgements: {} });

/** Lines that stand worse than on clean work: outside, or too close to call. */
function moved(s: Score): Map<string, string> {
  const out = new Map<string, string>();
  for (const c of s.criteria)
    if (c.verdict !== 'inside' && c.verdict !== 'skipped' && !c.criterion.asks)
      out.set(
        c.criterion.id,
        c.verdict === 'outside' ? `level ${c.level}` : c.verdict === 'close' ? 'too close to call' : 'to be read by hand',
      );
  for (const e of s.critical) if (e.made !== false) out.set(e.error.id, e.made ? 'made' : 'too close to call');
  return out;
}

const kernel = await solidKernel();
const rows: string[][] = [];
let found = 0;
let alone = 0;
/** Rows of the last run, for trials that are not asked for again. */
const kept = values.only
  ? readFileSync(values.write, 'utf8')
      .split('\n')
      .filter((l) => l.startsWith('| '))
      .map((l) => l.slice(2, -2).split(' | '))
  : [];
for (const [id, fault, about] of TRIALS) {
  const size = `${fault.size} ${FAULTS[fault.fault].unit}`;
  const row = kept.find((r) => r[0] === FAULTS[fault.fault].words && r[1] === size && r[2] === id);
  if (row && fault.fault !== values.only) {
    rows.push(row);
    if (row[4] !== '**nothing**') found++;
    if (row[4] !== '**nothing**' && row[5] === '–') alone++;
    continue;
  }
  const rubric = rubricOf(id);
  const before = moved(scored(rubric, CLEAN[id]));
  const cut = measuredClean((AIMS as Record<string, Aim>)[id], kernel, [fault]);
  const s = scored(rubric, cut);
  const now = [...moved(s)].filter(([line, how]) => before.get(line) !== how);
  const hit = now.filter(([line]) => about.includes(line));
  const others = now.filter(([line]) => !about.includes(line));
  if (hit.length) found++;
  if (hit.length && others.length === 0) alone++;
  const say = (list: typeof now): string => list.map(([line, how]) => `${line}: ${how}`).join('; ') || '–';
  rows.push([
    FAULTS[fault.fault].words,
    size,
    id,
    about.join(', '),
    hit.length ? say(hit) : '**nothing**',
    say(others),
    String(s.total ?? `${s.range.least.total}–${s.range.most.total}`),
  ]);
  process.stderr.write(`${fault.fault}: ${say(hit)} | ${say(others)}\n`);
}
writeFileSync(
  values.write,
  [
    '# Which fault moves which line',
    '',
    'Written by `npm run study:fault-lines`: one gross fault at a time planted into a rubric’s clean preparation, which is inside on every line. A line counts as moved when it is outside, too close to call, or left to be read by hand.',
    '',
    `${found} of ${TRIALS.length} faults move the line that they are about, ${alone} of them no other. Where another line moves too, the fault is of both, or the readings of one depend on the other: a wall that leans is cut deeper, a deep floor is nearer to the pulp. A scratch’s size is the recipe’s: how far the cutter went along the arch beside the contact, which on a second molar is 0.2 mm deeper in the tooth; the reading and the construction’s truth agree on that. What no line shows yet: the incisal cut’s angle on an all-ceramic crown, an edge made sharp along a short stretch, a gap that stays inside its band, and walls that undermine no more enamel than before.`,
    '',
    markdown([['fault', 'size', 'rubric', 'about', 'moved', 'moved as well', 'total'], ...rows]),
    '',
  ].join('\n'),
);
