import { expect, it } from 'vitest';
import { type Happening, stepStates, type Word } from './bench-clock.ts';

const STEPS = [
  { id: 'occlusal', number: 1, needsWord: false },
  { id: 'axial', number: 2, needsWord: true },
];
const at = (clock: string): string => `2026-11-02T${clock}:00Z`;
const event = (kind: Happening['kind'], clock: string, step = 'occlusal'): Happening => ({ kind, step, at: at(clock) });
const word = (clock: string, step: string, said: Word['word'] = 'go-on'): Word => ({
  step,
  word: said,
  initials: 'IC',
  note: '',
  at: at(clock),
});
const states = (events: readonly Happening[], words: readonly Word[] = []) => {
  const [occlusal, axial] = stepStates(STEPS, events, words);
  return { occlusal, axial };
};

it('a step counts the minutes of all its turns, and not those between them', () => {
  const { occlusal, axial } = states([event('begin', '09:00'), event('pause', '09:05'), event('begin', '09:10'), event('done', '09:12')]);
  expect(occlusal).toMatchObject({ minutes: 7, turns: 2, isDone: true, since: null });
  expect(axial).toMatchObject({ minutes: 0, turns: 0, isDone: false, needsWord: true });
});
it('beginning the next one ends the one before; what runs says since when', () => {
  const { occlusal, axial } = states([event('begin', '09:00'), event('begin', '09:08', 'axial')]);
  expect(occlusal).toMatchObject({ minutes: 8, isDone: false, since: null });
  expect(axial).toMatchObject({ minutes: 0, turns: 1, since: at('09:08') });
});
it('a clock left running counts three hours, and one that was set back counts nothing', () => {
  expect(states([event('begin', '08:00'), event('done', '20:00')]).occlusal.minutes).toBe(180);
  expect(states([event('begin', '09:00'), event('done', '08:00')]).occlusal.minutes).toBe(0);
});
it('begun again a step is open again', () => {
  const { occlusal } = states([event('begin', '09:00'), event('done', '09:05'), event('begin', '09:20'), event('pause', '09:21')]);
  expect(occlusal).toMatchObject({ minutes: 6, turns: 2, isDone: false });
});
it('a new tooth begins every step from nothing and keeps the minutes', () => {
  const { occlusal } = states([event('begin', '09:00'), event('done', '09:05'), event('tooth', '09:06')]);
  expect(occlusal).toMatchObject({ minutes: 5, isDone: false });
});
it('a question is open until a later word on its own step', () => {
  const asked = [event('begin', '09:00', 'axial'), event('ask', '09:10', 'axial')];
  expect(states(asked).axial.isAsked).toBe(true);
  expect(states(asked, [word('09:05', 'axial')]).axial.isAsked).toBe(true);
  expect(states(asked, [word('09:12', 'occlusal')]).axial.isAsked).toBe(true);
  expect(states(asked, [word('09:12', 'axial', 'correct')]).axial).toMatchObject({ isAsked: false, words: [{ word: 'correct' }] });
  expect(states([...asked, event('ask', '09:20', 'axial')], [word('09:12', 'axial')]).axial.isAsked).toBe(true);
});
it('what is written or asked does not stop the clock', () => {
  const { occlusal } = states([event('begin', '09:00'), event('entry', '09:02'), event('ask', '09:03'), event('done', '09:06')]);
  expect(occlusal.minutes).toBe(6);
});
