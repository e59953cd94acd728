import type { Repair } from '#core/score/repair.ts';
import { digitsOf, UNIT_WORDS } from '#words/words.ts';

/** What it would take to bring a finding inside, in one sentence. */
export function repairWords(r: Repair, unit: string): string {
  if (!r.can)
    return r.why === 'too-much'
      ? 'Cannot be put back by cutting.'
      : r.why === 'not-by-cutting'
        ? 'Cutting on this tooth does not mend it.'
        : `Cutting on would break “${r.other}”.`;
  const d = digitsOf(unit);
  const change = `${r.from.toFixed(d)} to ${r.to.toFixed(d)} ${UNIT_WORDS[unit] ?? ''}`.trim();
  if (r.where === 'here') return `${Math.abs(r.by).toFixed(d)} ${UNIT_WORDS[unit] ?? ''} more (${change}).`;
  const at = r.where === 'wall top' ? 'at the top of the wall' : 'at the foot of the wall, which widens the margin as much';
  return r.depth === null ? `From ${change}, cut ${at}.` : `${r.depth.toFixed(2)} mm ${at} (${change}).`;
}
