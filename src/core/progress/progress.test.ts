import { describe, expect, it } from 'vitest';
import { within } from '../../../test/helpers/within.ts';
import { fQuantile, normalChance, tChance, tQuantile } from '../statistics/beta.ts';
import { seeded } from '../statistics/random.ts';
import { chanceOfLossWithin, chanceWithin, competence, limitFor, lossLimitFor, weights } from './competence.ts';
import { driftOf } from './drift.ts';
import { allRound, BINS, benchBin, frameOf, habitOf, holm, inBench, lessCohort } from './habit.ts';
import { alphaOf, itemsOf } from './items.ts';
import { levelTrend } from './mann-kendall.ts';
import { nextPractice } from './next-practice.ts';
import { practiceLaw } from './practice-law.ts';
import { selfAssessment } from './self-assessment.ts';
import { cohortPrior, stillNeeded } from './still-needed.ts';
import { trendOf } from './trend.ts';

describe('distributions', () => {
  // Closed forms: t with 1 degree of freedom is Cauchy's, with 2 has t = a √(2 ÷ (4p(1−p))) with a = 2p − 1; tables for the rest.
  it('t', () => {
    within(tChance(1, 1), 0.75, 1e-12);
    within(tQuantile(0.975, 1), Math.tan(Math.PI * 0.475), 1e-6);
    within(tQuantile(0.975, 2), 0.95 * Math.sqrt(2 / (4 * 0.975 * 0.025)), 1e-9);
    within(tQuantile(0.975, 4), 2.776445, 1e-6);
    within(tQuantile(0.975, 10), 2.228139, 1e-6);
  });
  it('F with 2 and 2 degrees of freedom is p ÷ (1 − p); with 1 the square of t', () => {
    within(fQuantile(0.95, 2, 2), 19, 1e-6);
    within(fQuantile(0.95, 1, 4), 2.776445 ** 2, 1e-4);
  });
  it('normal', () => {
    within(normalChance(1.959963985), 0.975, 1e-10);
    within(normalChance(-3), 0.001349898, 1e-9);
  });
});

describe('the trend of a reading', () => {
  it('of points on a line is that line’s, sure as the readings are', () => {
    const t = trendOf([1, 2, 3, 4, 5].map((n) => ({ n, value: 1 + 0.2 * n, U: 0.1 }))).given;
    within(t?.slope ?? 0, 0.2, 1e-12);
    // u = 0.05, Σ (n − 3)² = 10, t with 3 degrees of freedom 3.182446.
    within((t?.hi ?? 0) - 0.2, (3.182446 * 0.05) / Math.sqrt(10), 1e-6);
    expect([t?.between, t?.isChange]).toEqual([0, true]);
  });
  it('of points that scatter more than their uncertainty is that of plain least squares', () => {
    const y = [3, 1, 4, 1, 5, 9];
    const t = trendOf(y.map((value, i) => ({ n: i + 1, value, U: 0.02 }))).given;
    // Σ (n − 3.5)(y − ȳ) = 19.5, Σ (n − 3.5)² = 17.5; the residual sum has 4 degrees of freedom.
    const slope = 19.5 / 17.5;
    const rss = y.reduce((s, v) => s + (v - 23 / 6) ** 2, 0) - slope * 19.5;
    within(t?.slope ?? 0, slope, 1e-3);
    within((t?.hi ?? 0) - slope, 2.776445 * Math.sqrt(rss / 4 / 17.5), 0.02);
    within(t?.between ?? 0, Math.sqrt(rss / 4 - 0.0001), 0.02);
    expect(t?.isChange).toBe(false);
  });
  it('a reading that is unsure weighs less', () => {
    const sure = [1, 2, 3, 4].map((n) => ({ n, value: n, U: 0.02 }));
    within(trendOf([...sure, { n: 5, value: 9, U: 40 }]).given?.slope ?? 0, 1, 1e-3);
  });
  it('of two attempts is none', () =>
    expect(trendOf([1, 2].map((n) => ({ n, value: n, U: 0 })))).toEqual({ given: null, there: 2, least: 3 }));
});

