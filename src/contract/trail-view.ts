import type { DepthBands } from './depth-ramp.ts';

export interface TrailCriterion {
  /** What decided it; records of the first format do not say. */
  readonly reading?: string | null;
  readonly lo: number | null;
  readonly hi: number | null;
  readonly id: string;
  readonly title: string;
  readonly level: number | null;
  readonly value: number | null;
  readonly U: number | null;
  readonly unit: string | null;
  readonly zone: string | null;
  readonly reason: string | null;
  readonly comment: string | null;
  readonly points: number | null;
  readonly of: number;
  readonly verdict: string;
}

export interface TrailAttempt {
  readonly attempt_id: number;
  readonly sitting_title: string;
  readonly held_on: string;
  readonly exercise_id: string;
  readonly exercise_title: string;
  readonly tooth: string;
  readonly kind: string;
  /** Which try of the sitting. */
  readonly number: number;
  readonly minutes: number | null;
  /** Its scan was measured, so that it can be looked at in 3D. */
  readonly isScanned: boolean;
  readonly bands: DepthBands;
  readonly total: number | null;
  readonly passed: boolean;
  readonly version: number;
  readonly released: boolean;
  readonly grader_name: string;
  readonly record: {
    readonly criteria: readonly TrailCriterion[];
    readonly critical: readonly { readonly title: string; readonly made: boolean }[];
  };
}

export interface TrailView {
  readonly student: { readonly id: string; readonly name: string; readonly bench: string | null };
  readonly attempts: readonly TrailAttempt[];
}
