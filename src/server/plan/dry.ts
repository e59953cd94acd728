import { readFileSync } from 'node:fs';
import { gunzipSync } from 'node:zlib';
import { type DryForm, type DryLine, type DryView, ownCutter } from '#contract/plan.ts';
import { unitOf } from '#core/catalogue/catalogue.ts';
import { expectedAfter, keyOf, speaksAfter } from '#core/dry/so-far.ts';
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

/** The plan of an exercise followed dry in some way, as far as one of its steps: what the standard asks for, beside what the core reads on the cut tooth. */
export async function dryRun(a: App, who: Person | null, id: string, form: DryForm): Promise<DryView> {
  permit(who, 'course.see', await SUBJECTS.exercise(a.db, id));
  const { plan, kit, standard, guide, masterFile } = await planned(a, id);
  const swapped = form.cutter === null ? null : kit.cutters.find((c) => c.id === form.cutter);
  if (swapped === undefined) throw new Refused('not-valid', `“${form.cutter}” is not in the course’s list of cutters.`);
  const step = plan.steps.find((s) => s.id === form.step)?.id;
  if (step === undefined)
    throw new Refused('not-valid', `“${form.step}” is no step of this plan. It has ${plan.steps.map((s) => s.id).join(', ')}.`);
  return a.files.withFolder(async (outFolder) => {
    const { tilt_deg, sunk_mm, onePass } = form;
    const way = { tilt_deg, sunk_mm, onePass, cutter: swapped && ownCutter(swapped) };
    const done = await a.children
      .run({ kind: 'dry', masterFile, plan, cutters: kit.cutters.map(ownCutter), way, step, outFolder }, { soon: true })
      .catch((e: unknown) => {
        if (e instanceof TaskFault) throw new Refused('conflict', e.message);
        throw e;
      });
    const expected = expectedAfter(plan, step);
    const isGrooved = plan.steps.find((s) => s.id === step)?.duty === 'groove';
    const lines = standard.lines
      .flatMap((l) => l.fields)
      .flatMap((f): DryLine[] => {
        const zones = zonesOf(f, guide.cusps as never, done.readings) ?? [f.zone];
        if (!speaksAfter(plan, step, f)) return [];
        const e = expected.get(keyOf(f)) ?? null;
        const isDue = e?.isDue ?? true;
        return zones.map((zone): DryLine => {
          // Depth cuts are as deep as they are at their bottoms; between them the tooth stands.
          const stat = isGrooved && f.reading === 'reduction.occlusal' ? 'p95' : f.stat;
          const r: Reading | undefined = done.readings.find((q) => q.name === f.reading && q.zone === zone && q.stat === stat);
          return {
            reading: f.reading,
            zone,
            stat,
            unit: unitOf(f.reading, f.stat),
            lo: f.band.lo,
            hi: f.band.hi,
            expected: e?.value ?? null,
            value: r?.value ?? null,
            U: r?.U ?? null,
            reason: r?.reason ?? null,
            verdict: r ? verdict(r, isDue ? f.band : { lo: null, hi: f.band.hi }) : 'none',
            isDue,
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
