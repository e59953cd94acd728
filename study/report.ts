// Writes docs/accuracy.md and its figure from the study's rows: npm run report -- crown=FILE[,FILE] cavity=FILE [onlay=FILE] [partial=FILE] [faults=FILE] [pose=FILE]
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { FAULTS } from '#core/simulate/faults/faults.ts';
import { TRIALS, type TrialResult } from './fault-trials.ts';
import { BEGIN, END } from './foreign/section.ts';
import { type Comparison, summaries, table } from './table.ts';

const PAGE = 'docs/accuracy.md';
/** Error targets (95 %) by unit: mm and degrees, from the measures page; the rest has none. */
const TARGET: Readonly<Record<string, number>> = { mm: 0.03, deg: 1 };
const rowsOf = (file: string): Comparison[] => JSON.parse(readFileSync(file, 'utf8'));
const TITLES: Readonly<Record<string, string>> = {
  crown: 'Full crowns',
  cavity: 'Cavities',
  onlay: 'Onlays',
  partial: 'Three-quarter crowns',
};
const faultsFile = process.argv.find((a) => a.startsWith('faults='))?.slice('faults='.length);
const poseFile = process.argv.find((a) => a.startsWith('pose='))?.slice('pose='.length);
const asked = process.argv.slice(2).filter((a) => !/^(faults|pose)=/.test(a));
const kinds = asked.map((arg) => {
  const [kind, files] = arg.split('=');
  if (!(kind in TITLES) || !files) throw new Error(`“${arg}” is not KIND=FILE[,FILE] with a kind of ${Object.keys(TITLES).join(', ')}`);
  return [kind, files.split(',').flatMap(rowsOf)] as const;
});

const unitOf = (name: string): 'mm' | 'deg' | null =>
  /taper|toc|lean|tilt|angle|exit|cavosurface/.test(name) ? 'deg' : /coverage|share/.test(name) ? null : 'mm';

/** Bias and 95 % of errors of each reading on one scale per unit, the target shaded. */
function figure(rows: readonly Comparison[]): string {
  const list = summaries(rows).filter((s) => s.n > 0 && unitOf(s.name) && ['median', 'mean', 'value', 'min', 'max'].includes(s.stat));
  const W = 860;
  const row = 17;
  const H = 30 + row * list.length;
  const lines = list.map((s, i) => {
    const unit = unitOf(s.name) as 'mm' | 'deg';
    const full = 4 * TARGET[unit];
    const x = (v: number): number => 560 + (280 * Math.max(-full, Math.min(full, v))) / full;
    const y = 24 + row * i;
    return `<g><text x="8" y="${y + 4}" font-size="11">${s.name} ${s.stat}</text><text x="300" y="${y + 4}" font-size="11" text-anchor="end">${s.p95.toFixed(unit === 'mm' ? 3 : 2)} ${unit === 'mm' ? 'mm' : '°'}</text><rect x="${x(-TARGET[unit])}" y="${y - 6}" width="${x(TARGET[unit]) - x(-TARGET[unit])}" height="12" fill="#d9e6e4"/><line x1="${x(s.bias - s.p95)}" x2="${x(s.bias + s.p95)}" y1="${y}" y2="${y}" stroke="#0b5563" stroke-width="3"/><circle cx="${x(s.bias)}" cy="${y}" r="3.4" fill="#16202b"/></g>`;
  });
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${W} ${H}" font-family="sans-serif" fill="#16202b"><title>Errors of each reading against its target</title><rect width="${W}" height="${H}" fill="#fafbf9"/><text x="8" y="12" font-size="11">95 % of errors (line) about the bias (dot); shaded: target, ± 0.03 mm or ± 1.0°; scale ends at four times the target</text>${lines.join('')}</svg>`;
}

/** Share of damaged neighbours found, by true depth; and clean ones called damaged. */
function found(rows: readonly Comparison[]): string {
  const damage = rows.filter((r) => r.name.startsWith('neighbour.') && r.value !== null);
  const bins = [
    [0, 0],
    [0.001, 0.05],
    [0.05, 0.1],
    [0.1, 0.2],
    [0.2, 0.6],
  ] as const;
  const lines = bins.map(([lo, hi]) => {
    const here = damage.filter((r) => (hi === 0 ? r.truth === 0 : r.truth > lo && r.truth <= hi));
    const hit = here.filter((r) => (r.value as number) >= 0.05).length;
    return `| ${hi === 0 ? 'clean' : `${lo === 0.001 ? 0 : lo}–${hi} mm`} | ${here.length} | ${here.length ? `${Math.round((100 * hit) / here.length)} %` : '–'} |`;
  });
  return `| true depth of the damage | neighbours | called damaged (0.05 mm or more) |\n|---|---|---|\n${lines.join('\n')}`;
}

const FOUND = 'Faults found beside clean work';

