export const SHOWN = ['last', 'mean', 'mastered'] as const;
export type Shown = (typeof SHOWN)[number];

/** What of a cohort is looked at; it stands in the address, so that a link shows the same. */
export interface Filters {
  readonly exercise: string;
  readonly group: string;
  readonly show: Shown;
}

export function fromAddress(search: string): Filters {
  const q = new URLSearchParams(search);
  const show = SHOWN.find((s) => s === q.get('show')) ?? 'last';
  return { exercise: q.get('exercise') ?? '', group: q.get('group') ?? '', show };
}

export function toAddress(f: Filters): string {
  const q = new URLSearchParams();
  if (f.exercise) q.set('exercise', f.exercise);
  if (f.group) q.set('group', f.group);
  if (f.show !== 'last') q.set('show', f.show);
  return q.size ? `?${q}` : '';
}
