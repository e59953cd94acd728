import * as v from 'valibot';
import { type RubricFile, rubricFrom } from '#contract/rubric.ts';
import { limitless, type StandardFile, standardFrom } from '#contract/standard.ts';
import type { StandardLineView, StandardView } from '#contract/standard-view.ts';
import { KIND_NAMES, type KindName } from '#core/kinds/kinds.ts';
import { Fault } from '#core/result/fault.ts';
import { propose, type Style } from '#core/score/propose.ts';
import { STANDARD_WORDS } from '#words/standard.ts';
import { permit } from '../access/gate.ts';
import { SUBJECTS } from '../access/subjects.ts';
import type { Person } from '../access/table.ts';
import type { App } from '../app.ts';
import { vouch } from '../audit/chain.ts';
import { type Queries, sql } from '../database/port.ts';
import { Refused } from '../errors.ts';
import { type Shipped, shippedBodies, shippedBody, shippedRubrics, shippedStandard } from './shipped.ts';

const Version = v.object({ version: v.number(), body: v.unknown() });
const Kept = v.object({ version: v.number(), by: v.string(), made_at: v.string() });
const Known = v.object({ id: v.string(), version: v.number(), body: v.unknown() });

/** A standard as a course holds it: its own newest version, or the one that ships. */
export async function standardIn(
  q: Queries,
  a: Shipped,
  course: string,
  id: string,
): Promise<{ body: StandardFile; version: number } | null> {
  const own = await q.maybeOne(
    Version,
    sql`select version, body from standard_version where course_id = ${course} and standard_id = ${id} order by version desc limit 1`,
  );
  if (own) return { version: own.version, body: standardFrom(own.body, id) };
  const body = shippedStandard(a, id);
  return body && { version: 0, body };
}

/** The text of a standard as a course holds it now, for the record of a signed grade. */
export async function standardText(q: Queries, folder: string, course: string, id: string): Promise<unknown> {
  const own = await q.maybeOne(
    Version,
    sql`select version, body from standard_version where course_id = ${course} and standard_id = ${id} order by version desc limit 1`,
  );
  return own ? own.body : shippedBody(folder, id);
}

const WithKind = v.looseObject({
  id: v.string(),
  name: v.string(),
  school: v.string(),
  kind: v.picklist(KIND_NAMES as [KindName, ...KindName[]]),
});

/** All standards of a course, the ones that ship included, by name. */
export async function standardsOf(q: Queries, a: Shipped, course: string): Promise<StandardLineView[]> {
  const own = await q.any(
    Known,
    sql`select distinct on (standard_id) standard_id as id, version, body from standard_version where course_id = ${course} order by standard_id, version desc`,
  );
  const ship = [...shippedBodies(a)].map(([id, body]) => ({ id, version: 0, body }));
  return [...new Map([...ship, ...own].map((s) => [s.id, s])).values()]
    .map(({ version, body }) => {
      const { id, name, school, kind } = v.parse(WithKind, body);
      return { id, name, school, kind, version };
    })
    .sort((a, b) => a.name.localeCompare(b.name));
}

/** Kinds of preparation by standard. */
export const kindsOf = async (q: Queries, a: Shipped, course: string): Promise<Map<string, KindName>> =>
  new Map((await standardsOf(q, a, course)).map((s) => [s.id, s.kind as KindName]));

/** Which kind of preparation a rubric is for: its standard says so. */
export const kindOf = async (q: Queries, a: Shipped, course: string, standard: string): Promise<KindName | null> =>
  (await standardIn(q, a, course, standard))?.body.kind ?? null;

const Rubric = v.object({ id: v.string(), body: v.unknown(), exercises: v.number() });

/** Rubrics of one standard: the newest version of each, and how many of a course's exercises use it. */
async function rubricsOf(
  q: Queries,
  a: Shipped,
  course: string,
  standard: string,
): Promise<{ id: string; body: RubricFile; exercises: number }[]> {
  const kept = await q.any(
    Rubric,
    sql`select distinct on (r.rubric_id) r.rubric_id as id, r.body,
          (select count(*)::int from exercise e join rubric_version x on x.id = e.rubric_version_id where e.course_id = ${course} and x.rubric_id = r.rubric_id) as exercises
        from rubric_version r order by r.rubric_id, r.version desc`,
  );
  const ship = [...shippedRubrics(a).values()].map((body) => ({ id: body.id, body: body as unknown, exercises: 0 }));
  return [...new Map([...ship, ...kept].map((r) => [r.id, r])).values()]
    .map((r) => ({ ...r, body: rubricFrom(r.body, r.id) }))
    .filter((r) => r.body.standard === standard);
}

export async function standardView(a: Pick<App, 'db' | 'standardsFolder'>, course: string, id: string): Promise<StandardView> {
  const now = await standardIn(a.db, a, course, id);
  if (!now) throw new Refused('not-there', 'There is no such standard.');
  const [versions, rubrics] = await Promise.all([
    a.db.any(
      Kept,
      sql`select s.version, p.name as by, s.made_at from standard_version s join person p on p.id = s.made_by where s.course_id = ${course} and s.standard_id = ${id} order by s.version desc`,
    ),
    rubricsOf(a.db, a, course, id),
  ]);
  return {
    ...now,
    shipped: shippedStandard(a, id),
    versions,
    rubrics: rubrics.map((r) => ({ id: r.id, name: r.body.name, exercises: r.exercises })),
  };
}

