import * as v from 'valibot';
import { FAULT_NAMES } from '#core/simulate/faults/faults.ts';

/** A preparation of the demo's past weeks, as its scan keeps it: enough to cut it again. */
export const RedrawTask = v.object({
  student: v.string(),
  sitting: v.string(),
  exercise: v.string(),
  number: v.number(),
  earlier: v.number(),
  faults: v.array(v.object({ fault: v.picklist(FAULT_NAMES), size: v.number(), at: v.optional(v.string()) })),
  seed: v.number(),
});
export type RedrawTask = v.InferOutput<typeof RedrawTask>;

/** What the thread of the simulated scanner does: a scan of today's work, one of the weeks before, or a master's files. */
export type ScannerTask =
  | {
      readonly kind: 'scan';
      readonly exercise: string;
      readonly student: string /** Number of earlier preparations of the student. */;
      readonly attempt: number;
    }
  | { readonly kind: 'again'; readonly work: RedrawTask }
  | { readonly kind: 'master'; readonly exercise: string };
