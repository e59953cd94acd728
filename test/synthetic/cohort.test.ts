import { createHash } from 'node:crypto';
import { describe, expect, it } from 'vitest';
import { prepareMaster } from '#core/master/master.ts';
import { measure } from '#core/pipeline.ts';
import { readScan } from '#core/scan/scan.ts';
import { Workshop } from '#core/simulate/simulate.ts';
import { writeStl } from '#core/simulate/write.ts';
import { cohortFile } from '#server/demo/past.ts';
import { solidKernel } from '../../src/files/solid-kernel.ts';
import { EXERCISES, STUDENTS, workshopOptions } from '../../src/seed/cast.ts';
import { PAST_SITTINGS, pastWork, recipeOf } from '../../src/seed/cohort.ts';
import { type CohortFile, packed, recipeDigest, unpacked } from '../../src/seed/cohort-file.ts';

const cohort = cohortFile('.') as CohortFile;
const past = pastWork();

describe('the weeks before', () => {
  it('are the same on every machine, and have every exercise that is not on the bench this week', () => {
    expect(pastWork()).toEqual(past);
    const used = new Set(past.map((w) => w.exercise));
    expect(EXERCISES.filter((e) => !used.has(e.id)).map((e) => e.id)).toEqual([
      'class2-24',
      'onlay-46',
      'three-quarter-26',
      'metal-46-exam',
    ]);
  });
  it('have each student most weeks, some away, some twice', () => {
    for (const s of STUDENTS) expect(past.filter((w) => w.student === s.id).length, s.id).toBeGreaterThan(7);
    const invited = PAST_SITTINGS.reduce(
      (n, t) => n + STUDENTS.filter((p) => !t.benches || t.benches.some((b) => p.bench.startsWith(b))).length,
      0,
    );
    const came = past.filter((w) => w.number === 1).length;
    expect(came / invited).toBeGreaterThan(0.88);
    expect(came).toBeLessThan(invited);
    expect(past.some((w) => w.number === 2)).toBe(true);
  });
  it('ship what was measured of each preparation, and a master of each exercise', () => {
    const cut = past.filter((w) => EXERCISES.find((e) => e.id === w.exercise)?.task);
    expect(cohort.measured.map((m) => m.work)).toEqual(cut);
    expect(Object.keys(cohort.masters).sort()).toEqual(EXERCISES.map((e) => e.id).sort());
  });
  it('are drawn as they were measured: no exercise aims elsewhere today than on the day it was cut', () => {
    const moved = cohort.measured.filter((m) => recipeDigest(recipeOf(m.work)) !== m.recipe).map((m) => m.work.exercise);
    // Cut them again: npm run cohort -- --again EXERCISE.
    expect([...new Set(moved)]).toEqual([]);
  });
  it('keep a reading as it was, to the last figure that counts', () => {
    const [first] = cohort.measured;
    const readings = unpacked(first.rows, cohort.names);
    expect(readings.length).toBeGreaterThan(300);
    expect(packed(readings, [...cohort.names], new Map(cohort.names.map((n, i) => [JSON.stringify(n), i])))).toEqual(first.rows);
  });
});

// The rest was measured the same way on the day it was made.
describe('one of them, cut and measured again', () => {
  it.each(['metal-37'])('%s reads as it is kept', async (exercise) => {
    const kept = cohort.measured.find((m) => m.work.exercise === exercise);
    const e = EXERCISES.find((q) => q.id === exercise);
    if (!kept || !e?.task) throw new Error(`nothing of ${exercise} is kept`);
    const shop = new Workshop(...workshopOptions(e, await solidKernel()));
    const bytes = writeStl(shop.cut(recipeOf(kept.work), kept.work.seed).scan.mesh);
    expect(createHash('sha256').update(bytes).digest('hex')).toBe(kept.scanSha256);
    const again = measure(e.task.kind, readScan(bytes).mesh, prepareMaster(shop.master.description, shop.master.meshes)).readings;
    const before = unpacked(kept.rows, cohort.names);
    // A record keeps what was read on its day: what the core learnt to read since is not in it, but nothing of it may be gone or have moved.
    const key = (r: { name: string; zone: string | null; stat: string }): string => `${r.name} ${r.zone} ${r.stat}`;
    const now = new Map(again.map((r) => [key(r), r]));
    const moved = before.filter((b) => {
      const r = now.get(key(b));
      if (!r || r.value === null || b.value === null) return r?.value !== b.value;
      return Math.abs(r.value - b.value) > 0.5 * Math.max(r.U, b.U) + 1e-4;
    });
    expect(moved.map(key)).toEqual([]);
    expect(before.length).toBeGreaterThan(300);
  });
});
