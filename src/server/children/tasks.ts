import type { DepthBands } from '#contract/depth-ramp.ts';
import type { Compared, Inner, Marks, Occlusion, Stroke, TrialLine } from '#contract/master-draft.ts';
import type { Carried } from '#core/annotate/carry.ts';
import type { ArchCheck } from '#core/annotate/checks.ts';
import type { needsOf } from '#core/annotate/needs.ts';
import type { Proposal } from '#core/annotate/propose.ts';
import type { Way } from '#core/dry/way.ts';
import type { KindName } from '#core/kinds/kinds.ts';
import type { Vec3 } from '#core/linalg/vec.ts';
import type { MasterDescription } from '#core/master/master.ts';
import type { OwnCutter } from '#core/plan/choose.ts';
import type { Guide } from '#core/plan/guide.ts';
import type { Plan } from '#core/plan/plan.ts';
import type { StepId } from '#core/plan/steps.ts';
import type { Reading } from '#core/result/reading.ts';
import type { FileLimits } from '#core/scan/limits.ts';
import type { Standard } from '#core/score/standard.ts';

/** What a master is put together from. */
export interface MasterParts {
  readonly archFile: string;
  readonly factor: number;
  readonly opposingFile: string | null;
  /** Opposing file → arch file. */
  readonly opposingPlace: readonly number[] | null;
  readonly innerFiles: Readonly<Partial<Record<Inner, string>>>;
  readonly partsFile: string;
  readonly strokes: readonly Stroke[];
  readonly description: MasterDescription;
  /** What an imported master file held beyond what is read. */
  readonly extra: Readonly<Record<string, unknown>>;
}

/** A scan that is measured on two masters. */
export interface ComparedScan {
  readonly scanFile: string;
  readonly name: string;
  readonly preparation: KindName;
  readonly tooLargeBy: number;
}

/** Task of a child process: one file from outside. */
export type Task =
  | {
      readonly kind: 'measure';
      readonly scanFile: string;
      /** The master's archive, named by its content, so that a child may cache the prepared master. */
      readonly masterFile: string;
      readonly preparation: KindName;
      readonly bands: DepthBands;
      /** Scan → master file, when somebody set it by three points. */
      readonly handPose: readonly number[] | null;
      /** Factor by which a person said that the scan is too large. */
      readonly tooLargeBy: number;
      /** Another preparation in the scan that shares its path of insertion. */
      readonly abutment: { readonly masterFile: string; readonly preparation: KindName } | null;
      /** Folder for the child's results. */
      readonly outFolder: string;
    }
  | { readonly kind: 'pair'; readonly scanFile: string; readonly masterFile: string; readonly outFolder: string }
  | { readonly kind: 'master'; readonly masterFile: string; readonly outFolder: string }
  | { readonly kind: 'survey'; readonly archFile: string; readonly factor: number; readonly outFolder: string }
  | {
      readonly kind: 'propose';
      readonly archFile: string;
      readonly factor: number;
      readonly tooth: string;
      readonly touched: Vec3;
      readonly mesialward: Vec3 | null;
      readonly outFolder: string;
    }
  | (MasterParts & { readonly kind: 'build'; readonly outFolder: string })
  | (MasterParts & { readonly kind: 'trial' })
  | {
      readonly kind: 'occlude';
      readonly archFile: string;
      readonly factor: number;
      readonly opposingFile: string;
      /** Both jaws in the bite, where they were scanned so. */
      readonly biteFile: string | null;
      /** Opposing file → arch file as three points say; null takes it as it lies in its file, or as the bite says. */
      readonly start: readonly number[] | null;
      readonly tooth: string;
      readonly marks: Marks;
      readonly settle: boolean;
      readonly outFolder: string;
    }
  | {
      readonly kind: 'carry';
      /** The archive of the master whose marks are taken over. */
      readonly masterFile: string;
      readonly archFile: string;
      readonly factor: number;
      readonly partsFile: string;
      readonly strokes: readonly Stroke[];
      readonly tooth: string;
      readonly marks: Marks;
    }
  | { readonly kind: 'unpack-master'; readonly masterFile: string; readonly outFolder: string }
  | {
      readonly kind: 'compare';
      readonly oldFile: string;
      readonly newFile: string;
      readonly scans: readonly ComparedScan[];
    }
  | {
      /** A plan followed dry: cut into the master's own tooth as far as one of its steps, and measured. */
      readonly kind: 'dry';
      readonly masterFile: string;
      readonly plan: Plan;
      readonly cutters: readonly OwnCutter[];
      readonly way: Way;
      readonly step: StepId;
      readonly outFolder: string;
    }
  | { readonly kind: 'guide'; readonly masterFile: string; readonly standard: Pick<Standard, 'lines'> }
  | { readonly kind: 'guide-body'; readonly masterFile: string; readonly plane: number }
  | { readonly kind: 'unpack'; readonly archive: string; readonly name: string; readonly outFolder: string };

