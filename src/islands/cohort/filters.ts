export const SHOWN = ['last', 'mean', 'mastered'] as const;
export type Shown = (typeof SHOWN)[number];

/** What of a cohort is looked at; it stands in the address, so that a link shows the same. */
export interface Filters {
  readonly exercise: string;
  readonly group: string;
  /** Row of benches, “B2” of “B2-04”. */
  readonly bench: string;
  readonly grader: string;
  readonly show: Shown;
}

export function fromAddress(search: string): Filters {
  const q = new URLSearchParams(search);
  const show = SHOWN.find((s) => s === q.get('show')) ?? 'last';
  const of = (what: string): string => q.get(what) ?? '';
  return { exercise: of('exercise'), group: of('group'), bench: of('bench'), grader: of('grader'), show };
}

export function toAddress(f: Filters): string {
  const q = new URLSearchParams();
  for (const what of ['exercise', 'group', 'bench', 'grader'] as const) if (f[what]) q.set(what, f[what]);
  if (f.show !== 'last') q.set('show', f.show);
  return q.size ? `?${q}` : '';
}

/** The row that a bench stands in, by the part of its name before the dash; a bench without one is its own row. */
export const rowOf = (bench: string | null): string => bench?.split('-')[0] ?? '';
