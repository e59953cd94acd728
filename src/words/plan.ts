import { titleOf } from '#core/catalogue/catalogue.ts';
import type { Cause } from '#core/plan/causes.ts';
import type { Decision } from '#core/plan/decide.ts';
import type { Plan, PlannedStep } from '#core/plan/plan.ts';
import type { PlannedReading } from '#core/plan/planned-reading.ts';
import type { Duty, PlanChoices } from '#core/plan/steps.ts';
import type { Warning } from '#core/plan/warnings.ts';
import { capital, readingWords, valueWords } from './readings.ts';

const DUTY: Readonly<Record<Duty, string>> = {
  groove: 'depth cuts',
  bulk: 'the reduction',
  axial: 'walls',
  contact: 'the contacts',
  margin: 'the margin',
  fossa: 'the fossa',
  floor: 'the floor',
  box: 'the box',
  retention: 'grooves and pinholes',
  finish: 'finishing',
};

const mm = (v: number): string => `${v.toFixed(2)} mm`;
const degrees = (v: number): string => `${v.toFixed(1)}°`;

export function warningWords(w: Warning): string {
  switch (w.kind) {
    case 'no-cutter':
      return `No cutter of the list is made for ${DUTY[w.duty]}. Add one, or do it as the course says.`;
    case 'lip':
      return `A margin of ${mm(w.width)} is wider than this tip cuts clean (${mm(w.widest)}): take ${w.passes} passes. In one pass it leaves a lip of ${mm(w.lip)}; an end-cutting tip takes that off.`;
    case 'no-clean-margin':
      return 'A pointed tip leaves no clean margin.';
    case 'short':
      return `The cutter is ${mm(w.length)} long and is to be sunk ${mm(w.depth)}: too short.`;
    case 'out-of-reach':
      return `The cutter ends ${mm(w.by)} over the box’s floor: the rest is for hand instruments.`;
    case 'no-room':
      return `An instrument of ${mm(w.instrument)} does not go into a box that is ${mm(w.opening)} deep.`;
    case 'too-tapered':
      return `Held upright this cutter already makes ${degrees(w.convergence)} of convergence; at most ${degrees(w.hi)} are allowed.`;
    case 'undercut':
      return `Hold the cutter by the tooth, not by the arch: this tooth leans, and held by the arch the ${w.sides.join(' and ')} ${w.sides.length > 1 ? 'walls have' : 'wall has'} ${w.room < 0 ? `an undercut of ${degrees(-w.room)}` : `${degrees(w.room)} to spare`}.`;
    case 'allowance':
      return `What is left for finishing ends at ${mm(w.ends)}, outside the band.`;
    case 'too-wide':
      return `A tip of ${mm(w.tip)} is wider than the isthmus may be (${mm(w.hi)}).`;
  }
}

/** A planned figure with its unit. */
export const figureOf = (r: Pick<PlannedReading, 'unit'>, v: number): string =>
  r.unit === 'deg' ? degrees(v) : r.unit === 'mm' ? mm(v) : v.toFixed(2);

/** What should be read after a step, with what the hand adds. */
export const expectedWords = (r: PlannedReading): string =>
  `${capital(readingWords(r.reading, r.zone, r.stat))}: ${
    r.unit === 'deg' ? `${degrees(r.expected)} ± ${degrees(2 * r.hand)}` : valueWords(r.expected, 2 * r.hand, r.unit)
  }`;

/** How deep a cutter is sunk, in mm and as a share of itself. */
export function sunkWords(s: Pick<PlannedStep, 'depth' | 'share' | 'shareOf'>): string | null {
  if (s.depth === null) return null;
  const share =
    s.share === null || s.shareOf === null
      ? ''
      : `, ${s.share > 0.995 && s.share < 1.005 ? 'all' : `${Math.round(100 * s.share)} %`} of its ${s.shareOf}`;
  return `${mm(s.depth)} deep${share}`;
}

/** How a step is cut, in one line: cutter, depth, tilt, passes. */
export const howWords = (s: PlannedStep, cutter: { readonly name: string } | null): string =>
  [
    cutter?.name,
    sunkWords(s),
    s.tilt === null ? null : PLAN.tilt(s.tilt),
    s.passes === null || s.passes === 1 ? null : PLAN.passes(s.passes),
  ]
    .filter(Boolean)
    .join(', ');

export const choiceWords = {
  depthCuts: { title: 'Depth cuts', 'in the grooves': 'in the developmental grooves', 'on the ridges': 'on the ridges' },
  first: { title: 'Order', occlusal: 'occlusal first', margin: 'margin first' },
  depth: { title: 'Deep reductions', 'in two': 'cut to 1.0 first, then to depth', 'at once': 'cut to depth at once' },
} as const satisfies Record<keyof PlanChoices, Record<string, string>>;

const CAUSE = {
  tilted: (f: number) => `the handpiece was tilted ${degrees(Math.abs(f))} ${f > 0 ? 'more to the middle' : 'less'} than planned`,
  'leaned-out': (f: number) => `the handpiece leaned ${degrees(Math.abs(f))} outward there`,
  'two-passes': (f: number) => `${f} passes of this cutter side by side`,
  'past-half-tip': (f: number) => `the tip was sunk ${mm(f)} past its middle in one pass`,
  'sunk-short': (f: number) => `the cutter was sunk to ${Math.round(100 * f)} % of itself`,
  'sunk-over': (f: number) => `the cutter was sunk to ${Math.round(100 * f)} % of itself`,
} as const satisfies Record<Cause['kind'], (f: number) => string>;

