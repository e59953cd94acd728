import { unzipSync } from 'fflate';
import ICAL from 'ical.js';
import Papa from 'papaparse';
import * as v from 'valibot';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { classesOf, classLines, ROSTER_TABLES } from '#contract/one-roster.ts';
import type { RosterPlan, RosterRow } from '#contract/roster.ts';
import { matchColumns, rowsOf } from '#contract/roster-columns.ts';
import type { RubricPreview, RubricView } from '#contract/rubric-view.ts';
import { placeKey } from '#core/score/concerns.ts';
import { firstLink, startSchool } from '#server/account/first-start.ts';
import { checkPassword, invitedBy } from '#server/account/invite.ts';
import { signIn } from '#server/account/sign-in.ts';
import { calendarOf, gradebookCsv, oneRosterZip } from '#server/course/out.ts';
import { daysBetween, shifted } from '#server/course/setup.ts';
import { marksOf, membersOf, sittingsIn } from '#server/course/view.ts';
import { sql } from '#server/database/port.ts';
import { gradedOf } from '#server/grading/evidence.ts';
import { attemptById } from '#server/grading/rows.ts';
import { csvOf } from '../../src/files/csv.ts';
import { memoryDatabase, openSchool, PEOPLE, type School, SOUND, STRANGER } from '../helpers/school.ts';

const { maren, ines, greta } = PEOPLE;
let school: School;
beforeAll(async () => {
  school = await openSchool();
  // What its file holds is nobody's question here, but a master without one cannot be chosen.
  const kept = await school.app.files.keep(new TextEncoder().encode('a master'));
  await school.app.db.run(sql`insert into stored_file (sha256, size_bytes) values (${kept.sha256}, ${kept.size})`);
  await school.app.db.run(sql`update master set file_sha256 = ${kept.sha256}`);
});
afterAll(() => school.close());

type Answer = { status: number; answer: { message: string; id: string; seen: string } & RosterPlan };
const call = (who: typeof maren | typeof ines | typeof greta | typeof STRANGER, address: string, payload?: unknown, id = 'c1') =>
  school.call(address, who, { id }, payload) as unknown as Promise<Answer>;
const row = (o: Partial<RosterRow>): RosterRow => ({
  line: 2,
  id: '',
  given: '',
  family: '',
  signIn: '',
  email: '',
  role: 'student',
  bench: '',
  group: '',
  ...o,
});
const roster = (...rows: RosterRow[]) => ({ fileName: 'autumn.csv', rows });
const plan = (r: ReturnType<typeof roster>) => call(maren, '/api/courses/[id]/roster-plan', r);
const Count = v.object({ n: v.number() });
const count = async (statement: ReturnType<typeof sql>) => (await school.app.db.one(Count, statement)).n;

