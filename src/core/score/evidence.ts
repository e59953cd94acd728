import type { Curves } from '../result/curves.ts';
import type { Reading } from '../result/reading.ts';

/** What a preparation is judged from: the measurement's readings with those by hand over them, and its curves. */
export interface Evidence {
  readonly readings: readonly Reading[];
  readonly curves: Curves;
}
