import { describe, expect, it } from 'vitest';
import { sql } from '../database/port.ts';
import { matchStudent } from './match.ts';

const students = [
  { id: 'H01', name: 'Ada Quill', bench: 'B1-01' },
  { id: 'H11', name: 'Kaya Demir', bench: 'B1-11' },
  { id: 'H17', name: 'Quinn Arden', bench: 'B2-05' },
  { id: 'H28', name: 'Björn Falk', bench: null },
  { id: 'Σ4', name: '–', bench: '…' },
  { id: '田中', name: '田中 花子', bench: null },
];

describe('a file finds its student', () => {
  it.each([
    ['H11_16.stl', 'H11'],
    ['scan-h01-final.ply', 'H01'],
    ['B2-05 molar.obj', 'H17'],
    ['b2_05.stl', 'H17'],
    ['Demir_Kaya.stl', 'H11'],
    ['quinn arden 2.stl', 'H17'],
    ['Bjorn_Falk.stl', 'H28'],
    ['BJÖRN FALK.ply', 'H28'],
    ['花子 田中.stl', '田中'],
  ])('%s', (name, id) => expect(matchStudent(name, students)?.student.id).toBe(id));
  it.each([
    ['H11_16.stl', 'number'],
    ['B2-05.stl.gz', 'bench'],
    ['Kaya Demir.ply', 'name'],
    // The number identifies more surely than bench or name.
    ['H11 Kaya Demir B1-11.stl', 'number'],
  ])('%s by its %s', (name, by) => expect(matchStudent(name, students)?.by).toBe(by));
  it.each([['H110.stl'], ['scan.stl'], ['H01_H11.stl'], ['Quinn.stl'], ['H1.stl'], ['scan (3).stl'], ['- 4 -.stl'], ['.stl']])(
    '%s names no one',
    (name) => expect(matchStudent(name, students)).toBeNull(),
  );
});

describe('statements', () => {
  it('never take a value into their text', () =>
    expect(sql`select ${'x; drop table person'} as a, ${3}`).toEqual({
      text: 'select $1 as a, $2',
      parameters: ['x; drop table person', 3],
    }));
  it('refuse undefined', () => expect(() => sql`select ${undefined}`).toThrow(/undefined/));
  it('send objects as JSON text', () => expect(sql`select ${{ a: 1 }}`.parameters).toEqual(['{"a":1}']));
});
