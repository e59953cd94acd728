// How often a planted habit is found, how often one where there is none, when mastery is told, how far "attempts still needed" was off: npm run study:progress
import { readFileSync, writeFileSync } from 'node:fs';
import { brotliDecompressSync } from 'node:zlib';
import { competence } from '#core/progress/competence.ts';
import { outside } from '#core/progress/error-curve.ts';
import { BINS, habitOf } from '#core/progress/habit.ts';
import { USUAL_LIMITS as LIMITS } from '#core/progress/limits.ts';
import { cohortPrior, stillNeeded } from '#core/progress/still-needed.ts';
import { quantile } from '#core/statistics/quantile.ts';
import { seeded } from '#core/statistics/random.ts';
import { handOf } from '../src/seed/cast.ts';
import type { CohortFile } from '../src/seed/cohort-file.ts';

const STUDENTS = 200;
const lines: string[] = [];
const out = (s: string): void => {
  lines.push(s);
};

// Margin widths round the tooth as the core measured them on 36 simulated hands: what a hand does from place to place, and what a scan adds.
const cohort = JSON.parse(brotliDecompressSync(readFileSync('data/demo/cohort.json.br')).toString()) as CohortFile;
const widths = cohort.measured.flatMap((m) => {
  // One hand has a habit planted at one place: it is no noise.
  if (handOf(m.work.student).habits.narrowDistal) return [];
  const curve = m.curves['margin.width'];
  if (!curve || curve.length < 120) return [];
  const bins = Array.from({ length: BINS }, () => [] as number[]);
  for (const [azimuth, v] of curve) bins[Math.floor(azimuth / 5) % BINS].push(v);
  if (bins.some((b) => b.length === 0)) return [];
  const own = bins.map((b) => b.reduce((s, v) => s + v, 0) / b.length);
  const mean = own.reduce((s, v) => s + v, 0) / BINS;
  // The hand's own way round, without how wide it cuts on the whole.
  return [own.map((v) => v - mean)];
});
const random = seeded(2026);
/** Half width of a band: what lies within is no error. */
const BAND = 0.15;
/** Bins (5° each) of a habit's standard deviation: a quarter of the ring is touched. */
const WIDTH = 4;

/** One attempt's errors: a hand's curve turned anywhere, a habit that leaves the band by a size at one place, its reach varying by 30 %, and an offset of the whole. */
function attempt(size: number, at: number): number[] {
  const hand = widths[Math.floor(random.next() * widths.length)];
  const turn = Math.floor(random.next() * BINS);
  const reach = size === 0 ? 0 : BAND + size * (1 + 0.3 * random.normal());
  const place = at + Math.round(2 * random.normal());
  const offset = 0.05 * random.normal();
  return Array.from({ length: BINS }, (_, b) => {
    const away = Math.min(Math.abs(b - place), BINS - Math.abs(b - place));
    return outside(hand[(b + turn) % BINS] + offset - reach * Math.exp(-0.5 * (away / WIDTH) ** 2), { lo: -BAND, hi: BAND });
  });
}

out(`## Habits round the tooth\n`);
out(
  `${STUDENTS} students each; what a hand does from place to place is taken from ${widths.length} margins that the core measured, turned anywhere; a habit cuts too little over about 40° at one place, so that it leaves the band of ± ${BAND} mm by the given size, which varies by 30 %, and its place by 10°, from attempt to attempt. Told: p < 0.05 and outside in at least half of the attempts; found: told within 25° of the place. None planted: ${5 * STUDENTS} students.\n`,
);
out('| attempts | none planted: called a habit | 0.1 mm | 0.2 mm | 0.3 mm | 0.4 mm |');
out('|---|---|---|---|---|---|');
for (const n of [4, 6, 8, 12]) {
  const row = [0, 0.1, 0.2, 0.3, 0.4].map((size) => {
    let found = 0;
    const people = size === 0 ? 5 * STUDENTS : STUDENTS;
    for (let s = 0; s < people; s++) {
      const at = Math.floor(random.next() * BINS);
      const h = habitOf(
        Array.from({ length: n }, () => ({ curve: attempt(size, at) })),
        s + 1,
        999,
      ).given;
      // As the Trail tells it: chance under 5 %, and outside in at least half of the attempts.
      if (!h || h.p >= 0.05 || h.times < n / 2) continue;
      const away = Math.min(Math.abs(h.at - at), BINS - Math.abs(h.at - at));
      if (size === 0 || away <= 5) found++;
    }
    return `${((100 * found) / people).toFixed(1)} %`;
  });
  out(`| ${n} | ${row.join(' | ')} |`);
}