describe('a roster', () => {
  const two = roster(
    row({ id: 'N1', given: 'Jürgen', family: 'Müller', email: 'jm@harbour.test', bench: 'B4-01' }),
    row({ line: 3, id: 'N2', given: 'Zoë', family: 'Øst' }),
  );
  let made: string;
  it('is the director’s to take in', async () => {
    expect((await call(ines, '/api/courses/[id]/roster-plan', two)).status).toBe(403);
    expect((await call(STRANGER, '/api/courses/[id]/roster-plan', two)).status).toBe(404);
  });
  it('says line by line what it would change, and writes nothing', async () => {
    const { answer } = await plan(
      roster(
        ...two.rows,
        row({ line: 4, id: 'N2', given: 'Zoë', family: 'Øst' }),
        row({ line: 5, id: 'N1', given: 'Jürgen', family: 'Meier' }),
        row({ line: 6, family: 'Nobody' }),
        row({ line: 7, id: 'N3' }),
        row({ line: 8, id: 'N4', family: 'Copy', signIn: 'H07' }),
      ),
    );
    expect(answer.changes.map((c) => c.kind)).toEqual([
      'new',
      'new',
      'same',
      'refused',
      'refused',
      'refused',
      expect.stringMatching(/new|refused/),
    ]);
    expect(answer.changes[3].note).toMatch(/Line 2 says something else of N1/);
    expect(answer.changes[4].note).toMatch(/neither a number/);
    expect(answer.changes[5].note).toMatch(/no name/);
    expect(await count(sql`select count(*) as n from person where id like 'N%'`)).toBe(0);
  });
  it('is taken in as it was seen, and only so', async () => {
    const { answer } = await plan(two);
    expect((await call(maren, '/api/courses/[id]/roster', { roster: two, seen: 'something else' })).status).toBe(409);
    const done = await call(maren, '/api/courses/[id]/roster', { roster: two, seen: answer.seen });
    expect(done.status).toBe(200);
    made = done.answer.id;
    const people = await membersOf(school.app.db, 'c1');
    expect(people.find((p) => p.id === 'N1')).toMatchObject({
      name: 'Jürgen Müller',
      sign_in_name: 'jm',
      bench: 'B4-01',
      has_password: false,
    });
    expect((await plan(two)).answer.changes.map((c) => c.kind)).toEqual(['same', 'same']);
  });
  it('an empty cell says nothing: what is known stays', async () => {
    const { answer } = await plan(roster(row({ id: 'N1', given: 'Jürgen', family: 'Müller-Lund' })));
    expect(answer.changes[0]).toMatchObject({
      kind: 'changed',
      after: { name: 'Jürgen Müller-Lund', email: 'jm@harbour.test', bench: 'B4-01' },
    });
  });
  it('of somebody who belongs to another director’s course nothing is shown or changed', async () => {
    const { answer } = await plan(roster(row({ id: 'I9', given: 'Other', family: 'Name', signIn: 'mine', role: 'instructor' })));
    expect(JSON.stringify(answer.changes)).not.toContain('Sten');
    expect(answer.changes[0]).toMatchObject({ kind: 'new', after: { signIn: '', email: null } });
    await call(maren, '/api/courses/[id]/roster', {
      roster: roster(row({ id: 'I9', given: 'Other', family: 'Name', signIn: 'mine', role: 'instructor' })),
      seen: answer.seen,
    });
    expect(await count(sql`select count(*) as n from person where id = 'I9' and name = 'Sten Marrow'`)).toBe(1);
    // Nor is a link to a new password given for them.
    expect((await call(maren, '/api/courses/[id]/invite', { people: ['I9'] })).answer).toMatchObject({
      invited: [],
      left: ['Sten Marrow'],
    });
  });
  it('is taken back whole, but for whom already worked', async () => {
    await school.app.db.run(sql`insert into attempt (sitting_id, student_id) values ('w2', 'N2')`);
    const { answer } = await call(maren, '/api/courses/[id]/roster-undo', { roster: made });
    expect(answer).toMatchObject({ kept: ['N2'] });
    expect(await count(sql`select count(*) as n from person where id = 'N1'`)).toBe(0);
    expect(await count(sql`select count(*) as n from enrolment where person_id = 'N2'`)).toBe(1);
    expect((await call(maren, '/api/courses/[id]/roster-undo', { roster: made })).status).toBe(409);
  });
});

describe('a password', () => {
  it('is set once by a link, which then has ended', async () => {
    const { answer } = (await call(maren, '/api/courses/[id]/invite', { people: ['N2'] })) as unknown as {
      answer: { invited: { path: string }[] };
    };
    const token = answer.invited[0].path.split('/').pop() as string;
    expect((await invitedBy(school.app.db, token))?.name).toBe('Zoë Øst');
    const set = (password: string) => school.call('/api/welcome', null as never, {}, { token, password });
    expect((await set('short')).status).toBe(422);
    expect((await set('password123')).status).toBe(422);
    expect((await set('three words in a row')).status).toBe(200);
    expect((await set('three other words here')).status).toBe(404);
    expect((await signIn(school.app.db, 'n2', 'three words in a row'))?.person.name).toBe('Zoë Øst');
  });
  it('that anybody would try is refused', () => {
    for (const bad of ['aaaaaaaaaaaa', 'qwertyuiop', 'veronika.lind']) expect(() => checkPassword(bad, 'veronika.lind')).toThrow();
    expect(() => checkPassword('lamp river forty', 'veronika.lind')).not.toThrow();
  });
});

