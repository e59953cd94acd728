import * as v from 'valibot';
import type { Compared, Occlusion, Trial } from '#contract/master-draft.ts';
import { fromThreePoints, type PointPair } from '#core/align/three-points.ts';
import { isCounterpart } from '#core/annotate/carry.ts';
import { permit } from '../access/gate.ts';
import { SUBJECTS } from '../access/subjects.ts';
import type { Person } from '../access/table.ts';
import type { App } from '../app.ts';
import { sql } from '../database/port.ts';
import { Refused } from '../errors.ts';
import { open, stored } from './drafts.ts';
import { partsOf, ready } from './finish.ts';
import { inChild } from './in-child.ts';
import { draftById, latestScans, mastersFor } from './rows.ts';

export interface Occluding {
  readonly by: Occlusion['by'];
  readonly settle: boolean;
  readonly pairs: readonly PointPair[] | null;
}

/** Brings the opposing arch to its place: as it lies in its file, by the bite scan, or by three places named on both. */
export async function occlude(a: App, who: Person | null, id: string, o: Occluding): Promise<Occlusion> {
  const d = await open(a.db, who, id);
  const { marks, opposing_sha256 } = d;
  if (!opposing_sha256)
    throw new Refused('conflict', 'There is no opposing arch. Bring the arch again together with what bites against it.');
  if (!marks) throw new Refused('conflict', 'Touch the tooth first: the bite closes along its long axis.');
  if (o.by === 'bite' && !d.bite_sha256) throw new Refused('conflict', 'There is no bite scan. Name three places on both jaws instead.');
  const start = o.by === 'points' && o.pairs ? fromThreePoints(o.pairs) : null;
  if (o.by === 'points' && !start)
    throw new Refused(
      'malformed',
      'These three places lie too close together or in one line. Choose places farther apart, on different teeth.',
    );
  const r = await a.files.withFolder(async (outFolder) => {
    const found = await inChild(
      a.children.run<'occlude'>({
        kind: 'occlude',
        archFile: a.files.pathOf(d.arch_sha256),
        factor: d.factor,
        opposingFile: a.files.pathOf(opposing_sha256),
        biteFile: o.by === 'bite' && d.bite_sha256 ? a.files.pathOf(d.bite_sha256) : null,
        start: start && [...start],
        tooth: d.tooth,
        marks,
        settle: o.settle,
        outFolder,
      }),
    );
    return { ...found, kept: await a.files.keepFile(found.display) };
  });
  await a.records.act(async (q, note) => {
    await stored(q, r.kept);
    // What was drawn meanwhile stays: only the opposing axes are written into the marks.
    await q.run(
      sql`update master_draft set occlusion = ${JSON.stringify(r.occlusion)}::jsonb, opposing_display_sha256 = ${r.kept.sha256}, trial = null,
            marks = marks || jsonb_build_object('opposingAxes', ${JSON.stringify(r.axes)}::jsonb), version = version + 1, changed_at = now() where id = ${id}`,
    );
    await note({ person: who?.id ?? null, action: 'master.occlude', subject: `master ${id}`, details: { by: o.by, settled: o.settle } });
  });
  return r.occlusion;
}

/** Cuts a plain crown into the master as it stands, measures it, and keeps what was cut beside what was read. */
export async function tryMaster(a: App, who: Person | null, id: string): Promise<Trial> {
  permit(who, 'master.keep', await SUBJECTS.draft(a.db, id));
  const d = ready(await draftById(a.db, id));
  const { lines } = await inChild(a.children.run<'trial'>({ kind: 'trial', ...partsOf(a, d) }));
  const trial: Trial = { lines: [...lines], of_version: d.version };
  await a.records.act(async (q, note) => {
    await q.run(sql`update master_draft set trial = ${JSON.stringify(trial)}::jsonb where id = ${id}`);
    await note({ person: who.id, action: 'master.trial', subject: `master ${id}` });
  });
  return trial;
}