describe('the trend of levels', () => {
  it.each([
    [[1, 2, 3, 4, 5], 10, 2 / 120],
    [[1, 2, 3, 5, 4], 8, 10 / 120],
    [[6, 5, 4, 3, 2, 1], -15, 2 / 720],
    [[1, 2, 3, 4, 5, 7, 6], 19, 14 / 5040],
  ])('%j: exact two-sided chance of S = %i', (levels, S, p) => {
    const t = levelTrend(levels).given;
    expect(t?.S).toBe(S);
    within(t?.p ?? 0, p, 1e-12);
  });
  it('with ties is what counting all orders says', () => {
    const levels = [0, 1, 1, 2, 3, 3, 2];
    const all: number[] = [];
    const orders = (rest: number[], done: number[]): void => {
      if (rest.length === 0) {
        let S = 0;
        for (let i = 0; i < done.length; i++) for (let j = i + 1; j < done.length; j++) S += Math.sign(done[j] - done[i]);
        all.push(S);
      }
      rest.forEach((v, i) => {
        orders([...rest.slice(0, i), ...rest.slice(i + 1)], [...done, v]);
      });
    };
    orders([...levels], []);
    const S = levelTrend(levels).given?.S as number;
    within(levelTrend(levels).given?.p ?? 0, all.filter((s) => Math.abs(s) >= Math.abs(S)).length / all.length, 1e-12);
  });
  it('of many attempts is close to the exact one', () => {
    // Eleven levels that rise: exactly 2 ÷ 11!, by the normal distribution z = 54 ÷ √(11 · 10 · 27 ÷ 18).
    within(levelTrend(Array.from({ length: 11 }, (_, i) => i)).given?.p ?? 1, 2 * (1 - normalChance(54 / Math.sqrt(165))), 1e-12);
  });
  it('that never change is none; of four is not told, since four can never show one', () => {
    expect(levelTrend([2, 2, 2, 2, 2]).given).toMatchObject({ S: 0, p: 1, goes: null });
    expect(levelTrend([0, 1, 2, 3])).toEqual({ given: null, there: 4, least: 5 });
  });
});

describe('the law of practice', () => {
  it('finds where it is levelling off', () => {
    const random = seeded(5);
    const points = Array.from({ length: 12 }, (_, i) => ({ n: i + 1, value: 0.5 + 1.2 * Math.exp(-0.5 * i) + 0.01 * random.normal() }));
    const l = practiceLaw(points).given;
    expect(l?.isShown).toBe(true);
    within(l?.a ?? 0, 0.5, 0.03);
    within(l?.c ?? 0, 0.5, 0.06);
  });
  it('is not shown where a line does as well', () => {
    const random = seeded(6);
    const points = Array.from({ length: 10 }, (_, i) => ({ n: i + 1, value: 3 - 0.1 * i + 0.1 * random.normal() }));
    expect(practiceLaw(points).given?.isShown).toBe(false);
    expect(practiceLaw(points.slice(0, 5)).given).toBeNull();
  });
});

describe('competence', () => {
  const limits = { p0: 0.1, p1: 0.3, h: 2.5, hLoss: 2.5 };
  it('weights are those of the two rates', () => {
    within(weights(0.1, 0.3).success, 0.2513, 5e-5);
    within(weights(0.1, 0.3).failure, -1.0986, 5e-5);
  });
  it('ten clean successes are needed; a failure on the way begins nearly anew', () => {
    const clean = new Array<boolean>(12).fill(true);
    within(competence(clean.slice(0, 12), { ...limits, h: 9 }).heights[11], 3.016, 1e-3);
    expect(competence(clean, limits).since).toBe(10);
    const once = clean.map((_, i) => i !== 4);
    expect(competence(once, limits).since).toBeNull();
    expect(competence(once, limits).heights[4]).toBe(0);
  });
  it('is lost after three failures in a row, and can be won again', () => {
    const c = competence([...new Array(10).fill(true), false, false, false, ...new Array(10).fill(true)], limits);
    expect([c.since, c.lost, c.isCompetent]).toEqual([10, null, true]);
    expect(competence([...new Array(10).fill(true), false, false, false], limits)).toMatchObject({ lost: 13, isCompetent: false });
  });
  it('both chances of the worked example', () => {
    within(chanceWithin(12, 0.3, limits), 0.7 ** 10 * (1 + 2 * 0.3), 1e-9);
    within(chanceWithin(12, 0.1, limits), 0.9 ** 10 * (1 + 2 * 0.1), 1e-9);
  });
  it.each([
    [0.1, 0.3, 1.2, 0.3],
    [0.05, 0.2, 1, 0.1],
    [0.2, 0.5, 1.6, 0.35],
  ])('p₀ %d, p₁ %d, h %d at a rate of %d is what all rows of fourteen say', (p0, p1, h, rate) => {
    let sum = 0;
    for (let bits = 0; bits < 1 << 14; bits++) {
      const row = Array.from({ length: 14 }, (_, i) => ((bits >> i) & 1) === 1);
      if (competence(row, { p0, p1, h, hLoss: 99 }).since === null) continue;
      sum += row.reduce((c, ok) => c * (ok ? 1 - rate : rate), 1);
    }
    within(chanceWithin(14, rate, { p0, p1, h }), sum, 1e-9);
  });
  it('the limit for 5 % in twelve is ten clean successes; a stricter one would not be fewer', () => {
    within(limitFor(0.1, 0.3) / weights(0.1, 0.3).success, 10, 1e-9);
    expect(limitFor(0.1, 0.3, 0.01)).toBeGreaterThan(limitFor(0.1, 0.3));
    const hLoss = lossLimitFor(0.1, 0.3);
    expect(chanceOfLossWithin(12, 0.1, { p0: 0.1, p1: 0.3, hLoss })).toBeLessThanOrEqual(0.05);
  });
});

