import * as v from 'valibot';
import { unpackDisplay } from '#contract/display.ts';
import { REPORT } from '#words/report.ts';
import { placeWords, profileIndex } from '#words/sides.ts';
import { glbOf, planSvg, plyOf, sectionDxf, sectionSvg } from '../../files/shapes.ts';
import type { Person, Subject } from '../access/table.ts';
import { may } from '../access/table.ts';
import type { App } from '../app.ts';
import { sql } from '../database/port.ts';
import { Refused } from '../errors.ts';
import { measurementById } from '../grading/rows.ts';
import { UNDRAWN } from '../scans/undrawn.ts';
import { curvesCsv, readingsCsv } from './csv.ts';
import { type Reported, reportOf } from './model.ts';
import { attemptPdf, type Drawing, drawingOf, listPdf } from './pdf.ts';
import type { Paper } from './sheet.ts';

export const FORMS = ['pdf', 'csv', 'curves', 'json', 'ply', 'glb', 'section-svg', 'section-dxf', 'plan-svg'] as const;
export type Form = (typeof FORMS)[number];

export interface Sent {
  readonly content: string | Uint8Array;
  readonly type: string;
  readonly name: string;
}

/** Picture and sections of a report's measurement; null where nothing was scanned, or a demo scan cannot be cut again. */
async function drawingFor(a: Pick<App, 'db' | 'files' | 'redraw'>, { view }: Reported): Promise<Drawing | null> {
  if (!view.measurement) return null;
  const find = () => measurementById(a.db, (view.measurement as { id: number }).id);
  let m = await find();
  if (m?.display_sha256 === UNDRAWN && a.redraw) {
    await a.redraw.measurement(m.id);
    m = await find();
  }
  if (!m || m.display_sha256 === UNDRAWN) return null;
  const [display, profiles] = await Promise.all([a.files.unpacked(m.display_sha256), a.files.unpacked(m.profiles_sha256)]);
  return drawingOf(display, new TextDecoder().decode(profiles));
}

type Shape = Exclude<Form, 'pdf' | 'csv' | 'curves' | 'json'>;

/** A drawing of the measurement in a format of others: the coloured tooth, a cut at an azimuth, the outline from above. */
async function shapeOf(a: App, reported: Reported, form: Shape, at: number, name: string): Promise<Sent> {
  const { view, report } = reported;
  const drawing = await drawingFor(a, reported);
  if (!drawing) throw new Refused('conflict', view.measurement ? REPORT.notDrawn : REPORT.byHandOnly);
  const { header, meshes } = unpackDisplay(drawing.display.slice().buffer);
  const scan = meshes.find((m) => m.name === 'scan');
  if (!scan) throw new Refused('conflict', REPORT.notDrawn);
  const profile = (azimuth: number) => drawing.profiles[profileIndex(azimuth, drawing.profiles.length)];
  const cut = { near: profile(at), far: profile(at + 180) };
  const words = `${report.attempt.exercise}, ${report.student.id}, ${REPORT.sectionWords(placeWords(at), placeWords(at + 180))}`;
  switch (form) {
    case 'ply':
      return { content: plyOf(scan, view.bands), type: 'application/octet-stream', name: `${name}.ply` };
    case 'glb':
      return { content: await glbOf(scan, view.bands), type: 'model/gltf-binary', name: `${name}.glb` };
    case 'section-svg':
      return { content: sectionSvg(cut, words), type: 'image/svg+xml', name: `${name}-section-${at}.svg` };
    case 'section-dxf':
      return { content: sectionDxf(cut), type: 'image/vnd.dxf', name: `${name}-section-${at}.dxf` };
    case 'plan-svg': {
      const plan = planSvg(view.curves, header.mesialSign, report.attempt.exercise);
      if (plan === null) throw new Refused('conflict', REPORT.noPlan);
      return { content: plan, type: 'image/svg+xml', name: `${name}-plan.svg` };
    }
  }
}

/** A report about one attempt, as its student may have it or as graders do; a section at an azimuth in degrees from facial over mesial. */
export async function attemptReport(
  a: App,
  who: Person | null,
  subject: Subject | null,
  id: number,
  { as: form, paper, at }: { readonly as: Form; readonly paper: Paper; readonly at: number },
): Promise<Sent> {
  const isGrader = subject !== null && may(who, 'score.see', { course: subject.course });
  const reported = await reportOf(a.db, id, !isGrader);
  if (!reported) throw new Refused('conflict', isGrader ? REPORT.nothing : REPORT.notYours);
  const { report, view } = reported;
  const name = `attempt-${id}`;
  switch (form) {
    case 'json':
      return { content: JSON.stringify(report, null, 1), type: 'application/json', name: `${name}.json` };
    case 'csv':
      return { content: readingsCsv([report]), type: 'text/csv; charset=utf-8', name: `${name}-readings.csv` };
    case 'curves':
      return { content: curvesCsv(view.curves), type: 'text/csv; charset=utf-8', name: `${name}-curves.csv` };
    case 'pdf':
      return { content: await attemptPdf(reported, await drawingFor(a, reported), paper), type: 'application/pdf', name: `${name}.pdf` };
    default:
      return shapeOf(a, reported, form, at, name);
  }
}

const Row = v.object({ id: v.number(), name: v.string(), number: v.string(), signed: v.boolean() });
/** Attempts of a sitting, by student. */
const inSitting = (a: Pick<App, 'db'>, sitting: string) =>
  a.db.any(
    Row,
    sql`select a.id, p.name, p.id as number, exists (select 1 from grade g where g.attempt_id = a.id and g.round <> 2) as signed
        from attempt a join person p on p.id = a.student_id where a.sitting_id = ${sitting} order by p.name, a.number`,
  );

/** All reports of a sitting as one table, one file of JSON, or the list for an examinations board. */
export async function sittingReport(a: App, sitting: string, form: 'pdf' | 'csv' | 'json', paper: Paper): Promise<Sent> {
  const rows = await inSitting(a, sitting);
  const reports = [];
  for (const r of rows.filter((q) => q.signed)) {
    const reported = await reportOf(a.db, r.id, false);
    if (reported) reports.push(reported.report);
  }
  if (reports.length === 0) throw new Refused('conflict', REPORT.nothing);
  if (form === 'json') return { content: JSON.stringify(reports, null, 1), type: 'application/json', name: `sitting-${sitting}.json` };
  if (form === 'csv') return { content: readingsCsv(reports), type: 'text/csv; charset=utf-8', name: `sitting-${sitting}-readings.csv` };
  const title = REPORT.listTitle(reports[0].attempt.exercise, reports[0].attempt.sitting);
  const waiting = rows.filter((r) => !r.signed).map((r) => r.name);
  return { content: await listPdf(title, reports, waiting, paper), type: 'application/pdf', name: `sitting-${sitting}.pdf` };
}