/** Takes over the marks of another master of this tooth, or of the same tooth of the other side; they are to be looked at. */
export async function takeMarks(a: App, who: Person | null, id: string, from: string): Promise<void> {
  const d = await open(a.db, who, id);
  const m = (await mastersFor(a.db, d.course_id)).find((x) => x.id === from);
  if (!m) throw new Refused('not-there', 'There is no such master here.');
  if (!isCounterpart(m.tooth, d.tooth))
    throw new Refused(
      'conflict',
      `“${m.name}” is a ${m.tooth}: marks can be taken over from the same tooth, or from that of the other side.`,
    );
  if (!d.marks || !d.trust || !d.parts_sha256) throw new Refused('conflict', 'Touch the tooth first, so that it is known where it stands.');
  const r = await inChild(
    a.children.run<'carry'>({
      kind: 'carry',
      masterFile: a.files.pathOf(m.file_sha256),
      archFile: a.files.pathOf(d.arch_sha256),
      factor: d.factor,
      partsFile: a.files.pathOf(d.parts_sha256),
      strokes: d.strokes,
      tooth: d.tooth,
      marks: d.marks,
    }),
  );
  // A form that lies within a tenth of a millimetre is the same tooth; any other is to be looked at.
  const word = r.rms < 0.1 ? 'sure' : 'look';
  const trust = { ...d.trust, axis: word, mesial: word, cusps: word, grooves: word, ridges: word, contacts: word, gingivalMargin: word };
  const marks = { ...d.marks, ...r.marks };
  await a.records.act(async (q, note) => {
    await q.run(
      sql`update master_draft set marks = ${JSON.stringify(marks)}::jsonb, trust = ${JSON.stringify(trust)}::jsonb, trial = null, version = version + 1, changed_at = now() where id = ${id}`,
    );
    await note({ person: who?.id ?? null, action: 'master.carry', subject: `master ${id}`, details: { from, rms_mm: r.rms } });
  });
}

/** Attempts that are measured again on a new version. */
const SAMPLE = 5;
const InUse = v.object({ id: v.string(), file_sha256: v.nullable(v.string()) });

/** What this finished master would change in an exercise: marks against the one in use, and its last attempts measured on both. */
export async function compareWith(a: App, who: Person | null, id: string, exercise: string): Promise<Compared> {
  permit(who, 'master.keep', await SUBJECTS.draft(a.db, id));
  const d = await draftById(a.db, id);
  if (!d.master_id) throw new Refused('conflict', 'Finish this master first.');
  const used = await a.db.maybeOne(
    InUse,
    sql`select m.id, m.file_sha256 from exercise e join master m on m.id = e.master_id where e.id = ${exercise} and e.course_id = ${d.course_id} and m.tooth = ${d.tooth}`,
  );
  if (!used?.file_sha256)
    throw new Refused('not-there', `There is no exercise on ${d.tooth} in this course whose master could be compared.`);
  if (used.id === d.master_id) throw new Refused('conflict', 'This exercise measures on this master already.');
  const own = await a.db.one(InUse, sql`select id, file_sha256 from master where id = ${d.master_id}`);
  const scans = await latestScans(a.db, exercise, SAMPLE);
  const found = await inChild(
    a.children.run<'compare'>({
      kind: 'compare',
      oldFile: a.files.pathOf(used.file_sha256),
      newFile: a.files.pathOf(own.file_sha256 as string),
      scans: scans.map((s) => ({
        scanFile: a.files.pathOf(s.sha256),
        name: s.file_name,
        preparation: s.kind,
        tooLargeBy: s.too_large_by ?? 1,
      })),
    }),
  );
  const compared: Compared = { ...found, with: used.id };
  await a.records.act(async (q, note) => {
    await q.run(sql`update master_draft set compared = ${JSON.stringify(compared)}::jsonb where id = ${id}`);
    await note({ person: who.id, action: 'master.compare', subject: `master ${id}`, details: { with: used.id, scans: scans.length } });
  });
  return compared;
}
