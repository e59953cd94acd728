// A sitting of many measured attempts on the server: npm run bench:tray -- [--attempts 2000]
// Times its tray the first time (all readings loaded), again, and after one judgement.
import { readFileSync } from 'node:fs';
import { parseArgs } from 'node:util';
import * as v from 'valibot';
import { RubricFile } from '#contract/rubric.ts';
import { sql } from '#server/database/port.ts';
import { trayOf } from '#server/view/tray.ts';
import { openSchool, PEOPLE } from '../test/helpers/school.ts';

const { values } = parseArgs({ options: { attempts: { type: 'string', default: '2000' } } });
const count = Number(values.attempts);
const school = await openSchool();
const { db } = school.app;
const rubric = v.parse(RubricFile, JSON.parse(readFileSync('data/rubrics/zirconia-posterior-practice.json', 'utf8')));
await db.run(sql`update rubric_version set body = ${rubric}`);
// One attempt as a measurement leaves it: every reading of the rubric, and ten times as many that the tray does not show.
const wanted = [...rubric.criteria.flatMap((c) => c.targets), ...rubric.critical].map((t) => ({
  name: t.reading,
  ...(t.zone ? { zone: t.zone } : {}),
  stat: t.stat,
  value: 1.02,
}));
const others = Array.from({ length: 10 * wanted.length }, (_, i) => ({
  name: 'reduction.sites',
  zone: `place ${i}`,
  stat: 'value',
  value: 1,
}));
const began = performance.now();
await school.measured(PEOPLE.greta, [...wanted, ...others]);
// The rest are copies of it, each with a student, an attempt and a scan of its own.
const n = count - 1;
await db.run(
  sql`insert into person (id, name, sign_in_name, password_hash) select 'X' || i, 'Student ' || i, 'x' || i, 'none' from generate_series(1, ${n}::int) i`,
);
await db.run(sql`insert into enrolment (course_id, person_id, role) select 'c1', 'X' || i, 'student' from generate_series(1, ${n}::int) i`);
await db.run(sql`insert into attempt (sitting_id, student_id) select 'w1', 'X' || i from generate_series(1, ${n}::int) i`);
await db.run(sql`insert into scan (sitting_id, attempt_id, file_name, sha256, version, brought_by, state, step)
  select 'w1', a.id, a.student_id || '.stl', s.sha256, 1, 'A1', 'measured', 'final' from attempt a, scan s where a.student_id like 'X%' and s.id = 1`);
await db.run(sql`insert into measurement (scan_id, scan_sha256, kind, duration_ms, peak_mb, alignment, curves, display_sha256, profiles_sha256, picture_sha256)
  select s.id, m.scan_sha256, m.kind, 1, 1, m.alignment, m.curves, m.display_sha256, m.profiles_sha256, m.picture_sha256 from scan s, measurement m where s.id > 1 and m.id = 1`);
await db.run(sql`insert into reading (measurement_id, name, zone, stat, unit, value, u, samples, reason)
  select m.id, r.name, r.zone, r.stat, r.unit, r.value, r.u, r.samples, r.reason from measurement m, reading r where m.id > 1 and r.measurement_id = 1`);
await db.run(
  sql`insert into graded_on (attempt_id, measurement_id) select s.attempt_id, m.id from scan s join measurement m on m.scan_id = s.id where s.id > 1`,
);
process.stderr.write(
  `${count} attempts with ${wanted.length + others.length} readings each written in ${((performance.now() - began) / 1000).toFixed(1)} s\n`,
);

const timed = async (what: string): Promise<void> => {
  const t = performance.now();
  const rows = await trayOf({ db, jobs: { progressOf: () => null } }, 'w1', PEOPLE.ines, 'c1');
  const took = performance.now() - t;
  process.stdout.write(
    `| ${what} | ${rows.length} rows | ${took.toFixed(0)} ms | ${(JSON.stringify(rows).length / 1024).toFixed(0)} kB |\n`,
  );
};
process.stdout.write('| the tray | rows | answered in | size |\n|---|---|---|---|\n');
await timed('the first time');
await timed('again');
await timed('again');
await db.run(sql`insert into judgement (attempt_id, line, level, person_id) values (1, ${rubric.criteria[0].id}, 2, 'I2')`);
await timed('after one was judged');
await school.close();