describe('attempts still needed', () => {
  it('is what a made-up cohort’s own odds say, and wide where little is known', () => {
    const random = seeded(9);
    const chance = (n: number, a: number, b: number): number => 1 / (1 + Math.exp(-(a + b * n)));
    const cohort = Array.from({ length: 200 }, () => {
      const [a, b] = [-1 + 0.5 * random.normal(), 0.3 + 0.08 * random.normal()];
      return Array.from({ length: 8 }, (_, n) => random.next() < chance(n, a, b));
    });
    const prior = cohortPrior(cohort);
    within(prior.mean[0], -1, 0.25);
    within(prior.mean[1], 0.3, 0.06);
    // −1 + 0.3 (n − 1) reaches ln 4 = 1.386 at n = 8.95: nine, so five more after four.
    const typical = stillNeeded([false, false, true, false], prior).given;
    within(typical?.median ?? 0, 5, 3);
    expect(typical?.lo).toBeLessThanOrEqual(typical?.median ?? 0);
    expect(typical?.hi).toBeGreaterThan(typical?.median ?? 0);
  });
  it('none after many successes, more than twenty after many failures, not told before four', () => {
    const prior = { mean: [0, 0.1] as const, cov: [2, 0, 0.05] as const };
    expect(stillNeeded(new Array(15).fill(true), prior).given?.median).toBe(0);
    expect(stillNeeded(new Array(15).fill(false), prior).given?.median).toBe(Infinity);
    expect(stillNeeded([true, true, true], prior)).toEqual({ given: null, there: 3, least: 4 });
  });
});

