import * as v from 'valibot';
import type { AllowanceView, BenchView, PinView, ScoreView, StageView, TargetView } from '#contract/views.ts';
import { applyPoint, determinant3, invertRigid } from '#core/linalg/rigid.ts';
import { type MasterDescription, toothFrame } from '#core/master/master.ts';
import type { Reading } from '#core/result/reading.ts';
import { forTooth } from '#core/score/expand.ts';
import { type HandReading, unitOf } from '#core/score/hand.ts';
import { repairOf } from '#core/score/repair.ts';
import type { Rubric } from '#core/score/rubric.ts';
import { allowances, STEPS } from '#core/score/stage.ts';
import { azimuthOf } from '#core/segment/sectors.ts';
import type { Database } from '../database/database.ts';
import { sql } from '../database/database.ts';
import {
  type AttemptRow,
  attemptById,
  gradesOf,
  judgementsOf,
  type ReadingRow,
  readingsOf,
  shownMeasurement,
} from '../records/attempts.ts';
import { bandsOf } from '../records/bands.ts';
import { evidenceOf } from '../records/evidence.ts';
import type { PinRow } from '../records/pins.ts';
import { scoreOf } from '../records/sign.ts';

/** What an attempt is judged from: the scan's own readings, and the instructor's. */
interface Evidence {
  readonly scanned: readonly ReadingRow[];
  readonly hand: readonly HandReading[];
  readonly readings: readonly ReadingRow[];
  readonly pins: readonly PinRow[];
}

export function scoreView(attempt: AttemptRow, e: Evidence, judgements: Parameters<typeof scoreOf>[2]): ScoreView {
  const s = scoreOf(attempt, e.readings, judgements);
  const handAt = (t: { reading: string; zone: string | null; stat: string }): TargetView['hand'] => {
    const h = e.hand.find((q) => same(q, t));
    return h ? { method: h.method, lo: h.lo, hi: h.hi } : null;
  };
  const same = (
    a: { name: string; zone: string | null; stat: string },
    t: { reading: string; zone: string | null; stat: string },
  ): boolean => a.name === t.reading && a.zone === t.zone && a.stat === t.stat;
  const said = new Map(judgements.map((j) => [j.criterion_id, j]));
  const shown = displayPlace(attempt);
  return {
    total: s.total,
    passed: s.passed,
    lines: s.lines,
    open: s.open,
    levels: attempt.rubric.levels.map((l) => ({ level: l.level, word: l.word })),
    criteria: s.criteria.map((c) => ({
      id: c.criterion.id,
      title: c.criterion.title,
      why: c.criterion.why,
      verdict: c.verdict,
      computed: c.computed,
      level: c.level,
      overridden: c.overridden,
      confirmed: said.get(c.criterion.id)?.level != null,
      reason: said.get(c.criterion.id)?.reason ?? null,
      comment: said.get(c.criterion.id)?.comment ?? null,
      pins: e.pins.filter((p) => p.criterion_id === c.criterion.id).map((p) => pinView(p, shown)),
      points: c.points,
      of: c.of,
      targets: c.targets.map((t): TargetView => {
        const r = t.reading as unknown as ReadingRow | null;
        const hand = handAt(t.target);
        const scanned = e.scanned.find((q) => same(q, t.target));
        return {
          reading: t.target.reading,
          zone: t.target.zone,
          stat: t.target.stat,
          unit: r?.unit ?? unitOf(t.target.reading),
          value: r?.value ?? null,
          U: r?.U ?? null,
          reason: r?.reason ?? null,
          hand,
          scanned: hand && scanned && scanned.value !== null ? { value: scanned.value, U: scanned.U } : null,
          coverage: r?.coverage ?? null,
          azimuth: r?.azimuth ?? null,
          point: shown(r?.point ?? null),
          lo: t.target.band.lo,
          hi: t.target.band.hi,
          verdict: t.verdict,
          deciding: t === c.deciding,
          repair: repairOf(t, s, e.readings as unknown as Reading[]),
        };
      }),
    })),
    critical: s.critical.map((c) => {
      const r = c.reading as unknown as ReadingRow | null;
      const effect = c.error.effect;
      return {
        id: c.error.id,
        title: c.error.title,
        verdict: c.verdict,
        made: c.made,
        waived: c.waived,
        reading: c.error.reading,
        zone: c.error.zone,
        stat: c.error.stat,
        hand: handAt({ reading: c.error.reading, zone: c.error.zone, stat: c.error.stat }),
        allowed: c.error.allowed.hi,
        reason: said.get(c.error.id)?.reason ?? null,
        value: r?.value ?? null,
        U: r?.U ?? null,
        unit: r?.unit ?? 'mm',
        azimuth: r?.azimuth ?? null,
        point: shown(r?.point ?? null),
        effect: effect.kind === 'fail' ? 'not passed' : effect.kind === 'cap' ? `at most ${effect.at}` : `${effect.points} points off`,
      };
    }),
  };
}

