import type { KitList } from '#contract/kit.ts';
import { type Cutter, halfTaper_deg, widestMargin } from '#core/plan/cutter.ts';

/** Sentences of the lists that a course works with. */
export const KIT_WORDS = {
  title: 'Cutters, phrases, drills',
  lists: { cutters: 'Cutters', gauges: 'Gauges and probes', phrases: 'Phrases', drills: 'Drills' },
  leads: {
    cutters: 'What was measured is what counts; the number on the packet stands beside it. The same number is sold in different lengths.',
    gauges: 'What students and instructors hold in their hands, with the steps that it reads in.',
    phrases: 'Offered when a comment is written. {place} and {value} are filled in there.',
    drills: 'What a student is sent to practise, with the check to do by hand before handing it in.',
  },
  one: { cutters: 'cutter', gauges: 'gauge', phrases: 'phrase', drills: 'drill' } satisfies Record<KitList, string>,
  add: (one: string): string => `Add a ${one}`,
  change: 'Change',
  remove: 'Remove',
  keep: 'Keep',
  cancel: 'Cancel',
  kept: (version: number): string => `Kept as version ${version}.`,
  removed: 'Removed.',
  takeBack: 'Take back',
  find: 'Find',
  asShipped: 'as shipped',
  version: (n: number): string => (n === 0 ? 'as shipped' : `version ${n}`),
  times: (n: number, minutes: number): string => `${n} times, about ${minutes} min`,
  name: 'Name',
  form: 'Form',
  tip: 'Tip',
  cutsAtEnd: 'Cuts at its end',
  shank: 'Diameter at the shank, mm',
  tipWidth: 'Diameter at the tip, mm',
  length: 'Cutting length, mm',
  grit: 'Grit or cut',
  material: 'Material',
  nominal: 'What its number promises',
  ring: 'Ring, if it has one',
  method: 'Used as',
  steps: 'Steps, mm (with commas between them)',
  about: 'Speaks of',
  any: 'anything',
  side: 'When the reading is',
  sides: { '': 'on either side', under: 'under its band', over: 'over its band' },
  sentence: 'Sentence',
  drillTitle: 'Title',
  what: 'What is to be done',
  cutter: 'With which cutter',
  noCutter: 'any',
  repeat: 'How many times',
  minutes: 'Minutes',
  check: 'Checked by hand before it is handed in',
  methods: { probe: 'probe', gauge: 'gauge', wax: 'wax' },
} as const;

/** What a cutter's figures mean on the tooth. */
export function cutterWords(c: Cutter & { readonly cutsAtEnd: boolean }): string {
  const half = halfTaper_deg(c);
  const widest = widestMargin(c);
  return [
    `${c.tip_mm.toFixed(1)} at the tip, ${c.shank_mm.toFixed(1)} at the shank, ${c.length_mm.toFixed(1)} mm long`,
    c.form === 'cylinder' || c.form === 'taper' ? (half < 0.05 ? 'parallel sides' : `half taper ${half.toFixed(1)}°`) : '',
    c.form === 'taper' || c.form === 'cylinder'
      ? widest > 0
        ? `clean margin up to ${widest.toFixed(1)} mm`
        : 'leaves no clean margin'
      : '',
    c.cutsAtEnd ? '' : 'does not cut at its end',
  ]
    .filter(Boolean)
    .join('; ');
}
