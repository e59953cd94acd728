import Papa from 'papaparse';
import { expect, it } from 'vitest';
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