function pinView(p: PinRow, shown: ReturnType<typeof displayPlace>): PinView {
  const point = shown([p.x, p.y, p.z]) as readonly number[];
  return { id: p.id, point, azimuth: shown.azimuthOf(point), note: p.note };
}

/** Places of the master file's frame as the picture has them: the tooth frame, turned over for left-handed quadrants. */
export function displayPlace(attempt: AttemptRow) {
  const toTooth = toothFrame(attempt.master as unknown as MasterDescription);
  const flip = determinant3(toTooth) < 0 ? -1 : 1;
  const fromTooth = invertRigid(toTooth);
  const shown = (p: readonly number[] | null): readonly number[] | null => {
    if (!p) return null;
    const q = applyPoint(toTooth, [p[0], p[1], p[2]]);
    return [flip * q[0], q[1], q[2]];
  };
  return Object.assign(shown, {
    /** Back from the picture to the file. */
    inFile: (q: readonly number[]) => applyPoint(fromTooth, [flip * q[0], q[1], q[2]]),
    azimuthOf: (q: readonly number[]) => azimuthOf(flip * q[0], q[1]),
  });
}

/** What can be shown round the tooth, by the name of its curve; only those that the measurement has. */
const RINGS = [
  { id: 'margin.width', title: 'Margin width', unit: 'mm', digits: 2 },
  { id: 'margin.gingiva', title: 'Height over gingiva', unit: 'mm', digits: 2 },
  { id: 'taper.wall', title: 'Wall taper', unit: '°', digits: 1 },
  { id: 'margin.exit', title: 'Exit angle', unit: '°', digits: 0 },
  { id: 'cavosurface', title: 'Cavosurface angle', unit: '°', digits: 0 },
  { id: 'clearance', title: 'Gap to the neighbour', unit: 'mm', digits: 2 },
] as const;

function ringsOf(attempt: AttemptRow, readings: readonly ReadingRow[], curves: BenchView['curves']): BenchView['rings'] {
  const targets = attempt.rubric.criteria.flatMap((c) => c.targets);
  return RINGS.filter((r) => curves[r.id]?.length).map((r) => {
    const t = targets.find((q) => q.reading === r.id || (r.id === 'clearance' && q.reading.startsWith('box.clearance')));
    const own = readings.filter((q) => (q.name === r.id || (r.id === 'clearance' && q.name.startsWith('box.clearance'))) && q.U !== null);
    return { ...r, band: [t?.band.lo ?? null, t?.band.hi ?? null] as const, U: Math.max(0, ...own.map((q) => q.U ?? 0)) };
  });
}

const Id = v.object({ id: v.number() });
const Phrase = v.object({ about: v.string(), side: v.picklist(['', 'under', 'over']), body: v.string() });

