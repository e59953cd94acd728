import type { BenchKey } from '#words/keys.ts';
import type { BenchAction } from './reducer.ts';
import type { useActs } from './useActs.ts';
import type { useGrading } from './useGrading.ts';

interface Parts {
  readonly acts: ReturnType<typeof useActs>;
  readonly act: (a: BenchAction) => void;
  readonly grading: ReturnType<typeof useGrading>;
  readonly canGrade: boolean;
  readonly next: number | null;
  readonly previous: number | null;
  readonly put: () => void;
}

/** What each act that has a letter does, and each key that keeps its meaning. */
export function benchKeys({ acts, act, grading, canGrade, next, previous, put }: Parts) {
  const { move } = acts;
  const letters: Record<BenchKey, () => unknown> = {
    'next-open': () => move({ do: 'next-open' }),
    'by-hand': () => canGrade && move({ do: 'next-place' }),
    comment: () => canGrade && acts.criterion && act({ do: 'comment', open: true }),
    'not-made': () => acts.decide(false),
    made: () => acts.decide(true),
    'none-made': () => canGrade && void grading.clearCritical(),
    sign: () => canGrade && void acts.sign(false),
    'sign-next': () => canGrade && void acts.sign(true),
    release: () => canGrade && grading.grades.length > 0 && void acts.release(),
    next: () => acts.open(next),
    previous: () => acts.open(previous),
    occlusal: () => act({ do: 'look', from: { name: 'occlusal' } }),
    facial: () => act({ do: 'look', from: { name: 'facial' } }),
    lingual: () => act({ do: 'look', from: { name: 'lingual' } }),
    mesial: () => act({ do: 'look', from: { name: 'mesial' } }),
    distal: () => act({ do: 'look', from: { name: 'distal' } }),
    master: () => act({ do: 'show', what: 'master' }),
    opposing: () => act({ do: 'show', what: 'opposing' }),
    depth: () => act({ do: 'show', what: 'depth' }),
    parts: () => act({ do: 'show', what: 'parts' }),
    probe: () => acts.take('probe'),
    gauge: () => acts.take('gauge'),
    ring: () => act({ do: 'ring' }),
    side: () => act({ do: 'side' }),
  };
  return {
    acts: letters,
    fixed: {
      ArrowDown: () => move({ do: 'step', by: 1 }),
      ArrowUp: () => move({ do: 'step', by: -1 }),
      ArrowLeft: () => move({ do: 'turn', by: -5 }),
      ArrowRight: () => move({ do: 'turn', by: 5 }),
      'Shift+ArrowLeft': () => acts.shift(-1, 0),
      'Shift+ArrowRight': () => acts.shift(1, 0),
      'Shift+ArrowUp': () => acts.shift(0, 1),
      'Shift+ArrowDown': () => acts.shift(0, -1),
      Enter: () => void acts.confirm(),
      '0': () => acts.choose(0),
      '1': () => acts.choose(1),
      '2': () => acts.choose(2),
      '3': () => acts.choose(3),
      '?': () => act({ do: 'help', open: true }),
      Escape: () => {
        act({ do: 'close' });
        put();
      },
    },
  };
}
