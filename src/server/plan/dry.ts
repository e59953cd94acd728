import { readFileSync } from 'node:fs';
import { gunzipSync } from 'node:zlib';
import { type DryForm, type DryLine, type DryView, ownCutter } from '#contract/plan.ts';
import { unitOf } from '#core/catalogue/catalogue.ts';
import type { Reading } from '#core/result/reading.ts';
import { zonesOf } from '#core/score/expand.ts';
import { verdict } from '#core/score/verdict.ts';
import { permit } from '../access/gate.ts';
import { SUBJECTS } from '../access/subjects.ts';
import type { Person } from '../access/table.ts';
import type { App } from '../app.ts';
import { TaskFault } from '../children/pool.ts';
import { Refused } from '../errors.ts';
import { planned } from './view.ts';

/** The plan of an exercise followed dry in some way, as far as a stage: what the standard asks for, beside what the core reads on the cut tooth. */
export async function dryRun(a: App, who: Person | null, id: string, form: DryForm): Promise<DryView> {
  permit(who, 'course.see', await SUBJECTS.exercise(a.db, id));
  const { plan, kit, standard, guide, masterFile } = await planned(a, id);
  const swapped = form.cutter === null ? null : kit.cutters.find((c) => c.id === form.cutter);
  if (swapped === undefined) throw new Refused('not-valid', `“${form.cutter}” is not in the course’s list of cutters.`);
  return a.files.withFolder(async (outFolder) => {
    const { tilt_deg, sunk_mm, onePass, stage } = form;
    const way = { tilt_deg, sunk_mm, onePass, cutter: swapped && ownCutter(swapped) };
    const done = await a.children
      .run({ kind: 'dry', masterFile, plan, cutters: kit.cutters.map(ownCutter), way, stage, outFolder }, { soon: true })
      .catch((e: unknown) => {
        if (e instanceof TaskFault) throw new Refused('conflict', e.message);
        throw e;
      });
    const expected = new Map(plan.steps.flatMap((s) => s.readings).map((r) => [`${r.reading} ${r.zone} ${r.stat}`, r.final]));
    const lines = standard.lines
      .flatMap((l) => l.fields)
      .flatMap((f): DryLine[] => {
        const zones = zonesOf(f, guide.cusps as never, done.readings) ?? [f.zone];
        const e = expected.get(`${f.reading} ${f.zone} ${f.stat}`) ?? null;
        return zones.map((zone): DryLine => {
          const r: Reading | undefined = done.readings.find((q) => q.name === f.reading && q.zone === zone && q.stat === f.stat);
          return {
            reading: f.reading,
            zone,
            stat: f.stat,
            unit: unitOf(f.reading, f.stat),
            lo: f.band.lo,
            hi: f.band.hi,
            expected: e,
            value: r?.value ?? null,
            U: r?.U ?? null,
            reason: r?.reason ?? null,
            verdict: r ? verdict(r, f.band) : 'none',
          };
        });
      });
    return {
      lines,
      display: gunzipSync(readFileSync(done.display)).toString('base64'),
      profiles: gunzipSync(readFileSync(done.profiles)).toString('utf8'),
      seconds: done.durationMs / 1000,
    };
  });
}