/** A likely cause, said as likely, with how well it fits. */
export const causeWords = (c: Cause): string => {
  const unit = c.reading.startsWith('toc') || c.reading.startsWith('taper') ? degrees : mm;
  return `${capital([titleOf(c.reading), c.zone].filter(Boolean).join(', '))}: likely ${CAUSE[c.kind](c.figure)}. That would make ${unit(c.made)}; ${unit(c.read)} was read, which fits ${c.fits}.`;
};

export const DECISION: Readonly<Record<Decision, { readonly title: string; readonly what: string }>> = {
  'go-on': { title: 'Go on', what: 'Everything that this step should bring is there.' },
  correct: { title: 'Correct this first', what: 'It can still be put right here; after the next step it is harder.' },
  look: { title: 'Have it looked at', what: 'Something is too close to call or could not be read. Ask your instructor before you go on.' },
  lost: {
    title: 'Too much is gone',
    what: 'It cannot be put right on this tooth. Go on with what is left, and mind it in your judgement.',
  },
  'new-tooth': { title: 'A new tooth is the better choice', what: 'What is lost here ends the exercise. Speak to your instructor first.' },
};

export const PLAN = {
  coming:
    'This tooth is looked at for the first time: it is being made and measured, which takes up to half a minute. The plan opens by itself.',
  title: 'Plan',
  lead: (standard: string): string =>
    `Made from the course’s standard “${standard}”, the master and the course’s cutters. What the course or your instructor says comes first.`,
  card: 'Card to print (PDF)',
  letter: 'Letter',
  guide: 'Guide sections',
  guidePdf: 'To scale (PDF)',
  guideBody: 'Guide to print (STL)',
  guideNote:
    'The upper line is the tooth as it is; the prepared surface should lie between the two lines under it. Print at 100 %, and measure the square: 10 mm.',
  cutter: 'Cutter',
  noCutter: 'no cutter',
  sink: 'Sink it',
  tilt: (v: number): string => `tilted ${degrees(Math.abs(v))} ${v < 0 ? 'outward' : 'to the middle'}`,
  passes: (n: number): string => (n === 1 ? 'in one pass' : `in ${n} passes`),
  left: (v: number): string => `${mm(v)} left for the steps after it`,
  expected: 'Should read afterwards',
  watch: 'Look at',
  inside: (share: number): string => `a hand like this ends inside ${Math.round(100 * share)} times in a hundred`,
  hand: (h: Plan['hand']): string =>
    `± is two standard deviations of a hand that errs by ${h.depth_mm.toFixed(2)} mm and ${h.tilt_deg.toFixed(0)}° from step to step: a choice of ours, not a measurement of yours.`,
  gauge: (passes: number | null, stops: number | null): string =>
    [
      passes === null ? '' : `the ${passes.toFixed(1)} gauge passes`,
      stops === null ? '' : `the ${stops.toFixed(1)} ${passes === null ? 'gauge does not pass yet' : 'does not yet'}`,
    ]
      .filter(Boolean)
      .join(', '),
  stop: 'Stop',
  final: 'Cannot be put back',
  damage: 'From here on looked for',
  warn: 'Mind',
  scanAfter: 'A scan may be taken after this step',
  room: 'How far the hand may tilt',
  roomColumns: ['Side', 'until undercut', 'until over-tapered', 'held by the arch: until undercut'],
  degrees,
  dry: 'Dry run',
  dryLead:
    'The plan, cut by the computer into this very tooth and read by the same measures as yours will be. Move a slider, cut again, and see what it does.',
  cut: 'Cut',
  cutting: 'Cutting and measuring…',
  stops: 'Cut as far as',
  nextStop: 'Next step',
  soFar: 'so far',
  tiltSlider: 'Tilt added to the plan',
  sunkSlider: 'Sunk too deep',
  onePass: 'Margin in one pass',
  swap: 'Cutter for walls and margin',
  asPlanned: 'as planned',
  keep: 'Keep this way to compare',
  kept: 'Kept way',
  thisWay: 'This way',
  columns: ['Reading', 'Band', 'Plan'],
  took: (s: number): string => `${s.toFixed(1)} s`,
  failed: (why: string): string => `It could not be cut: ${why}`,
  what: (t: { tilt_deg: number; sunk_mm: number; onePass: boolean; cutter: string | null }, name: string | null): string =>
    [
      t.tilt_deg ? `tilt ${t.tilt_deg > 0 ? '+' : '−'}${Math.abs(t.tilt_deg)}°` : '',
      t.sunk_mm ? `${t.sunk_mm > 0 ? '+' : '−'}${Math.abs(t.sunk_mm).toFixed(2)} mm` : '',
      t.onePass ? 'one pass' : '',
      name ?? '',
    ]
      .filter(Boolean)
      .join(', ') || 'as planned',
  sunkTo: (cutter: string, share: number, of: string): string => `${cutter}: sunk to ${Math.round(100 * share)} % of its ${of}`,
  choices: 'How this course does it',
  choicesKept: 'Kept.',
  begin: 'To the bench',
  legend: 'Numbers are the steps that cut there.',
} as const;

/** The usual cautions, on every plan and card. */
export const CAUTIONS = [
  'Eye protection on, water and suction on; nobody breathes dust.',
  'Cutters are sharp when they stand still: take them out before you put the handpiece down.',
  'For learning and assessment on typodonts and extracted teeth only, not a medical device. A licensed instructor and the local rules come before anything said here.',
] as const;
