import type { PinView, ScoreView, TargetView } from '#contract/views.ts';
import { findEntry, unitOf } from '#core/catalogue/catalogue.ts';
import { applyPoint, determinant3, invertRigid } from '#core/linalg/rigid.ts';
import { azimuthOf } from '#core/linalg/sectors.ts';
import { wrapDegrees } from '#core/linalg/vec.ts';
import { toothFrame } from '#core/master/master.ts';
import { REFUSALS, type Reading } from '#core/result/reading.ts';
import { type HandReading, keyOf, withHand } from '#core/score/hand.ts';
import type { JudgedTarget } from '#core/score/judge.ts';
import { lostPoints } from '#core/score/lost.ts';
import { repairOf } from '#core/score/repair.ts';
import type { Rubric } from '#core/score/rubric.ts';
import type { Score } from '#core/score/score.ts';
import type { Description } from '../grading/rows.ts';

/** Input of the score's view, from the current evidence or from a signed record. */
export interface Shown {
  readonly rubric: Rubric;
  readonly score: Score;
  readonly seen: string;
  readonly readings: readonly Reading[];
  readonly hand: readonly HandReading[];
  readonly words: readonly { readonly line: string; readonly reason: string | null }[];
  readonly reopened: readonly { readonly line: string }[];
  readonly remarks: readonly { readonly line: string; readonly body: string }[];
  readonly pins: readonly {
    readonly id: number;
    readonly line: string;
    readonly x: number;
    readonly y: number;
    readonly z: number;
    readonly note: string;
  }[];
  readonly place: DisplayPlace;
}

const reasonWords = (r: Reading | null): string | null => (r?.reason ? REFUSALS[r.reason] : null);

export function scoreView(s: Shown): ScoreView {
  const { score } = s;
  const handAt = new Map(s.hand.map((h) => [keyOf(h), h]));
  const scannedAt = new Map(s.readings.map((r) => [keyOf(r), r]));
  const all = withHand(s.readings, s.hand);
  const word = (line: string) => s.words.find((w) => w.line === line)?.reason ?? null;
  const isReopened = (line: string): boolean => s.reopened.some((w) => w.line === line);
  const handOf = (q: { reading: string; zone: string | null; stat: string }): TargetView['hand'] => {
    const h = handAt.get(keyOf({ name: q.reading, zone: q.zone, stat: q.stat }));
    return h ? { method: h.method, lo: h.lo, hi: h.hi } : null;
  };
  const targetView = (t: JudgedTarget, isDeciding: boolean): TargetView => {
    const { reading: r, target } = t;
    const hand = handOf(target);
    // Where nothing was measured the master's own landmark says where to look.
    const site = r?.at ? null : s.place.siteOf(target.zone);
    const scanned = scannedAt.get(keyOf({ name: target.reading, zone: target.zone, stat: target.stat }));
    return {
      reading: target.reading,
      zone: target.zone,
      stat: target.stat,
      unit: unitOf(target.reading, target.stat),
      value: r?.value ?? null,
      U: r?.U ?? null,
      reason: reasonWords(r),
      along: t.along && { inside: t.along.inside, worst: t.along.worst },
      methods: findEntry(target.reading)?.hand ?? [],
      hand,
      onlyByHand: target.evidence === 'hand',
      scanned: hand && scanned && scanned.value !== null ? { value: scanned.value, U: scanned.U } : null,
      coverage: r?.coverage ?? null,
      azimuth: t.along?.worstAt ?? r?.at?.azimuth ?? (site && s.place.azimuthOf(site)),
      point: s.place.shown(r?.at?.point ?? null) ?? site,
      lo: target.band.lo,
      hi: target.band.hi,
      verdict: t.verdict,
      deciding: isDeciding,
      repair: repairOf(t, score, all),
    };
  };
  return {
    total: score.total,
    passed: score.passed,
    range: { least: score.range.least.total, most: score.range.most.total },
    failures: score.failures,
    lines: score.lines,
    undecided: score.undecided,
    seen: s.seen,
    levels: s.rubric.levels.map((l) => ({ level: l.level, word: l.word })),
    criteria: score.criteria.map((c) => ({
      id: c.criterion.id,
      title: c.criterion.title,
      why: c.criterion.why,
      verdict: c.verdict,
      computed: c.computed,
      range: c.range,
      decidedBy: c.decidedBy,
      level: c.level,
      overridden: c.overridden,
      reopened: isReopened(c.criterion.id),
      reason: word(c.criterion.id),
      comment: s.remarks.find((r) => r.line === c.criterion.id)?.body ?? null,
      pins: s.pins.filter((p) => p.line === c.criterion.id).map((p) => pinView(p, s.place)),
      points: c.points,
      lost: lostPoints(c, s.rubric.scoring),
      provisional: c.provisional,
      of: c.of,
      targets: c.targets.map((t) => targetView(t, t === c.deciding)),
      asks: c.criterion.asks ?? null,
    })),
    critical: score.critical.map((c) => {
      const { error, reading: r } = c;
      const { effect } = error;
      return {
        id: error.id,
        title: error.title,
        verdict: c.verdict,
        made: c.made,
        decidedBy: c.decidedBy,
        waived: c.waived,
        reopened: isReopened(error.id),
        methods: findEntry(error.reading)?.hand ?? [],
        reading: error.reading,
        zone: error.zone,
        stat: error.stat,
        hand: handOf(error),
        allowed: error.allowed.hi,
        reason: word(error.id) ?? reasonWords(r),
        value: r?.value ?? null,
        U: r?.U ?? null,
        unit: unitOf(error.reading, error.stat),
        azimuth: r?.at?.azimuth ?? null,
        point: s.place.shown(r?.at?.point ?? null),
        effect: effect.kind === 'fail' ? 'not passed' : effect.kind === 'cap' ? `at most ${effect.at}` : `${effect.points} points off`,
      };
    }),
  };
}