export interface Measurement {
  readonly readings: readonly Reading[];
  readonly alignment: {
    matrix: readonly number[];
    rms: number;
    stableArea: number;
    spread: number;
    pointError: number;
    /** Size of the scan as measured against its master, and the factor by which it had been corrected before. */
    size: { factor: number; u: number } | null;
    corrected: number;
  };
  readonly curves: Readonly<Record<string, readonly (readonly number[])[]>>;
  /** Files in the task's folder; display and profiles are gzipped. */
  readonly display: string;
  readonly profiles: string;
  readonly picture: string;
  readonly durationMs: number;
  readonly peakMb: number;
}

export interface Unpacked {
  /** Files in the task's folder under the names that they had in the archive, or why one of them is left out. */
  readonly parts: readonly ({ readonly name: string; readonly file: string } | { readonly name: string; readonly left: string })[];
}

/** An arch as it came: what is wrong with it, and a file to show. */
export interface Surveyed {
  readonly checks: readonly ArchCheck[];
  readonly triangles: number;
  readonly display: string;
}

export interface Proposed {
  readonly proposal: Omit<Proposal, 'parts'>;
  /** Part of each vertex, one byte each, and the arch coloured by them. */
  readonly parts: string;
  readonly display: string;
}

export interface Results {
  readonly measure: Measurement;
  readonly pair: { readonly file: string };
  readonly master: { readonly file: string };
  readonly survey: Surveyed;
  readonly propose: Proposed;
  readonly build: { readonly archive: string; readonly needs: ReturnType<typeof needsOf> };
  readonly trial: { readonly lines: readonly TrialLine[] };
  readonly occlude: { readonly occlusion: Occlusion; readonly axes: Readonly<Record<string, Vec3>>; readonly display: string };
  readonly carry: { readonly marks: Carried['description']; readonly rms: number };
  readonly 'unpack-master': {
    readonly arch: string;
    readonly opposing: string | null;
    readonly inner: Readonly<Partial<Record<Inner, string>>>;
    readonly parts: string;
    readonly display: string;
    readonly description: MasterDescription;
    readonly extra: Readonly<Record<string, unknown>>;
    readonly checks: readonly ArchCheck[];
    readonly triangles: number;
  };
  readonly compare: Compared;
  readonly dry: { readonly readings: readonly Reading[]; readonly display: string; readonly profiles: string; readonly durationMs: number };
  readonly guide: Guide;
  readonly 'guide-body': { readonly stl: Uint8Array; readonly name: string };
  readonly unpack: Unpacked;
}

/** From the parent: a task with its limits. */
export interface Order {
  readonly id: number;
  readonly task: Task;
  readonly limits: FileLimits;
}

/** From the child: progress or result. */
export type Report =
  | { readonly id: number; readonly stage: string; readonly share: number }
  | { readonly id: number; readonly result: Results[Task['kind']] }
  | { readonly id: number; readonly fault: { readonly code: string; readonly message: string } };
