import type { CriterionView, ScoreView } from '#contract/views.ts';
import type { OwnLine, SelfForm, WorkView } from '#contract/work.ts';

export interface Finding {
  readonly number: number;
  readonly criterion: CriterionView;
  readonly lost: number;
}

/** Points from which a loss is told. */
const TOLD = 0.05;

const lostOn = (c: CriterionView): number => (c.verdict === 'skipped' ? 0 : (c.lost ?? 0));

/** Criteria that cost marks, the dearest first, numbered as on the tooth. */
export const findingsOf = (score: Pick<ScoreView, 'criteria'>): Finding[] =>
  score.criteria
    .map((criterion) => ({ criterion, lost: lostOn(criterion) }))
    .filter((f) => f.lost > TOLD)
    .sort((a, b) => b.lost - a.lost)
    .map((f, i) => ({ ...f, number: i + 1 }));

export const goodOf = (score: Pick<ScoreView, 'criteria'>): CriterionView[] =>
  score.criteria.filter((c) => c.verdict !== 'skipped' && lostOn(c) <= TOLD);

export interface MarkAt {
  readonly id: number;
  readonly point: readonly number[];
  readonly strong: boolean;
  readonly number: number | null;
  readonly about: string;
}

/** Places of the findings on the tooth: where each was decided, and what the instructor pinned. */
export function marksOf(findings: readonly Finding[], open: string | null): MarkAt[] {
  const out: MarkAt[] = [];
  for (const f of findings) {
    const about = f.criterion.title;
    const strong = open === f.criterion.id;
    const at =
      f.criterion.targets.find((t) => t.deciding)?.point ?? f.criterion.targets.find((t) => t.point && t.verdict !== 'inside')?.point;
    if (at) out.push({ id: out.length, point: at, strong, number: f.number, about });
    for (const p of f.criterion.pins) out.push({ id: out.length, point: p.point, strong, number: f.number, about: p.note || about });
  }
  return out;
}

/** An empty form, or what was kept or begun before; lines that are no longer asked are left out. */
export function formOf(view: Pick<WorkView, 'questions' | 'own'>, draft: SelfForm | null): SelfForm {
  const known = draft ?? view.own;
  const line = (id: string): OwnLine => known?.lines.find((l) => l.line === id) ?? { line: id, level: null, figure: null };
  return { lines: view.questions.map((q) => line(q.id)), minutes: known?.minutes ?? null };
}

export const withLine = (form: SelfForm, id: string, change: Partial<OwnLine>): SelfForm => ({
  ...form,
  lines: form.lines.map((l) => (l.line === id ? { ...l, ...change } : l)),
});

/** What is sent: lines on which something was said. */
export const said = (form: SelfForm): SelfForm => ({ ...form, lines: form.lines.filter((l) => l.level !== null || l.figure !== null) });
