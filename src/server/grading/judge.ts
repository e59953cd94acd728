import * as v from 'valibot';
import { findEntry } from '#core/catalogue/catalogue.ts';
import type { HandMethod, Stat } from '#core/catalogue/terms.ts';
import { forTooth } from '#core/score/expand.ts';
import type { LevelNumber } from '#core/score/rubric.ts';
import { scoreOf } from '#core/sign/basis.ts';
import type { Person } from '../access/table.ts';
import type { Records } from '../audit/records.ts';
import { sql } from '../database/port.ts';
import { Refused } from '../errors.ts';
import { attemptFor, noteRow } from './act.ts';
import { type Graded, restDigest } from './evidence.ts';

const Id = v.object({ id: v.number() });

export interface JudgementInput {
  readonly line: string;
  readonly level: LevelNumber | null;
  /** Of a critical error: made or not; null withdraws the judgement. */
  readonly made: boolean | null;
  readonly reason: string | null;
}

const noLine = (): Refused => new Refused('not-there', 'The rubric has no such line.');

/**
 * Records a judgement on one line. A level or decision that contradicts the measurement needs a reason; one that the
 * measurement leaves open does not.
 */
export const judge = (records: Records, who: Person | null, attempt: number, j: JudgementInput): Promise<void> =>
  records.act(async (q, note) => {
    const { graded, person } = await attemptFor(q, who, 'attempt.judge', attempt);
    const plain = scoreOf({ ...graded.basis, judgements: {} });
    const criterion = plain.criteria.find((c) => c.criterion.id === j.line);
    const error = plain.critical.find((e) => e.error.id === j.line);
    if (!criterion && !error) throw noLine();
    if (criterion && j.made !== null) throw new Refused('not-valid', 'A criterion has a level; only a critical error is made or not made.');
    if (error && j.level !== null) throw new Refused('not-valid', 'A critical error is made or not made; it has no level.');
    const words = criterion?.criterion.asks?.words;
    if (words && j.level !== null && !words.some((w) => w.level === j.level))
      throw new Refused(
        'not-valid',
        `This line has the words ${words.map((w) => `“${w.word}” (${w.level})`).join(', ')}; choose one of them.`,
      );
    if (criterion?.verdict === 'skipped' || error?.verdict === 'skipped')
      throw new Refused('not-valid', 'This line does not apply to this tooth; there is nothing to decide.');
    const reason = j.reason?.trim() || null;
    const isAgainst = criterion
      ? j.level !== null && criterion.computed !== null && (j.level < criterion.range[0] || j.level > criterion.range[1])
      : j.made !== null && error?.made !== null && j.made !== error?.made;
    if (isAgainst && !reason) throw new Refused('not-valid', 'Say in a few words why your level differs from the measured one.');
    const { id } = await q.one(
      Id,
      sql`insert into judgement (attempt_id, round, line, level, made, reason, rested_on, person_id)
          values (${attempt}, ${graded.round}, ${j.line}, ${j.level}, ${j.made}, ${reason}, ${restDigest(plain, j.line)}, ${person.id}) returning id`,
    );
    const before = graded.judgements.find((w) => w.line === j.line);
    await noteRow(
      q,
      note,
      {
        person,
        action: 'attempt.judge',
        subject: `attempt ${attempt}`,
        details: {
          line: j.line,
          round: graded.round,
          before: before ? { level: before.level, made: before.made } : null,
          after: { level: j.level, made: j.made, reason },
        },
      },
      'judgement',
      id,
    );
  });

/** Records all undecided critical errors as checked and not found. */
export const clearCriticalErrors = (records: Records, who: Person | null, attempt: number): Promise<void> =>
  records.act(async (q, note) => {
    const { graded, person } = await attemptFor(q, who, 'attempt.judge', attempt);
    for (const e of graded.score.critical.filter((c) => c.made === null)) {
      const rested = restDigest(graded.score, e.error.id);
      const { id } = await q.one(
        Id,
        sql`insert into judgement (attempt_id, round, line, made, reason, rested_on, person_id)
            values (${attempt}, ${graded.round}, ${e.error.id}, false, 'looked at, none found', ${rested}, ${person.id}) returning id`,
      );
      const details = { line: e.error.id, round: graded.round, after: { made: false } };
      await noteRow(q, note, { person, action: 'attempt.judge', subject: `attempt ${attempt}`, details }, 'judgement', id);
    }
  });

