import type { TrayRow } from './tray-view.ts';

export const SORT_KEYS = ['student', 'bench', 'state', 'score'] as const;
export type SortKey = (typeof SORT_KEYS)[number];

/** Which attempts of a sitting are listed, and in what order; kept in the page's address, so that the Bench goes on in the same list. */
export interface TrayList {
  /** A state's word, or `all`. */
  readonly filter: string;
  /** A grader's id, `everyone` or `nobody`. */
  readonly whose: string;
  readonly sort: SortKey;
}

export const WHOLE_LIST: TrayList = { filter: 'all', whose: 'everyone', sort: 'student' };

const ORDER = [
  'unmatched',
  'failed',
  'cancelled',
  'measuring',
  'arrived',
  'stage',
  'no-scan',
  'eye',
  'ready',
  'measured',
  'signed',
  'released',
];

type Named = Pick<TrayRow, 'word'>;
type Listed = Pick<TrayRow, 'word' | 'grader_id' | 'student_name' | 'bench' | 'total' | 'grade_total'>;

export function listFrom(query: URLSearchParams): TrayList {
  const sort = SORT_KEYS.find((k) => k === query.get('sort')) ?? WHOLE_LIST.sort;
  return { filter: query.get('show') ?? WHOLE_LIST.filter, whose: query.get('of') ?? WHOLE_LIST.whose, sort };
}

/** The address's query for a list; empty for the whole list. */
export function queryOf(list: TrayList): string {
  const q = new URLSearchParams();
  if (list.filter !== WHOLE_LIST.filter) q.set('show', list.filter);
  if (list.whose !== WHOLE_LIST.whose) q.set('of', list.whose);
  if (list.sort !== WHOLE_LIST.sort) q.set('sort', list.sort);
  const text = q.toString();
  return text && `?${text}`;
}

/** Whether a row belongs to a grader, to nobody, or is among everyone's. */
export const isOf = (r: Pick<TrayRow, 'grader_id'>, whose: string): boolean =>
  whose === 'everyone' || (whose === 'nobody' ? r.grader_id === null : r.grader_id === whose);

const isListed = (r: Pick<Listed, 'word' | 'grader_id'>, list: TrayList): boolean =>
  (list.filter === 'all' || r.word === list.filter) && isOf(r, list.whose);

/** Number of rows in each state, in the order of urgency. */
export function countByState(rows: readonly Named[]): [string, number][] {
  return ORDER.map((w): [string, number] => [w, rows.filter((r) => r.word === w).length]).filter(([, n]) => n > 0);
}

export function sorted<R extends Listed>(rows: readonly R[], key: SortKey): R[] {
  const name = (a: R, b: R): number => (a.student_name ?? '').localeCompare(b.student_name ?? '');
  const by: Record<SortKey, (a: R, b: R) => number> = {
    student: name,
    bench: (a, b) => (a.bench ?? '').localeCompare(b.bench ?? '') || name(a, b),
    state: (a, b) => ORDER.indexOf(a.word) - ORDER.indexOf(b.word) || name(a, b),
    score: (a, b) => (a.grade_total ?? a.total ?? 101) - (b.grade_total ?? b.total ?? 101) || name(a, b),
  };
  return [...rows].sort(by[key]);
}

export const listed = <R extends Listed>(rows: readonly R[], list: TrayList): R[] =>
  sorted(
    rows.filter((r) => isListed(r, list)),
    list.sort,
  );

export interface Neighbours {
  readonly previous: number | null;
  readonly next: number | null;
  /** The next attempt of the list, round and round, that can be graded and that nobody has signed. */
  readonly nextUnsigned: number | null;
}

/** Attempts before and after one in a list; the one itself counts as listed even if a decision has moved it to another state. */
export function neighboursIn(
  rows: readonly (Listed & Pick<TrayRow, 'attempt_id' | 'state' | 'step'>)[],
  list: TrayList,
  attempt: number,
): Neighbours {
  const own = sorted(
    rows.filter((r) => r.attempt_id !== null && (r.attempt_id === attempt || isListed(r, list))),
    list.sort,
  );
  const at = own.findIndex((r) => r.attempt_id === attempt);
  const after = [...own.slice(at + 1), ...own.slice(0, Math.max(0, at))];
  const unsigned = after.find(
    (r) => r.grade_total === null && r.step === 'final' && (r.state === 'measured' || r.state === 'no-scan') && r.attempt_id !== attempt,
  );
  return {
    previous: own[at - 1]?.attempt_id ?? null,
    next: own[at + 1]?.attempt_id ?? null,
    nextUnsigned: unsigned?.attempt_id ?? null,
  };
}