describe('the course', () => {
  let exercise: string;
  it('gets an exercise by master and rubric, whose standard says the kind', async () => {
    const bad = await call(maren, '/api/courses/[id]/exercises', {
      title: 'X',
      master: 'nobody',
      rubric: 'metal-crown-practice',
      minutes: '',
    });
    expect(bad.status).toBe(404);
    const done = await call(maren, '/api/courses/[id]/exercises', {
      title: 'Metal crown',
      master: 'm',
      rubric: 'metal-crown-practice',
      minutes: 90,
    });
    exercise = done.answer.id;
    const { exercises } = (await call(maren, '/api/courses/[id]')).answer as unknown as {
      exercises: { id: string; kind: string; tooth: string; rubric: string }[];
    };
    expect(exercises.find((e) => e.id === exercise)).toMatchObject({ kind: 'crown', tooth: '16', rubric: 'Metal crown: practice' });
  });
  it('gets a sitting; one that ends before it begins is refused with the field', async () => {
    const form = { exercise, title: 'Monday', heldOn: '2026-11-02', startsAt: '13:00', endsAt: '12:00', room: 'Lab 2', isResit: false };
    expect((await call(maren, '/api/courses/[id]/sittings', form)).answer.message).toMatch(/end after it begins/);
    expect((await call(maren, '/api/courses/[id]/sittings', { ...form, endsAt: '16:00' })).status).toBe(200);
    expect((await call(ines, '/api/courses/[id]/sittings', { ...form, endsAt: '16:00' })).status).toBe(403);
  });
  it('is copied for the next term: weekdays stay, students and marks do not come along', async () => {
    const copy = { name: 'Practice 2', term: 'spring 2027', startsOn: '2027-03-01', endsOn: '' };
    const { answer } = (await call(maren, '/api/courses/[id]/copy', copy)) as unknown as {
      answer: { id: string; exercises: number; sittings: number };
    };
    expect(answer).toMatchObject({ exercises: 2, sittings: 3 });
    const sittings = await sittingsIn(school.app.db, [answer.id]);
    const weekday = (d: string) => new Date(`${d}T00:00:00Z`).getUTCDay();
    // 19 October, 26 October and 2 November 2026 are Mondays, and 1 March 2027 is one.
    expect(sittings.map((s) => [weekday(s.held_on), s.held_on])).toEqual([
      [1, '2027-03-01'],
      [1, '2027-03-08'],
      [1, '2027-03-15'],
    ]);
    expect(sittings[2]).toMatchObject({ starts_at: '13:00', room: 'Lab 2', attempts: 0 });
    expect((await membersOf(school.app.db, answer.id)).map((p) => p.role)).not.toContain('student');
  });
  it('days between are whole, whatever clocks do in between', () => {
    expect(daysBetween('2026-10-24', '2026-10-26')).toBe(2);
    expect(shifted('2026-12-28', 7)).toBe('2027-01-04');
  });
});

