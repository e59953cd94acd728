import type { Score, ScoredCriterion } from '../score/score.ts';

/** One criterion of a graded result: its level and points, who decided it, and the reading that did. */
export interface GradedCriterion {
  readonly id: string;
  readonly title: string;
  readonly verdict: string;
  readonly computed: number | null;
  readonly level: number | null;
  readonly decidedBy: string | null;
  readonly points: number | null;
  readonly of: number;
  readonly reading: string | null;
  readonly stat: string | null;
  readonly zone: string | null;
  readonly value: number | null;
  readonly U: number | null;
  readonly unit: string | null;
  readonly lo: number | null;
  readonly hi: number | null;
}

export interface GradedError {
  readonly id: string;
  readonly title: string;
  readonly verdict: string;
  readonly made: boolean | null;
  readonly waived: boolean;
  readonly decidedBy: string | null;
  readonly value: number | null;
  readonly U: number | null;
  readonly unit: string | null;
}

/** A score as a signed record keeps it. */
export interface GradedResult {
  readonly total: number | null;
  readonly passed: boolean | null;
  readonly failures: readonly string[];
  readonly lines: readonly { readonly text: string; readonly points: number }[];
  readonly criteria: readonly GradedCriterion[];
  readonly critical: readonly GradedError[];
}

export function resultOf(s: Score): GradedResult {
  return {
    total: s.total,
    passed: s.passed,
    failures: [...s.failures],
    lines: s.lines.map((l) => ({ ...l })),
    criteria: s.criteria.map(gradedCriterion),
    critical: s.critical.map((e) => ({
      id: e.error.id,
      title: e.error.title,
      verdict: e.verdict,
      made: e.made,
      waived: e.waived,
      decidedBy: e.decidedBy,
      value: e.reading?.value ?? null,
      U: e.reading?.U ?? null,
      unit: e.reading?.unit ?? null,
    })),
  };
}

function gradedCriterion(c: ScoredCriterion): GradedCriterion {
  const t = c.deciding;
  return {
    id: c.criterion.id,
    title: c.criterion.title,
    verdict: c.verdict,
    computed: c.computed,
    level: c.level,
    decidedBy: c.decidedBy,
    points: c.points,
    of: c.of,
    reading: t?.target.reading ?? null,
    stat: t?.target.stat ?? null,
    zone: t?.target.zone ?? null,
    value: t?.along?.worst ?? t?.reading?.value ?? null,
    U: t?.reading?.U ?? null,
    unit: t?.reading?.unit ?? null,
    lo: t?.target.band.lo ?? null,
    hi: t?.target.band.hi ?? null,
  };
}

/** Differences between two results, each in a sentence; none when they are the same. */
export function differences(before: GradedResult, after: GradedResult): string[] {
  const out: string[] = [];
  if (before.total !== after.total) out.push(`the total is ${after.total ?? 'open'} and was ${before.total ?? 'open'}`);
  if (before.passed !== after.passed)
    out.push(after.passed === null ? 'whether it passes is open now' : `it ${after.passed ? 'passes' : 'does not pass'} now`);
  for (const c of after.criteria) {
    const was = before.criteria.find((b) => b.id === c.id);
    if (!was) out.push(`${c.title} is new`);
    else if (was.level !== c.level || was.verdict !== c.verdict || was.value !== c.value || was.U !== c.U)
      out.push(
        `${c.title}: ${c.value ?? 'no value'}, level ${c.level ?? 'open'} (was ${was.value ?? 'no value'}, level ${was.level ?? 'open'})`,
      );
  }
  for (const b of before.criteria) if (!after.criteria.some((c) => c.id === b.id)) out.push(`${b.title} is gone`);
  for (const e of after.critical) {
    const was = before.critical.find((b) => b.id === e.id);
    if (!was || was.made !== e.made || was.verdict !== e.verdict)
      out.push(`${e.title}: ${madeWords(e.made)}${was ? ` (was ${madeWords(was.made)})` : ''}`);
  }
  for (const b of before.critical) if (!after.critical.some((e) => e.id === b.id)) out.push(`${b.title} is gone`);
  return out;
}

const madeWords = (made: boolean | null): string => (made === null ? 'undecided' : made ? 'made' : 'not made');
