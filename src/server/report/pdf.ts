import * as v from 'valibot';
import { ProfilesFile, type ProfileView } from '#contract/profiles.ts';
import type { AttemptReport, ReportLine, ReportReading } from '#contract/report.ts';
import type { BenchView } from '#contract/views.ts';
import { findEntry } from '#core/catalogue/catalogue.ts';
import { bandWords, handWords, sentence, valueWords, wantedWords } from '#words/readings.ts';
import { REPORT } from '#words/report.ts';
import { placeWords, profileIndex } from '#words/sides.ts';
import { CAUTION } from '#words/states.ts';
import { dayWords } from '#words/writing.ts';
import type { Reported } from './model.ts';
import { apart, PICTURE, pictureOf, placeOn, SIDES } from './pictures.ts';
import { LINE, type Paper, Sheet, SOFT } from './sheet.ts';

/** Files of the measurement that the pictures are drawn from; null where nothing was scanned, or it cannot be had. */
export interface Drawing {
  readonly display: Uint8Array;
  readonly profiles: readonly ProfileView[];
}

export const drawingOf = (display: Uint8Array, profiles: string): Drawing => ({
  display,
  profiles: v.parse(ProfilesFile, JSON.parse(profiles)).profiles,
});

const PETROL = '#0b5563';

/** Lines that cost marks, the dearest first; their numbers stand on the pictures and before the lines. */
function numbered(report: AttemptReport): ReadonlyMap<string, number> {
  const lost = report.lines.filter((l) => (l.lost ?? 0) > 0.05).sort((a, b) => (b.lost ?? 0) - (a.lost ?? 0));
  return new Map(lost.map((l, i) => [l.id, i + 1]));
}

function readWords(t: ReportReading): string {
  if (t.byHand) return `${handWords(t.byHand[0], t.byHand[1], t.unit)} ${REPORT.byHand}`;
  return valueWords(t.value, t.U, t.unit, t.reason);
}

function lineRow(l: ReportLine, number: number | undefined): string[] {
  const t = l.readings.find((q) => q.isDeciding) ?? l.readings[0];
  return [
    number ? String(number) : '',
    l.title,
    t ? readWords(t) : (l.question ?? ''),
    t && (t.lo !== null || t.hi !== null) ? bandWords(t.lo, t.hi, t.unit) : '',
    l.word + (l.decidedBy === 'person' ? ` ${REPORT.byPerson}` : ''),
    l.points === null
      ? '–'
      : l.points < 0 || (l.points === 0 && l.lost === 0)
        ? l.points.toFixed(1)
        : `${l.points.toFixed(1)} / ${l.of.toFixed(1)}`,
  ];
}

const COLUMNS = [
  { title: '', share: 0.05, font: 'figure' },
  { title: REPORT.columns.line, share: 0.28 },
  { title: REPORT.columns.read, share: 0.22, font: 'figure' },
  { title: REPORT.columns.target, share: 0.16, font: 'figure' },
  { title: REPORT.columns.level, share: 0.14 },
  { title: REPORT.columns.points, share: 0.15, font: 'figure', align: 'right' },
] as const;

/** The tooth from two sides with the numbers of the findings. */
function pictures(sheet: Sheet, view: BenchView, numbers: ReadonlyMap<string, number>, d: Drawing): void {
  const gap = 10;
  const width = (sheet.width - gap) / SIDES.length;
  const height = (width * PICTURE.height) / PICTURE.width;
  const marks = view.score.criteria.flatMap((c) => {
    const number = numbers.get(c.id);
    const at = c.targets.find((t) => t.deciding)?.point ?? c.targets.find((t) => t.point && t.verdict !== 'inside')?.point;
    return number && at ? [{ number, at }] : [];
  });
  sheet.figure(REPORT.pictureWords(SIDES, marks.length), height + 14, (doc, x, y) => {
    SIDES.forEach((side, i) => {
      const left = x + i * (width + gap);
      doc.image(Buffer.from(pictureOf(d.display, view.bands, side)), left, y, { width, height });
      doc.lineWidth(0.5).strokeColor(LINE).rect(left, y, width, height).stroke();
      if (side === 'occlusal')
        for (const m of apart(marks.map((k) => ({ number: k.number, at: placeOn(k.at) })))) {
          const [px, py] = [left + m.at[0] * width, y + m.at[1] * height];
          const [cx, cy] = [left + m.label[0] * width, y + m.label[1] * height];
          doc.lineWidth(0.7).strokeColor('#16202b').moveTo(px, py).lineTo(cx, cy).stroke();
          doc.circle(px, py, 1.6).fill('#16202b');
          doc.circle(cx, cy, 6.5).fillAndStroke('#16202b', '#ffffff');
          sheet.label(String(m.number), cx - 6.5, cy - 4, 13, { color: '#ffffff', size: 8, align: 'center', font: 'bold' });
        }
      sheet.label(`${side}; ${REPORT.colours}`, left, y + height + 2, width);
    });
  });
}