/**
 * Per fault and reading: share of clean scans called different, and share found at each size. Later files replace earlier
 * rows.
 */
function faultTable(rows: readonly TrialResult[]): string {
  const lines = TRIALS.map((t) => {
    const last = new Map(rows.filter((r) => r.fault === t.fault).map((r) => [`${r.tooth} ${r.size} ${r.run}`, r]));
    const of = (size: number): TrialResult[] => [...last.values()].filter((r) => r.size === size);
    const share = (list: readonly TrialResult[]): string => `${list.filter((r) => r.found).length} of ${list.length}`;
    const unit = { mm: ' mm', deg: '°', share: '' }[FAULTS[t.fault].unit];
    const sizes = t.sizes.map((s) => `${s}${unit}: ${share(of(s))}`).join(', ');
    return `| ${FAULTS[t.fault].words} | \`${t.reading}\`${t.zone && t.zone !== 'cusp' ? ` ${t.zone}` : ''} ${t.stat} | ${share(of(0))} | ${sizes} |`;
  });
  return `## ${FOUND}\n\nWritten from \`npm run study:faults\`: each fault cut alone into otherwise clean work on two teeth, scanned with 0.02 mm noise in a random pose. A fault is found when its reading differs from that of a clean scan of the same tooth by more than both uncertainties together.\n\n| fault | reading | clean scans called different | found, by size |\n|---|---|---|---|\n${lines.join('\n')}\n`;
}

function misses(rows: readonly Comparison[]): string {
  const late = summaries(rows).filter((s) => {
    const unit = unitOf(s.name);
    return s.n > 0 && unit !== null && s.p95 > TARGET[unit];
  });
  return late.map((s) => `\`${s.name}\` ${s.stat} (${s.p95.toFixed(unitOf(s.name) === 'mm' ? 3 : 2)})`).join(', ') || 'none';
}

mkdirSync('docs/figures', { recursive: true });
const parts = [
  `# How accurate the readings are

Written by \`npm run report\` from \`npm run study\`: simulated preparations with every parameter drawn at random, cut from teeth
of all classes, scanned in random poses with correlated noise, measured from the scan file alone, and compared with true
values that come from the construction, never from the measuring code. Targets (95 % of errors): 0.03 mm, 1.0°. "Truths
within ± U" should be 93 to 97 %: more means that U is too careful, less that it promises too much.
`,
];
// What was not studied again stays as the page has it.
const page = existsSync(PAGE) ? readFileSync(PAGE, 'utf8') : '';
const kept = (title: string): string[] => {
  const from = page.indexOf(`## ${title}\n`);
  if (from < 0) return [];
  const section = page.slice(from).split(/\n(?=## |<!-- )/)[0];
  return [`${section.trimEnd()}\n`];
};
for (const [kind, title] of Object.entries(TITLES)) {
  const rows = kinds.find(([k]) => k === kind)?.[1];
  if (!rows) {
    parts.push(...kept(title));
    continue;
  }
  const file = `docs/figures/accuracy-${kind}.svg`;
  writeFileSync(file, figure(rows));
  const cases = new Set(rows.map((r) => r.who));
  const preparations = new Set([...cases].map((w) => w.replace(/ [\d.]+ pose \d+$/, '')));
  const refused = rows.filter((r) => r.name === 'whole scan');
  parts.push(
    `## ${title}\n\n${preparations.size} preparations, ${cases.size} scans (120 k triangles, noise ${[...new Set([...cases].map((w) => w.match(/ ([\d.]+) pose/)?.[1]))].join(' and ')} mm). Scans refused whole: ${refused.length}${refused.length ? ` (${[...new Set(refused.map((r) => r.reason))].join(' / ')})` : ''}.\n\n![Errors of ${title.toLowerCase()}](figures/${file.split('/').pop()})\n\n${table(rows.filter((r) => r.name !== 'whole scan'))}\n\nBeyond the target: ${misses(rows)}.\n\n${found(rows)}\n`,
  );
}
const LAID = 'How well a scan is laid on its master';
if (poseFile)
  parts.push(
    `## ${LAID}\n\nWritten from \`npm run study:pose\`: crowns in random poses, what is left of the motion that the simulator moved the scan by, at the worst of four places on the tooth.\n\n${readFileSync(poseFile, 'utf8')}`,
  );
else parts.push(...kept(LAID));
if (page.includes(BEGIN)) parts.push(`${page.slice(page.indexOf(BEGIN), page.indexOf(END) + END.length)}\n`);
if (faultsFile) parts.push(faultTable(faultsFile.split(',').flatMap((f): TrialResult[] => JSON.parse(readFileSync(f, 'utf8')))));
else parts.push(...kept(FOUND));
parts.push(readFileSync('study/causes.md', 'utf8'));
writeFileSync(PAGE, parts.join('\n'));
