import { expect, it } from 'vitest';
import { USUAL_SETTINGS } from '#contract/settings.ts';
import { valueWords } from '#words/readings.ts';
import { dayWords, setWriting, toothWords } from '#words/writing.ts';

// ISO 3950 against the two other notations, from the tables that dentists learn.
it.each([
  ['18', '1', '8┘'],
  ['11', '8', '1┘'],
  ['21', '9', '└1'],
  ['28', '16', '└8'],
  ['38', '17', '┌8'],
  ['31', '24', '┌1'],
  ['41', '25', '1┐'],
  ['48', '32', '8┐'],
  ['16', '3', '6┘'],
  ['36', '19', '┌6'],
  ['55', 'A', 'E┘'],
  ['51', 'E', 'A┘'],
  ['61', 'F', '└A'],
  ['65', 'J', '└E'],
  ['75', 'K', '┌E'],
  ['71', 'O', '┌A'],
  ['81', 'P', 'A┐'],
  ['85', 'T', 'E┐'],
])('%s is %s and %s', (fdi, universal, palmer) => {
  expect([toothWords(fdi, 'fdi'), toothWords(fdi, 'universal'), toothWords(fdi, 'palmer')]).toEqual([fdi, universal, palmer]);
});
it('what is no tooth stays as it is', () => {
  expect(toothWords('19', 'universal')).toBe('19');
  expect(toothWords('arch', 'palmer')).toBe('arch');
});
it('days are written as their reader writes them', () => {
  expect([
    dayWords('2026-03-09', 'short', 'en-US'),
    dayWords('2026-03-09', 'short', 'de-DE'),
    dayWords('2026-03-09T23:30:00Z', 'short', 'sv-SE'),
  ]).toEqual(['03/09/2026', '09.03.2026', '2026-03-09']);
  expect(dayWords('some day')).toBe('some day');
});
it('readings in millimetres have as many decimals as their reader wants, angles keep theirs', () => {
  setWriting({ ...USUAL_SETTINGS, digits: 1 });
  expect([valueWords(1.268, 0.023, 'mm'), valueWords(6.34, 0.5, 'deg')]).toEqual(['1.3 ± 0.1 mm', '6.3 ± 0.5 °']);
  setWriting(USUAL_SETTINGS);
  expect(valueWords(1.268, 0.023, 'mm')).toBe('1.27 ± 0.02 mm');
});
