import type { TrayRow } from '#contract/tray-view.ts';
import type { CriterionView, TargetView } from '#contract/views.ts';

/** A margin width of 0.62 ± 0.04 mm in a band of 0.4 to 0.8, changed. */
export const targetView = (change: Partial<TargetView> = {}): TargetView =>
  ({
    reading: 'margin.width',
    zone: 'mesial',
    stat: 'median',
    unit: 'mm',
    value: 0.62,
    U: 0.04,
    reason: null,
    along: null,
    methods: ['probe', 'eye'],
    hand: null,
    onlyByHand: false,
    scanned: null,
    coverage: 1,
    azimuth: 90,
    point: [4, 0, 1],
    lo: 0.4,
    hi: 0.8,
    verdict: 'inside',
    deciding: false,
    repair: null,
    ...change,
  }) as TargetView;

/** A criterion with that one reading, inside and at its full 12 points, changed. */
export const criterionView = (change: Partial<CriterionView> = {}): CriterionView => ({
  id: 'width',
  title: 'Margin width',
  why: 'metal needs 0.4 mm',
  verdict: 'inside',
  computed: 3,
  range: [3, 3],
  decidedBy: 'measurement',
  level: null,
  overridden: false,
  reopened: false,
  reason: null,
  comment: null,
  pins: [],
  points: 12,
  lost: 0,
  provisional: 12,
  of: 12,
  targets: [targetView({ deciding: true })],
  asks: null,
  ...change,
});

/** The four levels' words, the lowest first. */
export const LEVEL_WORDS = ['not yet', 'marginal', 'sound', 'secure'].map((word, level) => ({ level, word }));

/** A measured scan with one open line, changed. */
export const trayRow = (change: Partial<TrayRow> = {}): TrayRow => ({
  scan_id: 7,
  attempt_id: 12,
  number: 1,
  student_id: 'H04',
  student_name: 'Dario Venn',
  bench: 'B1-04',
  file_name: 'H04_crown.stl',
  version: 1,
  step: 'final',
  state: 'measured',
  word: 'eye',
  progress: null,
  fault: null,
  fault_code: null,
  measurement_id: 3,
  picture: 'abcdef0123456789',
  grader_id: null,
  grader_name: null,
  grade_total: null,
  grade_passed: null,
  released: false,
  changed: false,
  counts: { inside: 13, close: 1, outside: 1, none: 0 },
  critical: 0,
  total: null,
  passed: null,
  range: [85, 96],
  open: 1,
  failures: [],
  seen: 'x',
  ...change,
});
