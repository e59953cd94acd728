import * as v from 'valibot';
import type { AllowanceView, StageView } from '#contract/views.ts';
import { unitOf } from '#core/catalogue/catalogue.ts';
import { STEPS } from '#core/catalogue/terms.ts';
import { decide } from '#core/plan/decide.ts';
import { stepsOf, USUAL_CHOICES } from '#core/plan/steps.ts';
import { REFUSALS } from '#core/result/reading.ts';
import { forTooth } from '#core/score/expand.ts';
import type { Rubric } from '#core/score/rubric.ts';
import { score } from '#core/score/score.ts';
import { allowances } from '#core/score/stage.ts';
import { type Queries, sql } from '../database/port.ts';
import { type AttemptRow, measurementById, readingsOf } from '../grading/rows.ts';

const Scanned = v.object({
  scan: v.number(),
  measurement: v.number(),
  step: v.picklist(['occlusal', 'axial', 'outline', 'box']),
  version: v.number(),
});
const ORDER = Object.keys(STEPS);
const Checks = v.object({ checks: v.record(v.string(), v.object({ check: v.string(), needsWord: v.boolean() })) });

/** Beginnings of the names of critical errors' readings that can exist by a step of the work. */
function possibleBy(attempt: AttemptRow, step: StageView['step']): string[] {
  const asked = attempt.rubric.criteria.flatMap((c) => c.targets.map((t) => t.reading));
  const steps = stepsOf(attempt.kind, attempt.tooth, asked, USUAL_CHOICES);
  const last = steps.findIndex((s) => s.scan === step);
  return steps.slice(0, last < 0 ? steps.length : last + 1).flatMap((s) => s.canDamage);
}

/** The newest scan of each step, with what remains to be cut, the critical errors that can exist by then, and what to do. */
export async function stagesOf(q: Queries, attempt: AttemptRow): Promise<StageView[]> {
  const { checks } = await q.one(Checks, sql`select checks from exercise where id = ${attempt.exercise_id}`);
  const scans = await q.any(
    Scanned,
    sql`select distinct on (s.step) s.id as scan, m.id as measurement, s.step, s.version from scan s join measurement m on m.scan_id = s.id
        where s.attempt_id = ${attempt.id} and s.step <> 'final' and s.removed_at is null order by s.step, s.version desc, s.id desc, m.id desc`,
  );
  const stages = await Promise.all(
    scans.map(async ({ scan, measurement, step, version }): Promise<StageView> => {
      const m = await measurementById(q, measurement);
      const readings = await readingsOf(q, measurement);
      const rubric = forTooth(attempt.rubric as Rubric, attempt.master.cusps, readings);
      const evidence = { readings, curves: m?.curves ?? {} };
      const found = allowances(rubric, evidence, step);
      const possible = possibleBy(attempt, step);
      const critical = score(rubric, evidence)
        .critical.filter((c) => possible.some((p) => c.error.reading.startsWith(p)))
        .map((c) => ({ title: c.error.title, made: c.made }));
      const lines = found.map(({ target: t, title, stands, repair }): AllowanceView => {
        const { reading, zone, stat, band } = t.target;
        return {
          title,
          reading,
          zone,
          stat,
          unit: unitOf(reading, stat),
          value: t.along?.worst ?? t.reading?.value ?? null,
          U: t.reading?.U ?? null,
          reason: t.reading?.reason ? REFUSALS[t.reading.reason] : null,
          lo: band.lo,
          hi: band.hi,
          azimuth: t.along?.worstAt ?? t.reading?.at?.azimuth ?? null,
          stands,
          repair,
        };
      });
      return {
        scan,
        step,
        version,
        check: checks[step]?.check ?? '',
        needsWord: checks[step]?.needsWord ?? false,
        lines,
        critical,
        ...decide(found, critical, attempt.rubric.passMark),
      };
    }),
  );
  return stages.sort((a, b) => ORDER.indexOf(a.step) - ORDER.indexOf(b.step));
}