function checkedStandard(id: string, body: unknown): StandardFile {
  try {
    const s = standardFrom(body, 'this standard');
    if (!/^[a-z0-9][\w-]{0,60}$/i.test(s.id))
      throw new Refused('not-valid', 'A standard’s short name has letters, digits and dashes only.');
    if (s.id !== id) throw new Refused('not-valid', `This standard calls itself “${s.id}”, not “${id}”.`);
    const band = [
      ...s.lines.flatMap((l) => l.fields.map((f) => ({ f, b: f.band }))),
      ...s.critical.map((c) => ({ f: c, b: c.allowed })),
    ].find(({ b }) => b.lo !== null && b.hi !== null && b.lo > b.hi);
    if (band) throw new Refused('not-valid', `The band of “${band.f.id}” ends before it begins.`);
    return s;
  } catch (e) {
    if (e instanceof Fault) throw new Refused('not-valid', e.message);
    throw e;
  }
}

/** A changed standard becomes the course's next version of it; rubrics and signed grades stay until somebody proposes them again. */
export const keepStandard = (a: App, who: Person | null, course: string, id: string, body: unknown, seen: number): Promise<number> =>
  a.records.act(async (q, note) => {
    permit(who, 'course.keep', await SUBJECTS.course(q, course));
    const standard = checkedStandard(id, body);
    const open = limitless(standard);
    if (open.length > 0) throw new Refused('not-valid', STANDARD_WORDS.limitless(open));
    const now = await standardIn(q, a, course, id);
    if ((now?.version ?? 0) !== seen)
      throw new Refused('conflict', 'Somebody else made a new version meanwhile. Load it and make your changes again.');
    if (now && now.body.kind !== standard.kind)
      throw new Refused('not-valid', 'What kind of preparation a standard is for cannot be changed; make one of another name instead.');
    const version = seen + 1;
    await q.run(
      sql`insert into standard_version (course_id, standard_id, version, body, made_by) values (${course}, ${id}, ${version}, ${JSON.stringify(standard)}::jsonb, ${who.id})`,
    );
    await note({ person: who.id, action: 'standard.change', subject: `standard ${id}`, details: { course, version } });
    return version;
  });

/**
 * A rubric of a standard as it would be proposed now: its own bands, lines and weights stay, and what it switched off stays off; what was the standard's follows it. Nothing
 * is written.
 */
export async function proposedAgain(a: Pick<App, 'db' | 'standardsFolder'>, course: string, rubric: RubricFile): Promise<RubricFile> {
  const standard = await standardIn(a.db, a, course, rubric.standard);
  if (!standard) throw new Refused('not-there', 'The standard of this rubric is not there.');
  const style: Style = rubric.scoring?.kind === 'examination' ? 'examination' : 'practice';
  const next = propose(standard.body, { id: rubric.id, name: rubric.name, style }, rubric);
  const lines = new Set(next.criteria.map((c) => c.id));
  const own = rubric.criteria.filter((c) => !lines.has(c.id) && c.field === undefined && c.targets.every((t) => t.field === undefined));
  // What the standard has always had and the rubric left out stays out; what the course added to its standard is offered.
  const shipped = shippedStandard(a, rubric.standard);
  const before = new Set(shipped?.critical.map((e) => e.id));
  const linesBefore = new Set(shipped?.lines.map((l) => l.id));
  const asked = next.criteria.filter((c) => rubric.criteria.some((q) => q.id === c.id) || !linesBefore.has(c.id));
  const critical = next.critical.filter((e) => rubric.critical.some((q) => q.id === e.id) || !before.has(e.id));
  const named = new Set(next.critical.map((e) => e.id));
  const ownErrors = rubric.critical.filter((e) => e.field === undefined && !named.has(e.id) && !before.has(e.id));
  const body = { ...next, criteria: [...asked, ...own], critical: [...critical, ...ownErrors] };
  return rubricFrom(JSON.parse(JSON.stringify(body)), rubric.id);
}

const Exists = v.object({ id: v.number() });

/** A new rubric of a standard: its lines with usual weights, to be weighed by the course. */
export const rubricFromStandard = (
  a: App,
  who: Person | null,
  course: string,
  standard: string,
  o: { id: string; name: string; style: Style },
): Promise<string> =>
  a.records.act(async (q, note) => {
    permit(who, 'course.keep', await SUBJECTS.course(q, course));
    const found = await standardIn(q, a, course, standard);
    if (!found) throw new Refused('not-there', 'There is no such standard.');
    if (shippedRubrics(a).has(o.id) || (await q.maybeOne(Exists, sql`select id from rubric_version where rubric_id = ${o.id} limit 1`)))
      throw new Refused('conflict', `A rubric “${o.id}” is there already. Give the new one another short name.`);
    const rubric = rubricFrom(JSON.parse(JSON.stringify(propose(found.body, o, null))), o.id);
    await q.run(sql`insert into rubric_version (rubric_id, version, body) values (${o.id}, 1, ${rubric})`);
    const made = await q.one(Exists, sql`select id from rubric_version where rubric_id = ${o.id}`);
    await note({
      person: who.id,
      action: 'rubric.make',
      subject: `rubric ${o.id}`,
      details: { course, standard },
      rows: await vouch(q, 'rubric_version', made.id),
    });
    return o.id;
  });