out(`\n## Mastery\n`);
out(
  `The chart's limits: ${(100 * LIMITS.p0).toFixed(0)} % failures are acceptable, ${(100 * LIMITS.p1).toFixed(0)} % are not; h = ${LIMITS.h.toFixed(3)}. Within ${LIMITS.within} attempts ${(100 * LIMITS.chanceFailing).toFixed(1)} % of those who fail ${(100 * LIMITS.p1).toFixed(0)} % of the time are called masters, and ${(100 * LIMITS.chanceSound).toFixed(1)} % of those who fail ${(100 * LIMITS.p0).toFixed(0)} %. ${STUDENTS * 5} simulated students per rate, 40 attempts:\n`,
);
out('| true failure rate | called a master within 12 | within 40 | attempts until then, median |');
out('|---|---|---|---|');
for (const rate of [0.02, 0.05, 0.1, 0.2, 0.3, 0.5]) {
  const since: number[] = [];
  for (let s = 0; s < STUDENTS * 5; s++) {
    const c = competence(
      Array.from({ length: 40 }, () => random.next() >= rate),
      LIMITS,
    );
    if (c.since !== null) since.push(c.since);
  }
  const all = STUDENTS * 5;
  out(
    `| ${(100 * rate).toFixed(0)} % | ${((100 * since.filter((n) => n <= 12).length) / all).toFixed(1)} % | ${((100 * since.length) / all).toFixed(1)} % | ${since.length ? quantile(since, 0.5).toFixed(0) : '–'} |`,
  );
}

out(`\n## Attempts still needed\n`);
out(
  `${STUDENTS} students whose log odds of success begin at -0.8 ± 0.8 and grow by 0.25 ± 0.1 per attempt; the prior comes from the others' outcomes. Against the attempt at which each really reaches 0.8:\n`,
);
out('| known attempts | off by, median | off by 2 at the most | 80 % interval holds the truth | more than 20 said |');
out('|---|---|---|---|---|');
const people = Array.from({ length: STUDENTS }, () => ({
  a: -0.8 + 0.8 * random.normal(),
  b: Math.max(0.02, 0.25 + 0.1 * random.normal()),
}));
const chance = (p: { a: number; b: number }, x: number): number => 1 / (1 + Math.exp(-(p.a + p.b * x)));
const rows = people.map((p) => Array.from({ length: 12 }, (_, x) => random.next() < chance(p, x)));
for (const known of [4, 6, 8, 12]) {
  const prior = cohortPrior(rows.map((r) => r.slice(0, known)));
  const off: number[] = [];
  let [holds, many, count] = [0, 0, 0];
  people.forEach((p, i) => {
    let truth = 0;
    while (truth <= 20 && chance(p, known + truth - 1) < 0.8) truth++;
    const real = truth > 20 ? 21 : truth;
    const t = stillNeeded(rows[i].slice(0, known), prior, i + 1).given;
    if (!t) return;
    const of = (v: number): number => (v === Infinity ? 21 : v);
    count++;
    off.push(Math.abs(of(t.median) - real));
    if (of(t.lo) <= real && real <= of(t.hi)) holds++;
    if (t.median === Infinity) many++;
  });
  out(
    `| ${known} | ${quantile(off, 0.5).toFixed(1)} | ${((100 * off.filter((o) => o <= 2).length) / count).toFixed(0)} % | ${((100 * holds) / count).toFixed(0)} % | ${((100 * many) / count).toFixed(0)} % |`,
  );
}
writeFileSync(
  'docs/progress-figures.md',
  `# Statistics of progress against planted truth\n\nWritten by \`npm run study:progress\`.\n\n${lines.join('\n')}\n`,
);
process.stdout.write(`${lines.join('\n')}\n`);