/** Sets the comment to the student on one line; an empty text removes it. */
export const remark = (records: Records, who: Person | null, attempt: number, line: string, text: string): Promise<void> =>
  records.act(async (q, note) => {
    const { graded, person } = await attemptFor(q, who, 'attempt.judge', attempt);
    if (!hasLine(graded, line)) throw noLine();
    const body = text.trim() || null;
    const { id } = await q.one(
      Id,
      sql`insert into remark (attempt_id, round, line, body, person_id) values (${attempt}, ${graded.round}, ${line}, ${body}, ${person.id}) returning id`,
    );
    await noteRow(q, note, { person, action: 'attempt.remark', subject: `attempt ${attempt}`, details: { line } }, 'remark', id);
  });

export interface HandInput {
  readonly reading: string;
  readonly zone: string | null;
  readonly stat: Stat;
  readonly method: HandMethod;
  /** Both null: the reading is withdrawn. */
  readonly lo: number | null;
  readonly hi: number | null;
}

/** Records an instructor's own reading at a place that the rubric asks for. */
export const readByHand = (records: Records, who: Person | null, attempt: number, h: HandInput): Promise<void> =>
  records.act(async (q, note) => {
    const { graded, person } = await attemptFor(q, who, 'attempt.judge', attempt);
    const asked = forTooth(graded.basis.rubric, graded.basis.cusps, graded.readings);
    const places = [...asked.criteria.flatMap((c) => c.targets), ...asked.critical];
    if (!places.some((t) => t.reading === h.reading && t.zone === h.zone && t.stat === h.stat))
      throw new Refused('not-there', 'The rubric does not ask for this reading.');
    if ((h.lo === null) !== (h.hi === null)) throw new Refused('not-valid', 'A reading by hand has a lower and an upper figure.');
    if (h.lo !== null && h.hi !== null && h.lo > h.hi) throw new Refused('not-valid', 'The lower figure must not exceed the upper one.');
    if (h.lo !== null && !findEntry(h.reading)?.hand.includes(h.method))
      throw new Refused('not-valid', 'This cannot be read with that instrument.');
    const { id } = await q.one(
      Id,
      sql`insert into hand_reading (attempt_id, round, name, zone, stat, method, lo, hi, person_id)
          values (${attempt}, ${graded.round}, ${h.reading}, ${h.zone}, ${h.stat}, ${h.method}, ${h.lo}, ${h.hi}, ${person.id}) returning id`,
    );
    await noteRow(q, note, { person, action: 'attempt.hand', subject: `attempt ${attempt}`, details: { ...h } }, 'hand_reading', id);
  });

/** Marks a place on the tooth for one line; `point` is of the master file's frame. */
export const setPin = (
  records: Records,
  who: Person | null,
  attempt: number,
  pin: { line: string; point: readonly [number, number, number]; note: string },
): Promise<void> =>
  records.act(async (q, note) => {
    const { graded, person } = await attemptFor(q, who, 'attempt.judge', attempt);
    if (!graded.attempt.rubric.criteria.some((c) => c.id === pin.line)) throw noLine();
    const [x, y, z] = pin.point;
    const { id } = await q.one(
      Id,
      sql`insert into pin (attempt_id, round, line, x_mm, y_mm, z_mm, note, person_id) values (${attempt}, ${graded.round}, ${pin.line}, ${x}, ${y}, ${z}, ${pin.note.trim()}, ${person.id}) returning id`,
    );
    await noteRow(q, note, { person, action: 'attempt.pin', subject: `attempt ${attempt}`, details: { line: pin.line } }, 'pin', id);
  });

export const removePin = (records: Records, who: Person | null, attempt: number, pin: number): Promise<void> =>
  records.act(async (q, note) => {
    const { graded, person } = await attemptFor(q, who, 'attempt.judge', attempt);
    if (!graded.pins.some((p) => p.id === pin)) throw new Refused('not-there', 'There is no such pin any more.');
    const { id } = await q.one(Id, sql`insert into pin_removal (pin_id, person_id) values (${pin}, ${person.id}) returning id`);
    await noteRow(q, note, { person, action: 'attempt.unpin', subject: `attempt ${attempt}`, details: { pin } }, 'pin_removal', id);
  });

const hasLine = (g: Graded, line: string): boolean =>
  [...g.attempt.rubric.criteria, ...g.attempt.rubric.critical].some((l) => l.id === line);
