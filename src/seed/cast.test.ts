import { existsSync, readdirSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { matchStudent } from '#server/scans/match.ts';
import { EXERCISES, HANDS, handOf, SCANS, SITTINGS, STAFF, STUDENTS } from './cast.ts';

const once = (values: readonly string[]): void => expect([...new Set(values)]).toEqual([...values]);

describe('the people of the demo', () => {
  it('have numbers, names and benches of their own', () => {
    once(STUDENTS.map((s) => s.id));
    once(STUDENTS.map((s) => s.name));
    once(STUDENTS.map((s) => s.bench));
    once(STAFF.map((s) => s.id));
    expect(STUDENTS.length).toBe(36);
  });
  it('are found by number, bench or name in a file’s name, and never mistaken for one another', () => {
    for (const s of STUDENTS) {
      expect(matchStudent(`${s.id}_16.stl`, STUDENTS)?.student.id).toBe(s.id);
      expect(matchStudent(`${s.bench} crown.stl`, STUDENTS)?.student.id).toBe(s.id);
      expect(matchStudent(`${s.name.toLowerCase().replace(' ', '_')}.ply`, STUDENTS)?.student.id).toBe(s.id);
    }
  });
  it('cut with habits of their own where they have some, and evenly where they have none', () => {
    for (const id of Object.keys(HANDS)) expect(handOf(id)).toBe(HANDS[id]);
    expect(handOf('H30')).toEqual(handOf('H30'));
  });
});

describe('its course', () => {
  it('has the exercise, rubric and student that each entry refers to', () => {
    for (const e of EXERCISES) expect(existsSync(`data/rubrics/${e.rubric}.json`), e.rubric).toBe(true);
    for (const s of SITTINGS)
      expect(
        EXERCISES.some((e) => e.id === s.exercise),
        s.id,
      ).toBe(true);
    for (const s of SCANS) {
      expect(
        SITTINGS.some((q) => q.id === s.sitting),
        s.sitting,
      ).toBe(true);
      expect(
        STUDENTS.some((q) => q.id === s.student),
        s.student,
      ).toBe(true);
    }
    once(SITTINGS.map((s) => s.id));
    once(EXERCISES.map((e) => e.id));
  });
  it('has an exercise for every rubric that ships', () =>
    expect(new Set(EXERCISES.map((e) => e.rubric))).toEqual(new Set(readdirSync('data/rubrics').map((f) => f.replace('.json', '')))));
  it('has the week of each sitting in its title', () => {
    const first = Date.parse(SITTINGS[0].heldOn);
    for (const s of SITTINGS) {
      const week = 1 + Math.floor((Date.parse(s.heldOn) - first) / (7 * 86_400_000));
      expect(s.title, s.id).toContain(`week ${week}`);
      expect(s.id).toMatch(new RegExp(`-w${week}$`));
    }
    expect([...SITTINGS].sort((a, b) => a.heldOn.localeCompare(b.heldOn))).toEqual([...SITTINGS]);
  });
  it('brings each student once per sitting, later attempts later', () => {
    once(SCANS.map((s) => `${s.student} ${s.sitting}`));
    const heldOn = new Map<string, string>(SITTINGS.map((s) => [s.id, s.heldOn]));
    const exercise = new Map<string, string>(SITTINGS.map((s) => [s.id, s.exercise]));
    for (const a of SCANS)
      for (const b of SCANS)
        if (a.student === b.student && exercise.get(a.sitting) === exercise.get(b.sitting) && a.attempt < b.attempt)
          expect((heldOn.get(a.sitting) as string) < (heldOn.get(b.sitting) as string)).toBe(true);
  });
  it('an exercise’s title and master name its own tooth', () => {
    for (const e of EXERCISES) {
      expect(e.title).toContain(e.tooth);
      // FDI: quadrants 1 to 4 hold permanent teeth, 5 to 8 the primary ones in the same places.
      const quadrant = ((Number(e.tooth[0]) - 1) % 4) + 1;
      expect(e.master).toMatch([1, 2].includes(quadrant) ? /^Upper/ : /^Lower/);
      expect(e.master).toMatch([1, 4].includes(quadrant) ? /right/ : /left/);
      expect(e.master.includes('primary')).toBe(Number(e.tooth[0]) > 4);
    }
  });
});
