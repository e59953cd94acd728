import { describe, expect, it } from 'vitest';
import { ACCESS, type Action, coursesFor, may, type Person, ROLES, type Role } from './table.ts';

const as = (id: string, ...roles: Role[]): Person => ({ id, name: id, roles: { a: roles } });
const student = as('H01', 'student');
const own = { course: 'a', student: 'H01' };
const all = Object.keys(ACCESS) as Action[];

describe('who may do what', () => {
  it('nobody without a sign-in, nobody of another course', () => {
    const stranger: Person = { ...student, roles: { b: ['director', 'student'] } };
    for (const a of all) {
      expect(may(null, a, { ...own, isReleased: true })).toBe(false);
      expect(may(stranger, a, { ...own, isReleased: true }), a).toBe(false);
    }
  });
  it('a student sees own released work and nothing else', () => {
    expect(may(student, 'attempt.see', { ...own, isReleased: true })).toBe(true);
    expect(may(student, 'attempt.see', own)).toBe(false);
    expect(may(student, 'attempt.see', { course: 'a', student: 'H02', isReleased: true })).toBe(false);
    expect(may(student, 'attempt.see', { course: 'a' })).toBe(false);
  });
  it('a student changes nothing', () => {
    for (const a of ['attempt.judge', 'attempt.sign', 'attempt.release', 'scan.bring', 'scan.steer', 'tray.see', 'score.see'] as const)
      expect(may(student, a, { ...own, isReleased: true })).toBe(false);
  });
  it('an assistant brings scans, does not grade and sees no scores', () => {
    const assistant = as('A1', 'assistant');
    expect(may(assistant, 'scan.bring', { course: 'a' })).toBe(true);
    for (const a of ['attempt.judge', 'score.see', 'attempt.see', 'trail.list'] as const)
      expect(may(assistant, a, { course: 'a' })).toBe(false);
  });
  it('one person may have several roles, each in its course', () => {
    const both: Person = { id: 'X', name: 'X', roles: { a: ['student'], b: ['instructor', 'assistant'] } };
    expect(coursesFor(both, 'attempt.judge')).toEqual(['b']);
    expect(may(both, 'scan.bring', { course: 'b' })).toBe(true);
    expect(may(both, 'scan.bring', { course: 'a' })).toBe(false);
  });
  it('every action is open to someone', () => {
    for (const a of all)
      expect(
        ROLES.some((role) => may(as('x', role), a, { course: 'a', student: 'x', isReleased: true })),
        a,
      ).toBe(true);
  });
});
