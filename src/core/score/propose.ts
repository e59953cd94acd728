import type { Criterion, CriticalError, Level, Rubric, Scoring, Target } from './rubric.ts';
import type { Standard, StandardField, StandardLine } from './standard.ts';
import type { Band } from './verdict.ts';

export type Style = 'practice' | 'examination';

const LEVELS: Readonly<Record<Style, readonly Level[]>> = {
  practice: [
    { level: 3, word: 'secure', share: 1 },
    { level: 2, word: 'sound', share: 0.8 },
    { level: 1, word: 'marginal', share: 0.5 },
    { level: 0, word: 'not yet', share: 0 },
  ],
  examination: [
    { level: 3, word: 'meets', share: 1 },
    { level: 2, word: 'minor', share: 0.8 },
    { level: 1, word: 'major', share: 0.5 },
    { level: 0, word: 'critical', share: 0 },
  ],
};
const PASS_MARK = 60;
/** Minor and major lapses that an examination lets pass. */
const EXAMINATION: Scoring = { kind: 'examination', minor: 3, major: 1 };
/** Weight of a line until the course has weighed it. */
const WEIGHT = 2;
const ALONG = { full: 0.9, fair: 0.75, poor: 0.5 };

/** Least step from one level's band to the next, by unit: what an instructor can still tell apart. */
const LEAST_STEP: Readonly<Record<string, number>> = { mm: 0.1, deg: 2, mm2: 0.5, mm3: 0.05, ratio: 0.05, share: 0.1, count: 1, none: 1 };
/** Step as a share of the band's width, and of the figure where the band has one end only. */
const OF_WIDTH = 0.5;
const OF_END = 0.2;

/** A field's band widened by so many steps at each end that it has. */
export function widened({ band, unit }: Pick<StandardField, 'band' | 'unit'>, steps: number): Band {
  const { lo, hi } = band;
  const own = lo !== null && hi !== null ? OF_WIDTH * (hi - lo) : OF_END * Math.abs(lo ?? hi ?? 0);
  const step = Math.max(LEAST_STEP[unit] ?? 0.1, own);
  const rounded = (x: number): number => Math.round(1000 * x) / 1000;
  return { lo: lo === null ? null : rounded(lo - steps * step), hi: hi === null ? null : rounded(hi + steps * step) };
}

const sameBand = (a: Band, b: Band): boolean => a.lo === b.lo && a.hi === b.hi;

/** A target of the field: it names it, or in a rubric from before fields had names it asks for the same. */
const isOf = (t: Target, f: StandardField): boolean =>
  t.field === f.id || (t.field === undefined && t.reading === f.reading && t.zone === f.zone && t.stat === f.stat);

function targetOf(f: StandardField, before: Target | undefined): Target {
  const place = {
    reading: f.reading,
    zone: f.zone,
    stat: f.stat,
    ...(f.ifNotRead ? { ifNotRead: f.ifNotRead } : {}),
    ...(before?.evidence ? { evidence: before.evidence } : {}),
    ...(f.along ? { along: before?.along ?? ALONG } : {}),
    field: f.id,
  };
  // Bands that the course set itself stay; those that were the standard's follow it.
  if (before?.own) return { ...place, band: before.band, fair: before.fair, poor: before.poor, own: before.own };
  if (before && sameBand(before.band, f.band)) return { ...place, band: f.band, fair: before.fair, poor: before.poor };
  return { ...place, band: f.band, fair: widened(f, 1), poor: widened(f, 2) };
}

function criterionOf(l: StandardLine, before: Criterion | undefined): Criterion {
  const common = { id: l.id, title: l.title, weight: before?.weight ?? WEIGHT, why: l.why };
  if (l.asks) return { ...common, targets: [], asks: l.asks, field: l.id };
  return {
    ...common,
    targets: l.fields.map((f) =>
      targetOf(
        f,
        before?.targets.find((t) => isOf(t, f)),
      ),
    ),
  };
}

/**
 * A rubric from a standard: a criterion for each of its lines, a critical error for each of its own. Bands one and two levels down are
 * the field's, widened by steps; weights, and bands that the course set itself, are kept from the rubric as it was.
 */
export function propose(s: Standard, as: { id: string; name: string; style: Style }, before: Rubric | null = null): Rubric {
  return {
    format: 'veritor-rubric/1',
    id: as.id,
    name: as.name,
    standard: s.id,
    levels: before?.levels ?? LEVELS[as.style],
    passMark: before?.passMark ?? PASS_MARK,
    ...(before?.scoring ? { scoring: before.scoring } : as.style === 'examination' ? { scoring: EXAMINATION } : {}),
    ...(s.partial ? { partial: true } : {}),
    criteria: s.lines.map((l) =>
      criterionOf(
        l,
        before?.criteria.find((c) => c.id === l.id),
      ),
    ),
    critical: s.critical.map(
      (e): CriticalError => ({
        id: e.id,
        title: e.title,
        reading: e.reading,
        zone: e.zone,
        stat: e.stat,
        allowed: e.allowed,
        ...(e.ifNotRead ? { ifNotRead: e.ifNotRead } : {}),
        field: e.id,
        effect: before?.critical.find((c) => c.id === e.id)?.effect ?? e.effect,
      }),
    ),
  };
}
