import type { PlannedBeside } from '#contract/at-bench.ts';
import { stepStates } from '#core/plan/bench-clock.ts';
import { causesOf, shareRead } from '#core/plan/causes.ts';
import { inHalves } from '#core/plan/guide.ts';
import type { Plan, PlannedStep } from '#core/plan/plan.ts';
import { isDepth } from '#core/plan/planned-reading.ts';
import type { Reading } from '#core/result/reading.ts';
import { zonesOf } from '#core/score/expand.ts';
import { AT_BENCH } from '#words/at-bench.ts';
import { figureOf, PLAN } from '#words/plan.ts';
import { capital, readingWords, valueWords } from '#words/readings.ts';
import { STEP_WORDS } from '#words/steps.ts';
import type { App } from '../app.ts';
import { happened } from '../at-bench/state.ts';
import { Refused } from '../errors.ts';
import { gradedOf } from '../grading/evidence.ts';
import { attemptById } from '../grading/rows.ts';
import { stepPhotos } from '../photos/steps.ts';
import { planned } from './view.ts';

/** Steps whose cutter's own size makes the depth, so that a depth read tells how much of it was sunk. */
const byItsSize = (s: PlannedStep): s is PlannedStep & { readonly shareOf: 'length' | 'width' } => s.shareOf !== null && s.cutter !== null;

function linesOf(
  plan: Plan,
  cutters: readonly { readonly id: string; readonly name: string; readonly tip_mm: number; readonly length_mm: number }[],
  readings: readonly Reading[],
  cusps: readonly { readonly name: string; readonly role: 'functional' | 'non-functional' }[],
): PlannedBeside['lines'] {
  const last = new Map(plan.steps.flatMap((s) => s.readings.map((r) => [`${r.reading} ${r.zone} ${r.stat}`, { s, r }] as const)));
  return [...last.values()].flatMap(({ s, r }) =>
    (zonesOf(r, cusps, readings) ?? [r.zone]).flatMap((zone): PlannedBeside['lines'][number][] => {
      const read = readings.find((q) => q.name === r.reading && q.zone === zone && q.stat === r.stat);
      if (!read) return [];
      const cutter = cutters.find((c) => c.id === s.cutter);
      const share = read.value !== null && cutter && isDepth(r.reading) && byItsSize(s) ? shareRead(read.value, cutter, s.shareOf) : null;
      return [
        {
          words: capital(readingWords(r.reading, zone, r.stat)),
          expected: figureOf(r, r.final),
          read: valueWords(read.value, read.U, r.unit, read.reason),
          how: share === null || !cutter ? null : PLAN.sunkTo(cutter.name, share, s.shareOf as string),
        },
      ];
    }),
  );
}

/** What the plan of an attempt's exercise expected beside what was read of it, likely causes, and how the work went. */
export async function plannedBeside(a: App, id: number): Promise<PlannedBeside> {
  const attempt = await attemptById(a.db, id);
  if (!attempt) throw new Refused('not-there', 'There is no such attempt.');
  const [{ plan, cutters }, { readings }, { events, words }, photos] = await Promise.all([
    planned(a, attempt.exercise_id),
    gradedOf(a.db, attempt, 1),
    happened(a, id),
    stepPhotos(a.db, id),
  ]);
  const step = plan.steps.find((s) => s.duty === 'margin') ?? plan.steps.find((s) => s.duty === 'axial');
  const cutter = cutters.find((c) => c.id === step?.cutter) ?? null;
  const width = plan.steps.flatMap((s) => s.readings).find((r) => r.reading === 'margin.width')?.final ?? null;
  const convergence = plan.steps.flatMap((s) => s.readings).find((r) => r.reading.startsWith('toc.'))?.final ?? null;
  return {
    lines: linesOf(plan, cutters, readings, attempt.master.cusps),
    causes: cutter ? causesOf(readings, cutter, { tilt: step?.tilt ?? 0, width, convergence }) : [],
    sites: readings.flatMap((r) => {
      if (r.name !== 'reduction.sites' || r.value === null || r.zone === null) return [];
      const [from, to] = inHalves(r.value);
      return [{ zone: r.zone, from, to, depth: r.value }];
    }),
    steps: stepStates(
      plan.steps.map((s) => ({ id: s.id, number: s.number, needsWord: false })),
      events,
      words,
    ).flatMap((s) => {
      const taken = photos.filter((p) => p.step === s.id).map((p) => p.id);
      if (s.turns === 0 && taken.length === 0) return [];
      return [
        {
          id: STEP_WORDS[s.id as PlannedStep['id']].title,
          minutes: s.minutes,
          turns: s.turns,
          words: s.words.map((w) => AT_BENCH.wordFrom(AT_BENCH.word[w.word], w.initials, w.note)),
          photos: taken,
        },
      ];
    }),
    teeth: events.flatMap((e) => (e.kind === 'tooth' ? [e.body.why] : [])),
  };
}