/** A cut through the axis at the place of the dearest finding, to scale. */
function section(sheet: Sheet, d: Drawing, at: number): void {
  const pair = [at, at + 180].map((a) => d.profiles[profileIndex(a, d.profiles.length)]);
  if (pair.some((p) => !p)) return;
  /** Points of the page per mm: five times life size. */
  const scale = (72 / 25.4) * 5;
  const heights = pair.flatMap((p) => [...p.scan, ...p.master].filter((_, i) => i % 2 === 1));
  const [top, low] = [Math.max(...heights) + 0.4, Math.min(...heights) - 0.4];
  const height = (top - low) * scale;
  sheet.figure(REPORT.sectionWords(placeWords(at), placeWords(at + 180)), height + 14, (doc, x, y) => {
    const middle = x + sheet.width / 2;
    const foot = y + top * scale;
    const path = (flat: readonly number[], side: 1 | -1): void => {
      for (let i = 0; i + 1 < flat.length; i += 2) {
        const [px, py] = [middle + side * flat[i] * scale, foot - flat[i + 1] * scale];
        if (i === 0) doc.moveTo(px, py);
        else doc.lineTo(px, py);
      }
    };
    doc.save().rect(x, y, sheet.width, height).clip();
    pair.forEach((p, i) => {
      const side = i === 0 ? 1 : -1;
      path(p.master, side);
      doc.lineWidth(0.8).dash(3, { space: 2 }).strokeColor(SOFT).stroke().undash();
      path(p.scan, side);
      doc.lineWidth(1.4).strokeColor('#16202b').stroke();
      if (p.finish) doc.circle(middle + side * p.finish[0] * scale, foot - p.finish[1] * scale, 2.4).fill(PETROL);
    });
    doc.restore();
    doc
      .lineWidth(1.2)
      .strokeColor('#16202b')
      .moveTo(x, y + height)
      .lineTo(x + scale, y + height)
      .stroke();
    sheet.label('1 mm', x + scale + 4, y + height - 5, 60);
    sheet.label(placeWords(at + 180), x, y + 2, 120);
    sheet.label(placeWords(at), x + sheet.width - 120, y + 2, 120, { align: 'right' });
    sheet.label(REPORT.sectionLegend, x + 80, y + height - 5, sheet.width - 80, { align: 'right' });
  });
}

/** A curve round the tooth over its band: that of the dearest finding where it has one. */
function ring(sheet: Sheet, view: BenchView, reading: string | null): void {
  const there = view.rings.filter((q) => (view.curves[q.id]?.length ?? 0) > 8);
  const r = there.find((q) => reading !== null && q.id === (findEntry(reading)?.curve ?? reading)) ?? there[0];
  if (!r) return;
  const points = view.curves[r.id].filter((p) => Number.isFinite(p[1]));
  const values = points.map((p) => p[1]);
  const ends = [...values, r.band[0] ?? values[0], r.band[1] ?? values[0]];
  const [least, most] = [Math.min(...ends), Math.max(...ends)];
  const room = (most - least || 1) * 0.08;
  const height = 84;
  sheet.figure(REPORT.ringWords(r.title, bandWords(r.band[0], r.band[1], r.unit)), height + 24, (doc, x, y) => {
    const [left, width] = [x + 34, sheet.width - 34];
    const px = (azimuth: number): number => left + (((azimuth % 360) + 360) % 360) * (width / 360);
    const py = (value: number): number => y + 10 + height * (1 - (value - least + room) / (most - least + 2 * room));
    const [lo, hi] = [r.band[0] ?? least - room, r.band[1] ?? most + room];
    doc.rect(left, py(hi), width, py(lo) - py(hi)).fill('#e6ece9');
    points.forEach((p, i) => {
      const before = points[i - 1];
      if (!before || p[0] - before[0] > 12 || p[0] < before[0]) doc.moveTo(px(p[0]), py(p[1]));
      else doc.lineTo(px(p[0]), py(p[1]));
    });
    doc.lineWidth(1.2).strokeColor('#16202b').stroke();
    doc
      .lineWidth(0.5)
      .strokeColor(LINE)
      .rect(left, y + 10, width, height)
      .stroke();
    sheet.label(`${r.title}, ${r.unit}`, left, y - 1, width);
    for (const end of [least, most]) sheet.label(end.toFixed(r.digits), x, py(end) - 4, 30, { align: 'right', font: 'figure', size: 7 });
    for (const [i, s] of ['facial', 'mesial', 'lingual', 'distal'].entries())
      sheet.label(s, px(90 * i) + (i === 0 ? 2 : -20), y + height + 12, 60);
  });
}

