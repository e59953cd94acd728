import * as v from 'valibot';

const text = (most: number) => v.pipe(v.string(), v.trim(), v.maxLength(most));
export const ROSTER_ROLES = ['director', 'instructor', 'assistant', 'student'] as const;

/** One line of a roster, whatever its file called the columns. `line` is its number in the file, for messages. */
export const RosterRow = v.object({
  line: v.pipe(v.number(), v.integer()),
  id: text(60),
  given: text(80),
  family: text(80),
  signIn: text(80),
  email: text(120),
  role: v.picklist(ROSTER_ROLES),
  bench: text(20),
  group: text(40),
});
export type RosterRow = v.InferOutput<typeof RosterRow>;

export const Roster = v.object({ fileName: text(200), rows: v.pipe(v.array(RosterRow), v.minLength(1), v.maxLength(2000)) });
export type Roster = v.InferOutput<typeof Roster>;

const Fields = v.object({
  name: v.string(),
  given: v.nullable(v.string()),
  family: v.nullable(v.string()),
  signIn: v.string(),
  email: v.nullable(v.string()),
  bench: v.nullable(v.string()),
  group: v.nullable(v.string()),
});
export type Fields = v.InferOutput<typeof Fields>;

/** What a line of the roster would change. */
export const RosterChange = v.object({
  line: v.number(),
  kind: v.picklist(['new', 'changed', 'same', 'refused']),
  id: v.string(),
  role: v.picklist(ROSTER_ROLES),
  /** The person or the enrolment is there already. */
  knew: v.object({ person: v.boolean(), enrolment: v.boolean() }),
  before: v.nullable(Fields),
  after: v.nullable(Fields),
  /** Why it is refused, or what was noticed. */
  note: v.nullable(v.string()),
});
export type RosterChange = v.InferOutput<typeof RosterChange>;

export const RosterPlan = v.object({
  changes: v.array(RosterChange),
  /** People of the course whom the file does not name; they stay. */
  unnamed: v.number(),
  /** Digest of the plan: applying names it, so that nothing else is applied than what was seen. */
  seen: v.string(),
});
export type RosterPlan = v.InferOutput<typeof RosterPlan>;
