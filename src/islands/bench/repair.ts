import type { Repair } from '#core/score/repair.ts';
import { digitsOf, unitWords } from '#words/readings.ts';

/** What it would take to bring a finding inside, in one sentence. */
export function repairWords(r: Repair, unit: string): string {
  if (!r.can)
    return r.why === 'too-much'
      ? 'Too much was removed; cutting more cannot correct it.'
      : r.why === 'not-by-cutting'
        ? 'Cutting on this tooth does not mend it.'
        : `Cutting more would break “${r.other}”.`;
  const d = digitsOf(unit);
  const means = meansWords(r);
  const change = `${r.from.toFixed(d)} to ${r.to.toFixed(d)} ${unitWords(unit)}`.trim();
  if (r.where === 'here') return `${Math.abs(r.by).toFixed(d)} ${unitWords(unit)} more (${change})${means}.`;
  const at = r.where === 'wall top' ? 'at the top of the wall' : 'at the foot of the wall, which widens the margin as much';
  return r.depth === null ? `From ${change}, cut ${at}${means}.` : `${r.depth.toFixed(2)} mm ${at} (${change})${means}.`;
}

/** How much that takes away and with what. */
function meansWords(r: Extract<Repair, { can: true }>): string {
  const parts: string[] = [];
  if (r.volume !== null && r.volume >= 0.05) parts.push(`about ${r.volume.toFixed(1)} mm³`);
  if (r.cutter) {
    const { shape, diameter, tilt } = r.cutter;
    const size = diameter === null ? '' : ` ${diameter.toFixed(1)} mm`;
    const lean = tilt === null ? '' : tilt === 0 ? ', held along the axis' : `, leaned ${tilt > 0 ? 'in' : 'out'} by ${Math.abs(tilt)}°`;
    parts.push(`${shape}${size}${lean}`);
  }
  return parts.length ? `: ${parts.join(', ')}` : '';
}
