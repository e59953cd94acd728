export type Unit = 'mm' | 'deg' | 'mm2' | 'mm3' | 'ratio' | 'share' | 'count' | 'none';

export const STATS = ['value', 'min', 'p05', 'median', 'mean', 'p95', 'max', 'count', 'share'] as const;
export type Stat = (typeof STATS)[number];

/** The stages of the work at which a scan may be taken; `final` is what is graded. */
export const STEPS = {
  occlusal: 'after occlusal reduction',
  axial: 'after axial reduction',
  outline: 'after outline and depth',
  box: 'after the box',
  final: 'finished',
} as const;
export type Step = keyof typeof STEPS;

/** How an instructor reads something without a scan, and the step of that method in its own unit. */
export const HAND_METHODS = {
  probe: { word: 'probe', step: 0.5 },
  gauge: { word: 'gauge', step: 0.5 },
  explorer: { word: 'explorer', step: 0.1 },
  wax: { word: 'wax sheets', step: 0.32 },
  eye: { word: 'by eye or feel', step: 0.5 },
} as const;
export type HandMethod = keyof typeof HAND_METHODS;

export const MARGIN_FORMS = ['feather', 'chamfer', 'heavy chamfer', 'shoulder', 'rounded shoulder', 'bevelled', 'lipped'] as const;
export type MarginForm = (typeof MARGIN_FORMS)[number];
