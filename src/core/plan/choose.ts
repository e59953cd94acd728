import { type Cutter, halfTaper_deg, widestMargin } from './cutter.ts';
import { passesFor } from './margin.ts';
import type { Duty } from './steps.ts';

/** A cutter of the course's list, as far as a plan needs it. */
export interface OwnCutter extends Cutter {
  readonly id: string;
  readonly name: string;
  readonly cutsAtEnd: boolean;
  readonly grit: string;
}

const isFine = (c: OwnCutter): boolean => /fine|polish/i.test(c.grit);
const isSided = (c: OwnCutter): boolean => c.form === 'taper' || c.form === 'cylinder';

/** What is to be cut, as far as it decides on the cutter: mm of depth and width, and whether the margin is to be square. */
export interface Task {
  readonly depth: number | null;
  readonly width: number | null;
  readonly squareMargin: boolean;
}

const best = (all: readonly OwnCutter[], badness: (c: OwnCutter) => number): OwnCutter | null =>
  all.reduce<OwnCutter | null>((a, b) => (a && badness(a) <= badness(b) ? a : b), null);

/**
 * The cutter of a course's list that does a step: for a groove the straight one whose width is nearest to its depth; for walls and margin a
 * tapered one with the tip that the margin asks for, in the fewest passes and then the slimmest; for contacts the slimmest pointed one; for
 * floors and boxes what is no wider than they are. Null where none of the list can.
 */
export function chooseCutter(duty: Duty, cutters: readonly OwnCutter[], task: Task): OwnCutter | null {
  const coarse = cutters.filter((c) => !isFine(c));
  const tapered = coarse.filter((c) => c.form === 'taper' && c.tip !== 'pointed');
  switch (duty) {
    case 'groove': {
      const straight = coarse.filter((c) => c.form === 'cylinder' && c.cutsAtEnd && c.length_mm >= (task.depth ?? 0));
      return best(straight.length ? straight : tapered, (c) => Math.abs(c.tip_mm - (task.depth ?? c.tip_mm)));
    }
    case 'bulk':
      return best(tapered.length ? tapered : coarse.filter(isSided), (c) => -c.tip_mm);
    case 'axial':
    case 'margin': {
      const fit = tapered.filter((c) => (c.tip === 'flat') === task.squareMargin);
      const among = fit.length ? fit : tapered;
      const width = task.width ?? 0;
      return best(
        among.length ? among : coarse.filter(isSided),
        (c) => 10 * (passesFor(width, c) ?? 9) + Math.abs(widestMargin(c) - width),
      );
    }
    case 'contact':
      return best(
        cutters.filter((c) => c.tip === 'pointed' && c.form !== 'flame'),
        (c) => c.shank_mm,
      );
    case 'fossa':
      return best(
        coarse.filter((c) => c.form === 'flame' || c.form === 'ball'),
        (c) => -c.shank_mm,
      );
    case 'floor': {
      const fits = coarse.filter(
        (c) => ['pear', 'cylinder', 'inverted cone'].includes(c.form) && (task.width === null || c.tip_mm <= task.width),
      );
      // Long enough first; a pear's rounded corners before a straight one's sharp ones.
      return best(fits, (c) => (c.length_mm >= (task.depth ?? 0) ? 0 : 10) + (c.form === 'pear' ? 0 : 1) + Math.abs(c.tip_mm - 1));
    }
    case 'box':
      return best(
        coarse.filter((c) => isSided(c) && c.tip === 'flat' && halfTaper_deg(c) < 3 && (task.width === null || c.tip_mm <= task.width)),
        (c) => (c.form === 'cylinder' ? 0 : 5) + Math.abs(c.tip_mm - 0.9),
      );
    case 'retention':
      return best(
        coarse.filter((c) => isSided(c) && c.tip_mm <= 1.1),
        (c) => halfTaper_deg(c) + Math.abs(c.tip_mm - (task.width ?? 1)),
      );
    case 'finish':
      return best(
        cutters.filter((c) => isFine(c) && c.tip !== 'pointed'),
        (c) => Math.abs(widestMargin(c) - (task.width ?? 0.6)),
      );
  }
}

/** mm left for finishing by the grit that cuts before: the coarser, the more. */
export const allowanceOf = (c: Pick<OwnCutter, 'grit'>): number =>
  /coarse|cross/i.test(c.grit) ? 0.4 : /fine|plain/i.test(c.grit) ? 0.2 : 0.3;
