import * as v from 'valibot';
import { GradeFile } from '#contract/grade.ts';
import type { AttemptReport, ReportLine } from '#contract/report.ts';
import type { BenchView, CriterionView } from '#contract/views.ts';
import type { SelfForm } from '#contract/work.ts';
import { readingWords } from '#words/readings.ts';
import { schoolName } from '../account/first-start.ts';
import { coursesNamed } from '../course/view.ts';
import type { Queries } from '../database/port.ts';
import { attemptById, type GradeRow, gradesOf, releasedGrade } from '../grading/rows.ts';
import { ownJudgement } from '../student/assess.ts';
import { signedView } from '../view/bench.ts';

/** A report with the view that its pictures are drawn from. */
export interface Reported {
  readonly report: AttemptReport;
  readonly view: BenchView;
}

const Named = v.looseObject({ name: v.string() });

function lineOf(c: CriterionView, levels: BenchView['score']['levels'], own: SelfForm | null): ReportLine {
  const words = c.asks?.words ?? levels;
  const said = own?.lines.find((l) => l.line === c.id) ?? null;
  return {
    id: c.id,
    title: c.title,
    why: c.why,
    level: c.level,
    word: c.verdict === 'skipped' ? 'does not apply' : (words.find((w) => w.level === c.level)?.word ?? ''),
    points: c.points,
    lost: c.lost,
    of: c.of,
    decidedBy: c.decidedBy,
    question: c.asks?.question ?? null,
    reason: c.reason,
    comment: c.comment,
    readings: c.targets.map((t) => ({
      reading: t.reading,
      words: readingWords(t.reading, t.zone, t.stat),
      zone: t.zone,
      stat: t.stat,
      unit: t.unit,
      value: t.along?.worst ?? t.value,
      U: t.U,
      byHand: t.hand ? [t.hand.lo, t.hand.hi] : null,
      lo: t.lo,
      hi: t.hi,
      verdict: t.verdict,
      reason: t.reason,
      isDeciding: t.deciding,
    })),
    own: said && { level: said.level, figure: said.figure },
  };
}

/** The grade that a report is about: for its student the released one, for graders the newest that counts. */
async function gradeFor(q: Queries, attempt: number, isOwn: boolean): Promise<GradeRow | null> {
  if (isOwn) return releasedGrade(q, attempt);
  const counted = (await gradesOf(q, attempt)).filter((g) => g.round !== 2);
  return counted[counted.length - 1] ?? null;
}

/** What a signed attempt's record says, for everything that leaves the house; null where nothing is signed, or released to its student. */
export async function reportOf(q: Queries, id: number, isOwn: boolean): Promise<Reported | null> {
  const grade = await gradeFor(q, id, isOwn);
  const [attempt, view, own] = await Promise.all([attemptById(q, id), grade && signedView(q, id, grade), ownJudgement(q, id)]);
  if (!grade || !attempt || !view || (isOwn && !own)) return null;
  const [[course], school, released] = await Promise.all([coursesNamed(q, [attempt.course_id]), schoolName(q), releasedGrade(q, id)]);
  const parsed = v.safeParse(GradeFile, grade.record);
  const record = parsed.success ? parsed.output : null;
  const standard = record?.standard ?? null;
  const { score } = view;
  return {
    view,
    report: {
      format: 'veritor-report/1',
      school,
      course: { name: course.name, term: course.term },
      student: { id: attempt.student_id, name: attempt.student_name, bench: attempt.bench },
      attempt: {
        id,
        number: attempt.number,
        exercise: attempt.exercise_title,
        tooth: attempt.tooth,
        sitting: attempt.sitting_title,
        heldOn: attempt.held_on,
        minutes: own?.minutes ?? null,
      },
      grade: {
        version: grade.version,
        grader: grade.grader_name,
        signedAt: grade.signed_at,
        released: released?.id === grade.id,
        total: grade.total,
        passed: grade.passed,
        failures: score.failures,
        digest: grade.digest,
      },
      basis: {
        rubric: {
          name: record?.rubric.body.name ?? attempt.rubric.name,
          passMark: record?.rubric.body.passMark ?? attempt.rubric.passMark,
          sha256: record?.rubric.sha256 ?? null,
        },
        standard: standard && { name: v.is(Named, standard.body) ? standard.body.name : standard.sha256, sha256: standard.sha256 },
        coreVersion: record?.measurement?.core_version ?? null,
        scanSha256: record?.measurement?.scan_sha256 ?? null,
        alignmentRms: view.measurement?.rms ?? null,
      },
      critical: score.critical.map((c) => ({
        id: c.id,
        title: c.title,
        made: c.made === true,
        waived: c.waived,
        value: c.value,
        U: c.U,
        unit: c.unit,
        effect: c.effect,
        reason: c.reason,
      })),
      lines: score.criteria.map((c) => lineOf(c, score.levels, own)),
      own: own && { minutes: own.minutes },
    },
  };
}