describe('the habit map', () => {
  /** Errors of a hand that does `size` more at a place, over smooth errors of its own. */
  const attempts = (n: number, size: number, at: (i: number) => number, seed: number, tooth = (_: number) => '16') => {
    const random = seeded(seed);
    return Array.from({ length: n }, (_, i) => {
      const waves = [1, 2, 3].map((k) => ({ k, a: 0.05 * random.normal(), p: 2 * Math.PI * random.next() }));
      return {
        tooth: tooth(i),
        curve: Array.from({ length: BINS }, (_, b) => {
          const own = waves.reduce((s, w) => s + w.a * Math.cos((w.k * 2 * Math.PI * b) / BINS + w.p), 0);
          const away = Math.min(Math.abs(b - at(i)), BINS - Math.abs(b - at(i)));
          return own + size * Math.exp(-0.5 * (away / 4) ** 2);
        }),
      };
    });
  };
  it('counts an attempt that errs everywhere for less than one that errs at one place', () => {
    const quiet = Array.from({ length: BINS }, (_, b) => (Math.abs(b - 20) <= 2 ? -0.2 : 0));
    const wild = new Array<number>(BINS).fill(1);
    const h = habitOf([quiet, quiet, quiet, wild].map((curve) => ({ curve }))).given;
    // Root mean squares 0.2 √(5 ÷ 72) and 1, the median is the former: weights 1 ÷ 2r and 1 ÷ (r + 1).
    const r = 0.2 * Math.sqrt(5 / 72);
    const [own, other] = [1 / (2 * r), 1 / (1 + r)];
    expect(h?.mean[20]).toBeCloseTo((3 * own * -0.2 + other) / (3 * own + other), 9);
    expect(h?.mean[50]).toBeCloseTo(other / (3 * own + other), 9);
  });
  it('finds a planted habit where it was planted, and says how often it came', () => {
    const h = habitOf(attempts(6, -0.3, () => 40, 1)).given;
    expect(h?.p).toBeLessThan(0.01);
    within(h?.at ?? 0, 40, 2);
    within(h?.size ?? 0, -0.3, 0.08);
    expect([h?.times, h?.of]).toEqual([6, 6]);
    expect(h && h.from <= 40 && h.to >= 40 && h.to - h.from < 20).toBe(true);
  });
  it('chance finds one in less than one of twenty', () => {
    let found = 0;
    for (let i = 0; i < 60; i++)
      if (
        (habitOf(
          attempts(6, 0, () => 0, 100 + i),
          3,
          499,
        ).given?.p ?? 1) < 0.05
      )
        found++;
    expect(found).toBeLessThanOrEqual(7);
  });
  it('what everyone does is not one’s own', () => {
    const all = attempts(6, -0.3, () => 40, 4);
    const cohort = Array.from({ length: BINS }, (_, b) => -0.3 * Math.exp(-0.5 * ((b - 40) / 4) ** 2));
    expect(habitOf(all.map((a) => ({ curve: lessCohort(a.curve, cohort) }))).given?.p).toBeGreaterThan(0.05);
  });
  it('what is done all round is found by its mean, which turning would not change', () => {
    const curves = [0.3, 0.35, 0.25, 0.4].map((v) => ({ curve: new Array<number>(BINS).fill(v) }));
    expect(habitOf(curves).given?.p).toBeGreaterThan(0.05);
    const a = allRound(curves).given;
    within(a?.size ?? 0, 0.325, 1e-12);
    // Standard deviation 0.0645, t = 0.325 · 2 ÷ 0.0645 = 10.07 with 3 degrees of freedom.
    within(a?.p ?? 1, 2 * (1 - tChance(0.325 / (Math.sqrt(0.0125 / 3) / 2), 3)), 1e-9);
    expect(a?.p).toBeLessThan(0.01);
    expect(allRound(curves.slice(1)).given).toBeNull();
  });
  it('three attempts tell nothing', () => expect(habitOf(attempts(3, 1, () => 0, 1)).given).toBeNull());
  it('facial of 16 and lingual of 26 are the patient’s right, mesial of both the front', () => {
    const at = (tooth: string, degrees: number): number => {
      const a = 5 * benchBin(tooth, degrees / 5) + 2.5;
      return a > 350 ? a - 360 : a;
    };
    within(at('16', 0), 0, 5);
    within(at('26', 180), 0, 5);
    within(at('16', 90), 90, 5);
    within(at('26', 90), 90, 5);
    within(at('46', 0), 0, 5);
    within(at('36', 0), 180, 5);
    // An incisor's facial side looks to the front, its mesial side to the midline.
    within(at('11', 0), 87, 6);
    within(at('11', 90), 177, 6);
    within(at('21', 90), 3, 6);
  });
  it('every bin of a tooth has one of the mouth', () => {
    for (const t of ['11', '13', '16', '21', '24', '33', '46'])
      expect(new Set(Array.from({ length: BINS }, (_, b) => benchBin(t, b))).size, t).toBe(BINS);
    const curve = Array.from({ length: BINS }, (_, b) => b);
    expect([...inBench({ curve, tooth: '26' })].sort((a, b) => Number(a) - Number(b))).toEqual(curve);
  });
  it('says which frame it stands still in, only where one tells more', () => {
    const teeth = (i: number): string => (i % 2 ? '26' : '16');
    // Patient's right all the time: facial of 16 (bin 0), lingual of 26 (bin 36).
    expect(frameOf(attempts(10, -0.4, (i) => (i % 2 ? 36 : 0), 7, teeth))).toBe('bench');
    expect(frameOf(attempts(10, -0.4, () => 0, 8, teeth))).toBe('tooth');
    expect(frameOf(attempts(10, -0.4, () => 0, 8))).toBeNull();
  });
  it('Holm’s correction by hand', () => {
    expect(holm([0.01, 0.04, 0.03])).toEqual([0.03, 0.06, 0.06]);
    expect(holm([0.6, 0.5])).toEqual([1, 1]);
  });
});