function pinView(p: Shown['pins'][number], place: DisplayPlace): PinView {
  const point = place.shown([p.x, p.y, p.z]) as readonly number[];
  return { id: p.id, point, azimuth: place.azimuthOf(point), note: p.note };
}

/** Azimuths of sides and line angles by their first word. */
const SIDE_AZIMUTHS: Readonly<Record<string, number>> = {
  facial: 0,
  mesiofacial: 45,
  mesial: 90,
  mesiolingual: 135,
  lingual: 180,
  distolingual: 225,
  distal: 270,
  distofacial: 315,
};

/** Converts places from the master file's frame to the picture's: the tooth frame, mirrored for left-handed quadrants. */
export function displayPlace(
  master: Pick<Description, 'tooth' | 'axis' | 'mesial' | 'facial' | 'gingivalMargin'> & Partial<Pick<Description, 'cusps' | 'grooves'>>,
) {
  const toTooth = toothFrame(master);
  const flip = determinant3(toTooth) < 0 ? -1 : 1;
  const fromTooth = invertRigid(toTooth);
  const display = (p: readonly number[]): readonly [number, number, number] => {
    const q = applyPoint(toTooth, [p[0], p[1], p[2]]);
    return [flip * q[0], q[1], q[2]];
  };
  return {
    /** Where a zone lies by the master's own landmarks: a cusp's tip, a groove's middle, a side's gingival margin; null without one. */
    siteOf: (zone: string | null): readonly number[] | null => {
      if (zone === null) return null;
      const cusp = master.cusps?.find((c) => c.name === zone);
      if (cusp?.at) return display(cusp.at);
      const groove = master.grooves?.find((g) => `${g.name} groove` === zone || g.name === zone);
      if (groove?.line.length) return display(groove.line[groove.line.length >> 1]);
      const at = SIDE_AZIMUTHS[zone.split(' ')[0]];
      if (at === undefined) return null;
      const margin = master.gingivalMargin.map(display);
      const off = (p: readonly number[]): number => Math.abs(wrapDegrees(azimuthOf(flip * p[0], p[1]) - at));
      return margin.reduce((best, p) => (off(p) < off(best) ? p : best), margin[0]);
    },
    shown: (p: readonly number[] | null): readonly number[] | null => {
      if (!p) return null;
      const q = applyPoint(toTooth, [p[0], p[1], p[2]]);
      return [flip * q[0], q[1], q[2]];
    },
    /** Inverse of `shown`. */
    inFile: (q: readonly number[]) => applyPoint(fromTooth, [flip * q[0], q[1], q[2]]),
    azimuthOf: (q: readonly number[]) => azimuthOf(flip * q[0], q[1]),
  };
}
export type DisplayPlace = ReturnType<typeof displayPlace>;
