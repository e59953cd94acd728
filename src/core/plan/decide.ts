/** What a step's check comes to. */
export type Decision = 'go-on' | 'correct' | 'look' | 'lost' | 'new-tooth';

interface Line {
  readonly stands: 'enough' | 'cut-more' | 'too-much' | 'to-check' | 'not-read';
  /** Points that the line is worth, and whether the exercise fails on it. */
  readonly of: number;
  readonly isCritical?: boolean;
}

/**
 * What to do after a step: go on where everything that it should bring is there; correct what can still be cut; have looked at what is too
 * close to call or could not be read; and where too much is gone, what that costs, and a new tooth where it ends the exercise: a critical
 * error, or what is lost leaves less than the pass mark.
 * @example one line too deep, worth 8 of 100 with a pass mark of 75: lost, costs 8; lines worth 30 too deep: a new tooth
 */
export function decide(
  lines: readonly Line[],
  critical: readonly { readonly made: boolean | null }[],
  passMark: number,
): { decision: Decision; costs: number } {
  const costs = lines.filter((l) => l.stands === 'too-much').reduce((s, l) => s + l.of, 0);
  if (critical.some((c) => c.made === true) || 100 - costs < passMark) return { decision: 'new-tooth', costs };
  if (costs > 0) return { decision: 'lost', costs };
  if (lines.some((l) => l.stands === 'cut-more')) return { decision: 'correct', costs: 0 };
  // Nothing read is not fine: somebody has to look.
  if (lines.length === 0 || critical.some((c) => c.made === null) || lines.some((l) => l.stands !== 'enough'))
    return { decision: 'look', costs: 0 };
  return { decision: 'go-on', costs: 0 };
}
