import { readFileSync, writeFileSync } from 'node:fs';
import { type Comparison, type Summary, summaries } from '../table.ts';
import { leftOut } from './left-out.ts';

const FILE = 'docs/accuracy.md';
export const BEGIN = '<!-- Written by npm run study:foreign -->';
export const END = '<!-- End of npm run study:foreign -->';
const FAMILIES = ['loft', 'level set', 'swept', 'implicit'] as const;
const CRITICAL = [
  ['neighbour.mesial', 'damage to the mesial neighbour', 'mm'],
  ['neighbour.distal', 'damage to the distal neighbour', 'mm'],
  ['margin.lip', 'lip', 'mm'],
] as const;

const familyOf = (r: Comparison): string => FAMILIES.find((f) => r.who.startsWith(f)) ?? 'simulator';

/** One reading's figures in one family: bias, 95 % of errors, share of truths within U, share not given. */
function cell(s: Summary | undefined): string {
  if (!s) return '–';
  if (s.n === 0) return 'not given';
  const lost = s.refused > 0 ? `, ${(100 * s.refused).toFixed(0)} % not given` : '';
  return `${s.bias.toFixed(3)}; ${s.p95.toFixed(3)}; ${(100 * s.inU).toFixed(0)} % of ${s.n}${lost}`;
}

function sideBySide(rows: readonly Comparison[]): string {
  const families = [...FAMILIES, 'simulator'].filter((f) => rows.some((r) => familyOf(r) === f));
  const by = new Map(
    families.map((f) => [f, new Map(summaries(rows.filter((r) => familyOf(r) === f)).map((s) => [`${s.name} ${s.stat}`, s]))]),
  );
  const keys = [...new Set(FAMILIES.flatMap((f) => [...(by.get(f)?.keys() ?? [])]))].filter((k) => !k.startsWith('whole scan')).sort();
  const lines = keys.map((k) => `| \`${k.replace(' ', '` ')} | ${families.map((f) => cell(by.get(f)?.get(k))).join(' | ')} |`);
  return `| reading | ${families.join(' | ')} |\n|---|${families.map(() => '---').join('|')}|\n${lines.join('\n')}`;
}

/** Found and invented, by the true size of what was done. */
function critical(rows: readonly Comparison[]): string {
  const lines = CRITICAL.flatMap(([name, words, unit]) => {
    const own = rows.filter((r) => r.name === name && r.stat === 'max' && r.zone === null && r.value !== null);
    const sizes = [...new Set(own.map((r) => r.truth.toFixed(2)))].sort();
    return sizes.map((size) => {
      const here = own.filter((r) => r.truth.toFixed(2) === size);
      const said = here.filter((r) => (r.value as number) > 0.02).length;
      return `| ${words} | ${Number(size) === 0 ? 'none' : `${size} ${unit}`} | ${said} of ${here.length} |`;
    });
  });
  const under = rows.filter((r) => r.name === 'margin.gingiva' && r.stat === 'median' && r.truth < -0.05 && r.value !== null);
  const below = under.filter((r) => (r.value as number) < 0).length;
  const refused = rows.filter((r) => r.who.includes('mirrored') && r.name === 'whole scan').length;
  return `| critical error | true size | said to be there |\n|---|---|---|\n${lines.join('\n')}\n| finish line under the gingiva, a sector | 0.3 to 0.5 mm | ${below} of ${under.length} |\n| mirrored scan not refused | – | ${refused} |`;
}

/** Puts the study's own section into the page, in place of the one before. */
export function writeSection(rows: readonly Comparison[], beside: readonly Comparison[]): void {
  const given = rows.filter((r) => r.value !== null && r.U !== null && r.name !== 'pose');
  const held = given.filter((r) => Math.abs((r.value as number) - r.truth) <= (r.U as number)).length;
  const cases = new Set(rows.map((r) => r.who)).size;
  const text = `${BEGIN}

## Shapes that the simulator did not make

${cases} scans of four constructions that share no code with the simulator's teeth and cutters: profiles lofted round the axis and meshed
directly (\`loft\`), level sets cut by swept rings and prisms (\`level set\`), stacked polygons cut by the hulls of a cutter on its way
(\`swept\`), functions of place joined by rounded minima and meshed by surface nets (\`implicit\`). Random pose, 20 µm of white noise where nothing else is said; 10 and 30 µm, correlated noise, 0.28 mm spacing, blunting,
pinholes, debris, spikes, a doubled shell, a stitching step, turned triangles, crops and sizes of 0.996 to 1.015 among them. Each cell:
bias; 95 % of errors within; truths within ± U. U holds for ${((100 * held) / given.length).toFixed(1)} % of all ${given.length}${beside.length ? '; the last column is the simulator’s own preparations' : ''}.

${sideBySide([...rows, ...beside])}

${critical(rows)}

The two figures that U does not take from the scan, chosen without one family and tried on it:

${leftOut([...rows, ...beside], familyOf)}

${readFileSync('study/foreign/found.md', 'utf8').trim()}

${END}
`;
  const page = readFileSync(FILE, 'utf8');
  const [from, to] = [page.indexOf(BEGIN), page.indexOf(END)];
  const at = page.indexOf('## Faults found beside');
  writeFileSync(
    FILE,
    from >= 0 && to > from
      ? page.slice(0, from) + text.trimEnd() + page.slice(to + END.length)
      : `${page.slice(0, at)}${text}\n${page.slice(at)}`,
  );
}