describe('a rubric', () => {
  const path = '/api/courses/[id]/rubrics/[rubric]';
  const at = (who: typeof maren, payload?: unknown, more = '') =>
    school.call(`${path}${more}`, who, { id: 'c1', rubric: 'small' }, payload) as unknown as {
      status: number;
      answer: RubricView & RubricPreview & { message: string };
    };
  let attempt: number;
  it('is tried on what was signed with it: whose marks would move, and who would pass', async () => {
    attempt = await school.measured(greta, SOUND);
    const seen = (await gradedOf(school.app.db, (await attemptById(school.app.db, attempt)) as never, 1)).seen;
    expect((await school.call('/api/attempts/[id]/sign', ines, { id: String(attempt) }, { seen })).status).toBe(200);
    const { answer: view } = await at(maren);
    expect([view.attempts, view.version, view.versions[0].signed]).toEqual([1, 1, 1]);
    const [target] = view.body.criteria[0].targets;
    const past = view.past.find((p) => p.place === placeKey(target));
    expect(past?.values).toHaveLength(1);
    // Nothing changed, nothing moves.
    expect((await at(maren, { body: view.body }, '/preview')).answer).toMatchObject({ attempts: 1, moved: [] });
    // A band that the attempt lies outside of costs its weight's share.
    const strict = structuredClone(view.body);
    const beyond = { lo: (past?.values[0] ?? 0) + 5, hi: null };
    Object.assign(strict.criteria[0].targets[0], { band: beyond, fair: beyond, poor: beyond });
    const { answer: p } = await at(maren, { body: strict }, '/preview');
    expect(p.moved).toMatchObject([{ attempt, student: 'Greta Pohl' }]);
    expect(p.moved[0].after).toBeLessThan(p.moved[0].before as number);
  });
  it('is kept as the next version, on which its exercises go on; the signed grade keeps its own', async () => {
    const { answer: view } = await at(maren);
    const wider = structuredClone(view.body);
    wider.passMark = 42;
    expect((await at(ines as never, { body: wider, version: 1 })).status).toBe(403);
    expect((await at(maren, { body: { ...wider, id: 'other' }, version: 1 })).status).toBe(422);
    expect((await at(maren, { body: wider, version: 1 })).status).toBe(200);
    expect((await at(maren, { body: wider, version: 1 })).status).toBe(409);
    const after = (await at(maren)).answer;
    expect([
      after.version,
      after.body.passMark,
      after.exercises.map((e) => e.version),
      after.versions.map((q) => [q.version, q.signed]),
    ]).toEqual([
      2,
      42,
      [2],
      [
        [2, 0],
        [1, 1],
      ],
    ]);
  });
  it('with a band that no reading is sure enough for is not kept', async () => {
    const { answer: view } = await at(maren);
    const thin = structuredClone(view.body);
    const { lo, hi } = thin.criteria[0].targets[0].band;
    const from = lo ?? hi ?? 0;
    thin.criteria[0].targets[0].band = { lo: from, hi: from + 0.001 };
    const done = await at(maren, { body: thin, version: 2 });
    expect([done.status, done.answer.message]).toEqual([422, expect.stringMatching(/narrower than its reading is sure/)]);
  });
});

