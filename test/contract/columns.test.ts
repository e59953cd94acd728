import Papa from 'papaparse';
import { describe, expect, it } from 'vitest';
import { classesOf, classLines } from '#contract/one-roster.ts';
import { matchColumns, rowsOf, splitName, textOf } from '#contract/roster-columns.ts';

it('OneRoster’s own names are known, and what schools call them', () => {
  expect(matchColumns(['sourcedId', 'username', 'givenName', 'familyName', 'email', 'role'])).toEqual({
    id: 'sourcedId',
    signIn: 'username',
    given: 'givenName',
    family: 'familyName',
    email: 'email',
    role: 'role',
  });
  expect(matchColumns(['Matrikelnummer', 'Vorname', 'Nachname', 'E-Mail', 'Gruppe'])).toEqual({
    id: 'Matrikelnummer',
    given: 'Vorname',
    family: 'Nachname',
    email: 'E-Mail',
    group: 'Gruppe',
  });
  expect(matchColumns(['Student Number', 'Full name'])).toEqual({ id: 'Student Number', name: 'Full name' });
});

it('a messy file: semicolons, umlauts of a Western code page, a missing column, empty lines, a role in other words', () => {
  const text = 'Student number;Name;Role\r\nA1;"Müller, Jürgen";\r\n;;\r\nA2;Zoé Du Lac;Teacher\r\n';
  const bytes = Uint8Array.from(text, (c) => c.charCodeAt(0));
  expect(textOf(bytes)).toBe(text);
  const { data, meta } = Papa.parse<Record<string, string>>(textOf(bytes), { header: true, skipEmptyLines: false });
  expect(meta.delimiter).toBe(';');
  const rows = rowsOf(data, matchColumns(meta.fields ?? []));
  expect(rows.map((r) => [r.line, r.id, r.given, r.family, r.role, r.email])).toEqual([
    [2, 'A1', 'Jürgen', 'Müller', 'student', ''],
    [4, 'A2', 'Zoé Du', 'Lac', 'instructor', ''],
  ]);
});

it('text is read by its mark, as UTF-8 where it is that, and as the Western code page otherwise', () => {
  expect(textOf(new TextEncoder().encode('Øst'))).toBe('Øst');
  expect(textOf(Uint8Array.from([0xff, 0xfe, 0xd8, 0x00]))).toBe('Ø');
  expect(textOf(Uint8Array.from([0xfe, 0xff, 0x00, 0xd8]))).toBe('Ø');
  expect(textOf(Uint8Array.from([0xd8]))).toBe('Ø');
});

it('names of one word are family names', () => expect(splitName('Cher')).toEqual({ given: '', family: 'Cher' }));

describe('a OneRoster archive', () => {
  const users = [
    { sourcedId: 'u1', status: 'active', enabledUser: 'true', username: 'ann', givenName: 'Ann', familyName: 'Ek', email: '' },
    { sourcedId: 'u2', status: 'active', enabledUser: 'false', username: 'bo', givenName: 'Bo', familyName: 'Ro', email: '' },
    { sourcedId: 'u3', status: 'tobedeleted', enabledUser: 'true', username: 'cy', givenName: 'Cy', familyName: 'Oz', email: '' },
    { sourcedId: 'u4', status: '', enabledUser: '', username: 'di', givenName: 'Di', familyName: 'Um', email: '' },
  ];
  const enrollments = [
    { classSourcedId: 'small', status: '', userSourcedId: 'u1', role: 'student' },
    { classSourcedId: 'large', status: '', userSourcedId: 'u1', role: 'student' },
    { classSourcedId: 'large', status: '', userSourcedId: 'u2', role: 'student' },
    { classSourcedId: 'large', status: '', userSourcedId: 'u4', role: 'teacher' },
    { classSourcedId: 'gone', status: 'tobedeleted', userSourcedId: 'u4', role: 'student' },
  ];
  it('offers its classes, the largest first, and takes one class without those who left', () => {
    const t = { users, enrollments, classes: [{ sourcedId: 'large', title: 'Practice 2' }] };
    expect(classesOf(t)).toEqual([
      { id: 'large', title: 'Practice 2', people: 3 },
      { id: 'small', title: 'small', people: 1 },
    ]);
    const rows = rowsOf(classLines(t, 'large'), matchColumns(Object.keys(classLines(t, 'large')[0])));
    expect(rows.map((r) => [r.id, r.family, r.signIn, r.role])).toEqual([
      ['u1', 'Ek', 'ann', 'student'],
      ['u4', 'Um', 'di', 'instructor'],
    ]);
  });
  it('without enrollments takes everybody with the role of roles.csv', () => {
    const t = { users, roles: [{ userSourcedId: 'u4', role: 'administrator' }] };
    expect(classesOf(t)).toEqual([]);
    expect(classLines(t, null).map((l) => [l.sourcedId, l.role])).toEqual([
      ['u1', ''],
      ['u4', 'administrator'],
    ]);
  });
});
