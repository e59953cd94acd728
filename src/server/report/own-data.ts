import { strToU8, type Zippable, zipSync } from 'fflate';
import * as v from 'valibot';
import { coursesOfStudent } from '../access/subjects.ts';
import type { Person } from '../access/table.ts';
import { settingsOf } from '../account/settings.ts';
import type { App } from '../app.ts';
import { happened } from '../at-bench/state.ts';
import { sql } from '../database/port.ts';
import { Refused } from '../errors.ts';
import { stepPhoto, stepPhotos } from '../photos/steps.ts';
import { progressView } from '../progress/progress.ts';
import { ownDay } from '../student/work.ts';
import { readingsCsv } from './csv.ts';
import { reportOf } from './model.ts';

const Done = v.object({ skill: v.string(), done_on: v.string() });

/** A student's own data as one archive: who they are, their attempts with the results that they have seen, what happened at their bench and their photographs of it, what they practised, how they progress. */
export async function ownData(a: Pick<App, 'db' | 'files'>, who: Person | null): Promise<Uint8Array> {
  if (!who) throw new Refused('signed-out', 'Sign in first.');
  const courses = await coursesOfStudent(a.db, who.id);
  const [{ attempts }, progress, settings, practised] = await Promise.all([
    ownDay(a.db, who.id, courses, '1970-01-01'),
    progressView(a.db, who.id, courses, true),
    settingsOf(a.db, who.id),
    a.db.any(Done, sql`select skill, done_on::text as done_on from practised where student_id = ${who.id} order by done_on`),
  ]);
  const reports = [];
  for (const t of attempts.filter((q) => q.state === 'seen')) {
    const reported = await reportOf(a.db, t.id, true);
    if (reported) reports.push(reported.report);
  }
  const bench = [];
  // Pictures are packed already.
  const pictures: Zippable = {};
  for (const t of attempts) {
    const { events, words } = await happened(a, t.id);
    const taken = await stepPhotos(a.db, t.id);
    const photos = [];
    for (const { id, ...photo } of taken) {
      const { sha256, media } = await stepPhoto(a.db, t.id, id);
      const file = `photographs/${t.id}-${photo.step}-${id}.${media === 'image/png' ? 'png' : 'jpg'}`;
      pictures[file] = [await a.files.read(sha256), { level: 0 }];
      photos.push({ ...photo, file });
    }
    if (events.length + words.length + photos.length) bench.push({ attempt: t.id, events, words, photos });
  }
  const json = (value: unknown): Uint8Array => strToU8(JSON.stringify(value, null, 1));
  return zipSync({
    'person.json': json({ id: who.id, name: who.name, roles: who.roles, settings }),
    'attempts.json': json(attempts),
    'reports.json': json(reports),
    'readings.csv': strToU8(readingsCsv(reports)),
    'bench.json': json(bench),
    'practised.json': json(practised),
    'progress.json': json(progress),
    ...pictures,
  });
}
