import { describe, expect, it } from 'vitest';
import { ACCESS, type Action, may, ROLES } from './table.ts';

const student = { id: 'H01', role: 'student' } as const;

describe('who may do what', () => {
  it('nobody without a sign-in', () => {
    for (const a of Object.keys(ACCESS) as Action[]) expect(may(null, a, { studentId: 'H01', released: true })).toBe(false);
  });
  it('a student sees own released work and nothing else', () => {
    expect(may(student, 'attempt.see', { studentId: 'H01', released: true })).toBe(true);
    expect(may(student, 'attempt.see', { studentId: 'H01', released: false })).toBe(false);
    expect(may(student, 'attempt.see', { studentId: 'H02', released: true })).toBe(false);
    expect(may(student, 'attempt.see')).toBe(false);
  });
  it('a student changes nothing', () => {
    for (const a of ['attempt.judge', 'attempt.sign', 'attempt.release', 'scan.bring', 'scan.steer', 'tray.see'] as const)
      expect(may(student, a, { studentId: 'H01', released: true })).toBe(false);
  });
  it('an assistant brings scans and does not grade', () => {
    const assistant = { id: 'A1', role: 'assistant' } as const;
    expect(may(assistant, 'scan.bring')).toBe(true);
    expect(may(assistant, 'attempt.judge')).toBe(false);
    expect(may(assistant, 'attempt.see', { studentId: 'H01', released: true })).toBe(false);
  });
  it('every action is open to someone', () => {
    for (const a of Object.keys(ACCESS) as Action[])
      expect(ROLES.some((role) => may({ id: 'x', role }, a, { studentId: 'x', released: true }))).toBe(true);
  });
});