describe('what goes out', () => {
  const people = [
    {
      id: 'H07',
      name: 'Greta Pohl',
      sign_in_name: 'greta',
      email: null,
      role: 'student',
      bench: '=1+1',
      group_name: null,
      has_password: true,
      attempts: 1,
    },
    {
      id: 'D1',
      name: 'Maren Holt',
      sign_in_name: 'maren',
      email: null,
      role: 'director',
      bench: null,
      group_name: null,
      has_password: true,
      attempts: 0,
    },
  ];
  const sittings = [
    {
      id: 's1',
      exercise_id: 'x',
      exercise_title: 'Crown, 16',
      title: 'Week “1”',
      held_on: '2026-10-19',
      starts_at: '13:00',
      ends_at: '16:30',
      room: 'Lab, 2',
      is_resit: false,
      graders: [],
      absent: 0,
      attempts: 1,
      signed: 1,
    },
    {
      id: 's2',
      exercise_id: 'x',
      exercise_title: 'Crown, 16',
      title: 'Week 2',
      held_on: '2026-10-26',
      starts_at: null,
      ends_at: null,
      room: null,
      is_resit: false,
      graders: ['Maren Ito'],
      absent: 1,
      attempts: 0,
      signed: 0,
    },
  ];
  const marks = [{ student_id: 'H07', sitting_id: 's1', total: 82, passed: true, released: true, signed_at: '2026-10-20T10:00:00Z' }];
  const absences = [{ student_id: 'H07', sitting_id: 's2', reason: 'ill' }];
  it('a gradebook has a line a student, and no cell that a spreadsheet would run', () => {
    const { data } = Papa.parse<string[]>(gradebookCsv({ people, sittings, marks, absences }).replace('\ufeff', ''), {
      skipEmptyLines: true,
    });
    expect(data).toHaveLength(2);
    expect(data[0].slice(4)).toEqual(['2026-10-19 Crown, 16: Week “1”', 'result', '2026-10-26 Crown, 16: Week 2', 'result']);
    expect(data[1]).toEqual(['H07', 'Greta Pohl', "'=1+1", '', '82', 'passed', '', 'absent']);
    for (const bad of ['=cmd()', '+1', '-1+2', '@SUM(A1)', '\tx']) expect(csvOf(['a'], [[bad]])).toContain(`'${bad}`);
    expect(csvOf(['a'], [[-1.5]])).toContain('\r\n-1.5\r\n');
  });
  it('a OneRoster archive names its files in the manifest, and its keys point to one another', () => {
    const files = unzipSync(
      oneRosterZip({ id: 'c1', name: 'Practice', term: 'autumn' }, { people, sittings, marks, absences }, '2026-11-28T00:00:00Z'),
    );
    const table = (n: string) =>
      Papa.parse<Record<string, string>>(new TextDecoder().decode(files[n]), { header: true, skipEmptyLines: true }).data;
    const manifest = new Map(table('manifest.csv').map((r) => [r.propertyName, r.value]));
    expect([manifest.get('oneroster.version'), manifest.get('file.results'), manifest.get('file.demographics')]).toEqual([
      '1.2',
      'bulk',
      'absent',
    ]);
    for (const [k, how] of manifest) if (k.startsWith('file.')) expect(Boolean(files[`${k.slice(5)}.csv`])).toBe(how === 'bulk');
    const users = new Set(table('users.csv').map((u) => u.sourcedId));
    // What goes out comes in again: the same people with the same roles.
    const tables = Object.fromEntries(ROSTER_TABLES.map((t) => [t, table(`${t}.csv`)]));
    const lines = classLines(tables, classesOf(tables)[0].id);
    const rows = rowsOf(lines, matchColumns(Object.keys(lines[0])));
    expect(rows.map((r) => [r.id, `${r.given} ${r.family}`, r.role])).toEqual(people.map((p) => [p.id, p.name, p.role]));
    for (const e of table('enrollments.csv')) expect([users.has(e.userSourcedId), e.classSourcedId]).toEqual([true, 'c1']);
    expect(table('results.csv')).toMatchObject([
      { lineItemSourcedId: 's1', studentSourcedId: 'H07', score: '82', scoreStatus: 'fully graded' },
      { lineItemSourcedId: 's2', studentSourcedId: 'H07', score: '', scoreStatus: 'not submitted', missing: 'true' },
    ]);
    expect(table('lineItems.csv').map((l) => [l.resultValueMax, l.dueDate])).toEqual([
      ['100', '2026-10-19'],
      ['100', '2026-10-26'],
    ]);
  });
  it('a calendar is read by another program with its day, hours and room', () => {
    const events = new ICAL.Component(ICAL.parse(calendarOf(sittings, 'Harbour Lane')))
      .getAllSubcomponents('vevent')
      .map((e) => new ICAL.Event(e));
    expect(events.map((e) => [e.summary, e.location, e.startDate.toString(), e.endDate.toString()])).toEqual([
      ['Crown, 16: Week “1”', 'Lab, 2', '2026-10-19T13:00:00', '2026-10-19T16:30:00'],
      ['Crown, 16: Week 2', null, '2026-10-26', '2026-10-27'],
    ]);
  });
  it('marks are those of the newest signed version', async () => {
    const [mark] = await marksOf(school.app.db, 'c1');
    expect(mark).toMatchObject({ student_id: 'H07', sitting_id: 'w1', released: false });
  });
  it('a search finds students, sittings and attempts by all of its words', async () => {
    const { answer } = (await school.call('/api/search', maren, {}, undefined)) as unknown as { answer: string };
    expect(answer).toBe('[]');
  });
});

describe('an empty installation', () => {
  it('is taken over by its one-time link, once', async () => {
    const db = await memoryDatabase();
    const a = {
      ...school.app,
      db,
      records: { act: (work: (q: typeof db, note: () => Promise<void>) => Promise<unknown>) => work(db, async () => undefined) } as never,
    };
    const { migrate } = await import('#server/database/migrate.ts');
    await migrate(db, 'src/migrations');
    const link = (await firstLink(db)) as string;
    const token = link.split('/').pop() as string;
    const form = {
      school: 'Harbour Lane',
      course: 'Practice 2',
      term: 'autumn',
      name: 'Maren Holt',
      signIn: 'Maren',
      password: 'lamp river forty',
    };
    await expect(startSchool(a, 'guess', form)).rejects.toThrow(/has ended/);
    await expect(startSchool(a, token, { ...form, password: 'password123' })).rejects.toThrow(/anybody would try/);
    expect(await startSchool(a, token, form)).toBe('maren');
    expect(Object.values((await signIn(db, 'maren', 'lamp river forty'))?.person.roles ?? {})).toEqual([['director']]);
    expect(await firstLink(db)).toBeNull();
    await expect(startSchool(a, token, form)).rejects.toThrow(/has ended/);
    await db.close();
  });
});