const Scanned = v.object({
  scan: v.number(),
  measurement: v.number(),
  step: v.picklist(['occlusal', 'axial', 'outline', 'box']),
  version: v.number(),
});
const ORDER = Object.keys(STEPS);

/** The newest scan of every step on the way, with what each leaves to be cut. */
async function stagesOf(db: Database, attempt: AttemptRow): Promise<StageView[]> {
  const scans = await db.any(
    Scanned,
    sql`select distinct on (s.step) s.id as scan, m.id as measurement, s.step, s.version from scan s join measurement m on m.scan_id = s.id
        where s.attempt_id = ${attempt.id} and s.state = 'measured' and s.step <> 'final' order by s.step, s.version desc, s.id desc`,
  );
  const stages = await Promise.all(
    scans.map(async ({ scan, measurement, step, version }): Promise<StageView> => {
      const readings = (await readingsOf(db, measurement)) as unknown as Reading[];
      const rubric = forTooth(attempt.rubric as Rubric, attempt.master.cusps, readings);
      const lines = allowances(rubric, readings, step).map(({ target: t, title, stands, repair }): AllowanceView => {
        const r = t.reading as unknown as ReadingRow | null;
        const { reading, zone, stat, band } = t.target;
        return {
          title,
          reading,
          zone,
          stat,
          unit: r?.unit ?? unitOf(reading),
          value: r?.value ?? null,
          U: r?.U ?? null,
          lo: band.lo,
          hi: band.hi,
          azimuth: r?.azimuth ?? null,
          stands,
          repair,
        };
      });
      return { scan, step, version, lines };
    }),
  );
  return stages.sort((a, b) => ORDER.indexOf(a.step) - ORDER.indexOf(b.step));
}

export async function benchView(db: Database, attemptId: number): Promise<BenchView | null> {
  const attempt = await attemptById(db, attemptId);
  if (!attempt) return null;
  const found = await evidenceOf(db, attemptId);
  const measurement = found.measurement ?? (await shownMeasurement(db, attemptId));
  const readings = found.scanned;
  const judgements = await judgementsOf(db, attemptId);
  const grades = await gradesOf(db, attemptId);
  const others = (
    await db.any(
      Id,
      sql`select a.id from attempt a join person p on p.id = a.student_id where a.sitting_id = ${attempt.sitting_id} order by p.name, a.id`,
    )
  ).map((o) => o.id);
  const at = others.indexOf(attemptId);
  const { id, sitting_id, sitting_title, held_on, student_id, student_name, bench, exercise_title, tooth } = attempt;
  return {
    attempt: {
      id,
      sitting_id,
      sitting_title,
      held_on,
      student_id,
      student_name,
      bench,
      exercise_title,
      tooth,
      released: attempt.released_at !== null,
    },
    stages: await stagesOf(db, attempt),
    finished: found.measurement !== null,
    score: scoreView(attempt, found, judgements),
    phrases: await db.any(Phrase, sql`select about, side, body from phrase order by about desc, id`),
    measurement: measurement && {
      id: measurement.id,
      fileName: measurement.file_name,
      rms: measurement.alignment.rms,
      pointError: measurement.alignment.pointError,
      seconds: measurement.duration_ms / 1000,
      display: `/api/attempts/${id}/display?v=${measurement.display_sha256.slice(0, 12)}`,
      profiles: `/api/attempts/${id}/profiles?v=${measurement.profiles_sha256.slice(0, 12)}`,
    },
    bands: bandsOf(attempt.rubric),
    kind: attempt.kind,
    // On the way there is no margin yet to go round.
    rings: found.measurement ? ringsOf(attempt, readings, found.measurement.curves) : [],
    curves: measurement?.curves ?? {},
    grades: grades.map((g) => ({
      version: g.version,
      total: g.total,
      passed: g.passed,
      grader: g.grader_name,
      signedAt: g.signed_at,
      digest: g.digest,
    })),
    next: others[at + 1] ?? null,
    previous: others[at - 1] ?? null,
  };
}