function attemptOn(sheet: Sheet, { report: r, view }: Reported, d: Drawing | null): void {
  const numbers = numbered(r);
  sheet.text('P', `${r.school}, ${r.course.name}, ${r.course.term}`, { size: 9, color: SOFT });
  sheet.text('H1', `${r.attempt.exercise}: ${r.student.name}`, { font: 'bold', size: 17 });
  sheet.text('P', REPORT.lead(r), { color: SOFT, gap: 8 });
  sheet.text('P', r.grade.passed ? REPORT.passed : REPORT.notPassed(r.grade.failures), { font: 'bold', size: 13 });
  sheet.text('P', REPORT.points(r.grade.total, r.basis.rubric.passMark), { gap: 8 });
  const made = r.critical.filter((c) => c.made);
  if (made.length) {
    sheet.text('H2', REPORT.critical, { font: 'bold', size: 11 });
    for (const c of made)
      sheet.text(
        'P',
        `${c.title}${c.value === null ? '' : `, ${valueWords(c.value, c.U, c.unit)}`}: ${c.effect}.${c.reason ? ` ${c.reason}` : ''}`,
      );
    sheet.down(4);
  }
  if (d) pictures(sheet, view, numbers, d);
  else sheet.text('P', view.measurement ? REPORT.notDrawn : REPORT.byHandOnly, { color: SOFT });
  sheet.text('H2', REPORT.lines, { font: 'bold', size: 11 });
  sheet.table(
    COLUMNS,
    r.lines.map((l) => lineRow(l, numbers.get(l.id))),
  );
  const said = r.lines.filter((l) => l.comment || l.reason);
  if (said.length) {
    sheet.text('H2', REPORT.comments, { font: 'bold', size: 11 });
    for (const l of said)
      sheet.text(
        'P',
        `${l.title}: ${[l.comment, l.reason]
          .filter(Boolean)
          .map((t) => sentence(t as string))
          .join(' ')}`,
      );
    sheet.down(4);
  }
  const judged = r.lines.filter((l) => l.own?.level != null && l.level !== null);
  if (judged.length) {
    sheet.text('H2', REPORT.own, { font: 'bold', size: 11 });
    const alike = judged.filter((l) => l.own?.level === l.level).length;
    sheet.text('P', REPORT.ownWords(alike, judged.length, r.own?.minutes ?? null), { gap: 8 });
  }
  if (d) {
    const first = view.score.criteria.find((c) => numbers.get(c.id) === 1);
    const at = first?.targets.find((t) => t.deciding)?.azimuth ?? 0;
    sheet.text('H2', REPORT.section, { font: 'bold', size: 11, keep: 170 });
    section(sheet, d, at);
    ring(sheet, view, first?.targets.find((t) => t.deciding)?.reading ?? null);
  }
  sheet.text('H2', REPORT.all, { font: 'bold', size: 11 });
  sheet.table(
    [
      { title: REPORT.columns.reading, share: 0.5 },
      { title: REPORT.columns.read, share: 0.27, font: 'figure' },
      { title: REPORT.columns.target, share: 0.23, font: 'figure' },
    ],
    r.lines.flatMap((l) =>
      l.readings.map((t) => [t.words, readWords(t), wantedWords({ reading: t.reading, lo: t.lo, hi: t.hi, unit: t.unit })]),
    ),
    8,
  );
  sheet.text('P', REPORT.basis(r), { size: 8, color: SOFT });
  sheet.text('P', CAUTION, { size: 8, color: SOFT });
}

const footOf = (r: AttemptReport): string => REPORT.foot(r.school, r.grade.digest, dayWords(r.grade.signedAt.slice(0, 10), 'long'));

/** One attempt's report. */
export async function attemptPdf(reported: Reported, drawing: Drawing | null, paper: Paper): Promise<Buffer> {
  const { report } = reported;
  const sheet = new Sheet(`${report.attempt.exercise}: ${report.student.name}`, paper);
  attemptOn(sheet, reported, drawing);
  return sheet.end(footOf(report));
}

/** The board's list of a sitting: everybody's result on as few pages as it takes, with what each rests on. */
export async function listPdf(title: string, reports: readonly AttemptReport[], waiting: readonly string[], paper: Paper): Promise<Buffer> {
  const [first] = reports;
  const sheet = new Sheet(title, paper);
  sheet.text('P', first ? `${first.school}, ${first.course.name}, ${first.course.term}` : '', { size: 9, color: SOFT });
  sheet.text('H1', title, { font: 'bold', size: 17 });
  const passed = reports.filter((r) => r.grade.passed).length;
  sheet.text('P', REPORT.summary(reports.length, passed, waiting.length), { gap: 8 });
  sheet.table(
    [
      { title: REPORT.columns.number, share: 0.12, font: 'figure' },
      { title: REPORT.columns.student, share: 0.26 },
      { title: REPORT.columns.points, share: 0.1, font: 'figure', align: 'right' },
      { title: REPORT.columns.result, share: 0.3 },
      { title: REPORT.columns.grader, share: 0.12 },
      { title: REPORT.columns.digest, share: 0.1, font: 'figure' },
    ],
    reports.map((r) => [
      r.student.id,
      r.student.name + (r.attempt.number > 1 ? `, attempt ${r.attempt.number}` : ''),
      r.grade.total === null ? '–' : String(r.grade.total),
      r.grade.passed ? REPORT.passed : REPORT.notPassed(r.grade.failures),
      r.grade.grader,
      r.grade.digest.slice(0, 8),
    ]),
    8.5,
  );
  if (waiting.length) sheet.text('P', REPORT.waiting(waiting));
  sheet.text('P', CAUTION, { size: 8, color: SOFT });
  return sheet.end(title);
}
