import type { Alignment } from '../align/align.ts';
import type { ColourOf } from '../catalogue/entry.ts';
import type { Step } from '../catalogue/terms.ts';
import type { Master } from '../master/master.ts';
import type { Curves } from '../result/curves.ts';
import type { Reading } from '../result/reading.ts';
import type { SurfaceKind } from '../segment/crown/surfaces.ts';
import type { TargetRegion } from '../segment/target.ts';

/** What each vertex of the target region is, for the picture. */
export interface Surfaces {
  readonly kinds: readonly SurfaceKind[];
  /** mm below the master. */
  readonly depths: ArrayLike<number>;
  /** Named part of each vertex; number 0 is nothing. */
  readonly parts: ArrayLike<number>;
  readonly partNames: readonly string[];
}

/** One half plane as the section panel draws it: pairs (r, z) in the tooth frame, mm. */
export interface Section {
  readonly scan: readonly (readonly [number, number])[];
  readonly finish: readonly [number, number] | null;
  readonly foot: readonly [number, number] | null;
  /** Both ends of the primary wall. */
  readonly wall: readonly [number, number, number, number] | null;
  readonly width: number | null;
  readonly taper: number | null;
  readonly height: number | null;
}

/** A preparation taken apart, with everything that is read or drawn from it. */
export interface Preparation {
  readonly region: TargetRegion;
  readonly readings: readonly Reading[];
  readonly curves: Curves;
  /** Made on demand: the command line needs neither. */
  surfaces(): Surfaces;
  sections(): Section[];
  /** Thickness (mm) of the plate in front of prepared vertices of the region; partial crowns only. */
  plate?(): ReadonlyMap<number, number>;
}

/** Called after each measure with the share of measures done. */
export type Progress = (share: number) => void;

/** A measure computes readings from a segmented preparation. */
export type Measure<C> = (of: C) => Reading[];

/** One kind of preparation: how it is segmented, measured, drawn and coloured. No other code switches on the kind. */
export interface Kind {
  readonly name: string;
  readonly title: string;
  /** Steps on the way that its work has. */
  readonly steps: readonly Exclude<Step, 'final'>[];
  /** Whose bands colour the picture: a kind without outer walls has no `axial`. */
  readonly colours: readonly ColourOf[];
  /** It is hollow inside: its plan is looked at first, and cut mesiodistally. */
  readonly hollow: boolean;
  /** Null: it is graded by hand until its readings exist. */
  readonly measure: ((alignment: Alignment, master: Master, progress: Progress) => Preparation) | null;
}

/** Runs measures in order and reports progress between two shares of the whole. */
export function runMeasures<C>(measures: readonly Measure<C>[], of: C, progress: Progress, [from, to] = [0, 1]): Reading[] {
  return measures.flatMap((measure, i) => {
    const readings = measure(of);
    progress(from + ((to - from) * (i + 1)) / (measures.length + 1));
    return readings;
  });
}
