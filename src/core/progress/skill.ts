import { type ChartLimits, type Competence, competence } from './competence.ts';
import { outside } from './error-curve.ts';
import { type LevelTrend, levelTrend } from './mann-kendall.ts';
import { type PracticeLaw, practiceLaw } from './practice-law.ts';
import { type Prior, type StillNeeded, stillNeeded } from './still-needed.ts';
import type { Told } from './told.ts';
import { type Trend, trendOf } from './trend.ts';

/** One attempt at a skill: the reading that decided, the band as it was then, and the level that was signed. */
export interface SkillPoint {
  readonly attempt: number;
  readonly value: number | null;
  readonly U: number | null;
  readonly lo: number | null;
  readonly hi: number | null;
  readonly level: number | null;
  readonly points: number | null;
  readonly of: number;
}

export interface Skill {
  /** How far outside of its band the deciding reading lies, by attempt: bands differ from exercise to exercise, so that readings themselves cannot be compared. */
  readonly distance: Told<Trend>;
  readonly levels: Told<LevelTrend>;
  readonly law: Told<PracticeLaw>;
  readonly competence: Competence;
  readonly needed: Told<StillNeeded>;
}

/** Level from which an attempt at a skill counts as a success. */
export const SUCCESS = 2;

/** Everything that is told of one skill over its attempts. */
export function skillOf(points: readonly SkillPoint[], limits: ChartLimits, prior: Prior): Skill {
  const read = points.flatMap((p, i) =>
    p.value === null || (p.lo === null && p.hi === null)
      ? []
      : [{ n: i + 1, value: Math.abs(outside(p.value, { lo: p.lo, hi: p.hi })), U: p.U ?? 0 }],
  );
  const levels = points.flatMap((p) => (p.level === null ? [] : [p.level]));
  const outcomes = levels.map((l) => l >= SUCCESS);
  return {
    distance: trendOf(read),
    levels: levelTrend(levels),
    law: practiceLaw(read),
    competence: competence(outcomes, limits),
    needed: stillNeeded(outcomes, prior),
  };
}
