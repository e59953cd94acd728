import * as v from 'valibot';
import { RubricFile } from '#contract/rubric.ts';
import type { Rubric } from '#core/score/rubric.ts';

/** Two criteria and a critical error: enough to grade by. */
export const RUBRIC: Rubric = v.parse(RubricFile, {
  format: 'veritor-rubric/1',
  id: 'small',
  name: 'Small rubric',
  standard: 'zirconia-posterior',
  levels: [
    { level: 3, word: 'secure', share: 1 },
    { level: 2, word: 'sound', share: 0.8 },
    { level: 1, word: 'marginal', share: 0.5 },
    { level: 0, word: 'not yet', share: 0 },
  ],
  passMark: 60,
  criteria: [
    {
      id: 'width',
      title: 'Margin width',
      weight: 1,
      why: 'Porcelain needs its room.',
      targets: [
        {
          reading: 'margin.width',
          zone: 'facial',
          stat: 'median',
          band: { lo: 0.4, hi: 0.8 },
          fair: { lo: 0.3, hi: 1 },
          poor: { lo: 0.2, hi: 1.2 },
        },
      ],
    },
    {
      id: 'taper',
      title: 'Convergence',
      weight: 3,
      why: 'Holds the crown.',
      targets: [
        {
          reading: 'toc.mean',
          zone: null,
          stat: 'mean',
          band: { lo: 6, hi: 12 },
          fair: { lo: 4, hi: 16 },
          poor: { lo: 2, hi: 20 },
        },
      ],
    },
  ],
  critical: [
    {
      id: 'neighbour',
      title: 'Neighbour damaged',
      reading: 'neighbour.mesial',
      zone: null,
      stat: 'max',
      allowed: { lo: null, hi: 0.2 },
      effect: { kind: 'fail' },
    },
  ],
});

/** Readings with which the small rubric is inside everywhere. */
export const SOUND = [
  { name: 'margin.width', zone: 'facial', stat: 'median', value: 0.6 },
  { name: 'toc.mean', stat: 'mean', value: 9, U: 0.5 },
  { name: 'neighbour.mesial', stat: 'max', value: 0 },
];
