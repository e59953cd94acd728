import { describe, expect, it } from 'vitest';
import { BENCH_KEYS } from '#words/keys.ts';
import { benchKeys } from '../../src/islands/bench/benchKeys.ts';

/** The Bench with everything that a key can do written down instead of done. */
function bench(change: { canGrade?: boolean; criterion?: boolean; grades?: number } = {}) {
  const did: string[] = [];
  const note =
    (what: string) =>
    (...a: unknown[]): void => {
      did.push([what, ...a.map((x) => JSON.stringify(x))].join(' '));
    };
  const acts = new Proxy({ criterion: (change.criterion ?? true) ? {} : undefined } as Record<string, unknown>, {
    get: (own, name: string) => (name in own ? own[name] : note(name)),
  });
  const keys = benchKeys({
    acts,
    act: note('act'),
    grading: { clearCritical: note('clearCritical'), grades: Array.from({ length: change.grades ?? 1 }) },
    canGrade: change.canGrade ?? true,
    next: 7,
    previous: null,
    put: note('put'),
  } as unknown as Parameters<typeof benchKeys>[0]);
  const press = (id: string): string => {
    did.length = 0;
    (keys.acts as Record<string, () => unknown>)[id]();
    return did.join('; ');
  };
  const fixed = (key: string): string => {
    did.length = 0;
    (keys.fixed as Record<string, () => unknown>)[key]();
    return did.join('; ');
  };
  return { keys, press, fixed };
}

describe('keys of the Bench', () => {
  it('every act that has a letter does something for whoever grades', () => {
    const { press } = bench();
    for (const [id] of BENCH_KEYS) expect(press(id), id).not.toBe('');
  });
  it('whoever only looks on signs, releases and decides nothing by a key', () => {
    const { press } = bench({ canGrade: false });
    for (const id of ['by-hand', 'comment', 'none-made', 'sign', 'sign-next', 'release']) expect(press(id), id).toBe('');
    // Looking is anybody's.
    expect(press('occlusal')).toBe('act {"do":"look","from":{"name":"occlusal"}}');
    expect(press('next')).toBe('open 7');
  });
  it('signs, or signs and goes on', () => {
    const { press } = bench();
    expect([press('sign'), press('sign-next')]).toEqual(['sign false', 'sign true']);
  });
  it('nothing is released before it was signed', () => {
    expect(bench({ grades: 0 }).press('release')).toBe('');
    expect(bench({ grades: 2 }).press('release')).toBe('release');
  });
  it('a comment belongs to a criterion: a critical error has none', () => {
    expect(bench({ criterion: false }).press('comment')).toBe('');
    expect(bench().press('comment')).toBe('act {"do":"comment","open":true}');
  });
  it('arrows turn the section and go from line to line; with Shift they move the probe', () => {
    const { fixed } = bench();
    expect([fixed('ArrowLeft'), fixed('ArrowRight')]).toEqual(['move {"do":"turn","by":-5}', 'move {"do":"turn","by":5}']);
    expect([fixed('ArrowUp'), fixed('ArrowDown')]).toEqual(['move {"do":"step","by":-1}', 'move {"do":"step","by":1}']);
    expect([fixed('Shift+ArrowUp'), fixed('Shift+ArrowRight')]).toEqual(['shift 0 1', 'shift 1 0']);
  });
  it('figures give a level of one’s own, the highest by 3', () => {
    const { fixed } = bench();
    for (const level of [0, 1, 2, 3]) expect(fixed(String(level))).toBe(`choose ${level}`);
  });
  it('Escape closes what is open and puts the instrument down', () => expect(bench().fixed('Escape')).toBe('act {"do":"close"}; put'));
});
