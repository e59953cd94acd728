import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { limitless, standardFrom } from '#contract/standard.ts';
import { fromAddress, toAddress } from '../../src/islands/cohort/filters.ts';
import { begin, differences, reduce } from '../../src/islands/standard/state.ts';

const BODY = standardFrom(JSON.parse(readFileSync('data/standards/metal-examination.json', 'utf8')), 'a standard');
const place = { reading: 'margin.width', zone: 'facial', stat: 'median' } as const;

describe('a standard that is edited', () => {
  const [line] = BODY.lines;
  const [field] = line.fields;
  it('a figure that the course gives is the course’s, and undone it is the school’s again', () => {
    const s = reduce(begin(BODY), { type: 'end', field: field.id, end: 'lo', value: 0.9 });
    expect(s.body.lines[0].fields[0]).toMatchObject({ band: { ...field.band, lo: 0.9 }, from: 'course' });
    expect(differences(s.saved, s.body).length).toBeGreaterThan(0);
    expect(reduce(s, { type: 'undo' }).body).toEqual(BODY);
  });
  it('a critical error’s limit is changed like any figure', () => {
    const [error] = BODY.critical;
    const s = reduce(begin(BODY), { type: 'end', field: error.id, end: 'hi', value: 0.33 });
    expect(s.body.critical[0].allowed.hi).toBe(0.33);
    expect(differences(s.saved, s.body).map((d) => d.what)).toContain(error.title);
  });
  it('a critical error is added with its effect, is no standard to keep until it has a limit, and goes again', () => {
    let s = reduce(begin(BODY), { type: 'add-error', title: 'Margin nearly gone', place });
    const own = s.body.critical[s.body.critical.length - 1];
    expect([own.effect, own.from, limitless(s.body)]).toEqual([{ kind: 'fail' }, 'course', ['Margin nearly gone']]);
    s = reduce(s, { type: 'end', field: own.id, end: 'lo', value: 0.1 });
    s = reduce(s, { type: 'effect', error: own.id, effect: { kind: 'deduct', points: 10 } });
    expect(limitless(s.body)).toEqual([]);
    expect(standardFrom(JSON.parse(JSON.stringify(s.body)), 'edited').critical.at(-1)).toMatchObject({
      allowed: { lo: 0.1 },
      effect: { points: 10 },
    });
    expect(differences(BODY, s.body)).toEqual([{ what: 'Margin nearly gone', before: '', after: '0.1 to …' }]);
    expect(reduce(s, { type: 'effect', error: own.id, effect: null }).body).toEqual(BODY);
  });
  it('lines and readings that are added have names of their own and stay valid', () => {
    let s = begin(BODY);
    s = reduce(s, { type: 'add-line', title: 'Our line', place });
    s = reduce(s, { type: 'add-line', title: 'Our line', place });
    s = reduce(s, { type: 'add-field', line: line.id, place });
    expect(() => standardFrom(JSON.parse(JSON.stringify(s.body)), 'edited')).not.toThrow();
    expect(s.body.lines.slice(-2).map((l) => l.id)).toEqual(['our-line', 'our-line-2']);
    s = reduce(s, { type: 'remove-line', line: 'our-line' });
    expect(s.body.lines.map((l) => l.id)).not.toContain('our-line');
    expect(differences(BODY, s.body).map((d) => d.after)).toContain('new line');
  });
  it('a removed line is told as gone; what is kept is no change any more', () => {
    const s = reduce(begin(BODY), { type: 'remove-line', line: line.id });
    expect(differences(s.saved, s.body)).toEqual([{ what: line.title, before: 'there', after: 'gone' }]);
    const kept = reduce(s, { type: 'kept' });
    expect(differences(kept.saved, kept.body)).toEqual([]);
  });
});

describe('what of a cohort is looked at', () => {
  it.each(['', '?exercise=e1', '?exercise=e1&group=A+2&bench=B2&grader=ines&show=mean', '?show=mastered'])(
    '%j stands in the address',
    (address) => expect(toAddress(fromAddress(address))).toBe(address),
  );
  it('nonsense is as usual', () =>
    expect(fromAddress('?show=all')).toEqual({ exercise: '', group: '', bench: '', grader: '', show: 'last' }));
});
