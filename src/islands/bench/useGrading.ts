import { useCallback, useState } from 'react';
import { call } from '#components/call.ts';
import type { BenchView, ScoreView } from '#contract/views.ts';
import type { HandMethod } from '#core/catalogue/terms.ts';
import type { Vec3 } from '#core/linalg/vec.ts';
import type { Place } from './lines.ts';
import type { OwnWord } from './reducer.ts';

interface Signed {
  readonly version: number;
  readonly total: number;
  readonly passed: boolean;
  readonly digest: string;
}

/** The score of an attempt, its signed versions, and every act that changes them. */
export function useGrading(view: BenchView) {
  const [score, setScore] = useState<ScoreView>(view.score);
  const [grades, setGrades] = useState(view.grades);
  const [released, setReleased] = useState(view.attempt.released);
  const [error, tell] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);

  /** True if the act was done; a refusal is shown as a notice. */
  const post = async (work: (act: <T>(name: string, payload: unknown) => Promise<T>) => Promise<void>): Promise<boolean> => {
    setBusy(true);
    tell(null);
    try {
      await work((name, payload) => call(`/api/attempts/${view.attempt.id}/${name}`, payload));
      return true;
    } catch (e) {
      tell((e as Error).message);
      return false;
    } finally {
      setBusy(false);
    }
  };
  /** Acts whose answer is the score that follows. */
  const rescore = (name: string, payload: unknown): Promise<boolean> => post(async (act) => setScore(await act<ScoreView>(name, payload)));

  const last = grades.at(-1);
  return {
    score,
    grades,
    released,
    error,
    busy,
    tell: useCallback((problem: string) => tell(problem), []),
    /** The score shown differs from the last signed one. */
    isChanged: last !== undefined && last.seen !== null && last.seen !== score.seen,
    judge: (line: string, word: { level?: number | null; made?: boolean | null }, reason: string | null) =>
      rescore('judge', { line, ...word, reason }),
    /** Records all critical errors as checked and not found. */
    clearCritical: () => rescore('judge', { none: 'critical' }),
    /** Null limits take the reading back. */
    readByHand: ({ reading, zone, stat }: Place, method: HandMethod, lo: number | null, hi: number | null) =>
      rescore('hand', { reading, zone, stat, method, lo, hi }),
    pin: (body: { remove: number } | { line: string; point: Vec3; note: string }) => rescore('pin', body),
    /** Measures the scan again with its size corrected, or as it is. The Tray shows how far that is. */
    correctSize: (correct: boolean) =>
      post(async () => {
        await call(`/api/scans/${view.measurement?.scan}/size`, { correct });
        window.location.assign(`/tray/${view.attempt.sitting_id}`);
      }),
    comment: (line: string, comment: string) => rescore('comment', { line, comment }),
    /** Signs; lines that are still open are decided first, with the given words. */
    sign: (words: readonly OwnWord[] = []) =>
      post(async (act) => {
        let { seen } = score;
        for (const w of words) {
          const next = await act<ScoreView>('judge', { line: w.line, ...w.word, reason: null });
          setScore(next);
          seen = next.seen;
        }
        const done = await act<Signed>('sign', { seen });
        const signed = { ...done, round: view.round, grader: 'you', signedAt: new Date().toISOString(), seen };
        setGrades((g) => [...g, signed]);
      }),
    release: () =>
      post(async (act) => {
        const { version } = await act<{ version: number }>('release', {});
        setReleased(version);
      }),
    withdraw: () =>
      post(async (act) => {
        await act('withdraw', {});
        setReleased(null);
      }),
    gradeOn: (measurement: number) =>
      post(async (act) => {
        await act('measurement', { measurement });
        window.location.reload();
      }),
  };
}

export type Grading = ReturnType<typeof useGrading>;