describe('what to practise next', () => {
  const c = (id: string, reading: string, lost: number[], isCompetent = false, exercises = ['crown']) => ({
    id,
    title: id,
    reading,
    lost,
    points: 20,
    isCompetent,
    exercises,
  });
  it('gain is points lost times chance times what it takes to learn it', () => {
    // Lost 0.5 of 20 in both of two attempts: 10 on average, chance (2 + 1) ÷ (2 + 2), depth learns fully.
    const [p] = nextPractice([c('depth', 'reduction.occlusal', [0.5, 0.5])]);
    within(p.gain, 10 * 0.75, 1e-12);
    expect([p.times, p.of, p.inDays, p.after]).toEqual([2, 2, 2, null]);
  });
  it('what rests on an open skill comes after it, whatever it would give', () => {
    const list = nextPractice([c('finish', 'margin.width', [1, 1, 1]), c('depth', 'reduction.axial', [0.3, 0.3, 0.3])]);
    expect(list.map((p) => [p.id, p.after])).toEqual([
      ['depth', null],
      ['finish', 'depth'],
    ]);
    const mastered = nextPractice([c('finish', 'margin.width', [1, 1, 1]), c('depth', 'reduction.axial', [0.3, 0.3, 0.3], true)]);
    expect(mastered[0]).toMatchObject({ id: 'finish', after: null });
    // Depth of a cavity is no ground of a crown's finish line.
    const apart = nextPractice([c('finish', 'margin.width', [1, 1, 1]), c('depth', 'depth.pulpal', [0.3, 0.3, 0.3], false, ['cavity'])]);
    expect(apart[0]).toMatchObject({ id: 'finish', after: null });
  });
  it('comes back sooner after a failure, later after successes in a row', () => {
    const days = (lost: number[]) => nextPractice([c('x', 'reduction.axial', lost)])[0]?.inDays;
    expect([days([1, 1]), days([1, 1, 1, 0]), days([1, 1, 1, 0, 0])]).toEqual([2, 4, 8]);
  });
  it('what was tried once comes after what was lost again', () => {
    const list = nextPractice([c('once', 'reduction.axial', [1]), c('again', 'toc.mean', [0.2, 0.2])]);
    expect(list.map((p) => p.id)).toEqual(['again', 'once']);
  });
  it('nothing lost, nothing to practise', () => expect(nextPractice([c('x', 'toc.mean', [0, 0, 0])])).toEqual([]));
});

describe('the cohort', () => {
  const SHROUT_FLEISS = [
    [9, 2, 5, 8],
    [6, 1, 3, 2],
    [8, 4, 6, 8],
    [7, 1, 2, 6],
    [10, 5, 6, 9],
    [6, 2, 4, 7],
  ];
  it('alpha of the published table', () => {
    within(alphaOf(SHROUT_FLEISS).given?.value ?? 0, 0.9093, 5e-5);
    const a = alphaOf(SHROUT_FLEISS).given;
    expect(a && a.lo < a.value && a.value < a.hi).toBe(true);
    expect(
      alphaOf([
        [1, 2],
        [1, 2],
        [1, 2],
      ]).given,
    ).toBeNull();
  });
  it('a criterion that goes with the rest tells strong from weak, one that never varies cannot', () => {
    const shares = Array.from({ length: 12 }, (_, i) => [i / 11, i / 11, 1, 1 - i / 11]);
    const items = itemsOf(['a', 'b', 'same', 'against'], shares, [2, 2, 1, 1]).given ?? [];
    within(items[0].difficulty.value, 0.5, 1e-12);
    within(items[0].discrimination?.value ?? 0, 1, 1e-9);
    expect(items[2].discrimination).toBeNull();
    within(items[3].discrimination?.value ?? 0, -1, 1e-9);
    expect(itemsOf(['a'], shares.slice(0, 7), [1]).given).toBeNull();
  });
});

describe('self-assessment', () => {
  it('mean difference with Student’s interval', () => {
    // Differences 0.1, 0.2, 0.3: mean 0.2, standard deviation 0.1, half width 4.302653 · 0.1 ÷ √3.
    const j = selfAssessment([1, 2, 3].map((k) => ({ own: 1 + k / 10, measured: 1 }))).given;
    within(j?.bias ?? 0, 0.2, 1e-12);
    within((j?.hi ?? 0) - 0.2, (4.302653 * 0.1) / Math.sqrt(3), 1e-6);
    expect(j?.isBiased).toBe(false);
    expect(selfAssessment([{ own: 1, measured: 1 }]).given).toBeNull();
  });
});

describe('a tool that drifts', () => {
  const days = [10, 11, 10, 11, 10, 11, 10, 11];
  it('a shift of two standard deviations is told within days, steady days are not', () => {
    const sigma = 1 / 1.128;
    const shifted = driftOf([...days, ...new Array(8).fill(10.5 + 2 * sigma)]).given;
    // z = 2 σ (1 − 0.75^k) from the baseline's end against limits of about 3 σ √(1 ÷ 7) = 1.134 σ.
    expect(shifted?.since).not.toBeNull();
    expect((shifted?.since ?? 99) - 8).toBeLessThan(5);
    expect(driftOf([...days, 10, 11, 10, 11, 10]).given?.since).toBeNull();
    expect(driftOf(days).given).toBeNull();
  });
});
