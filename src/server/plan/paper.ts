import type { PlanView } from '#contract/plan.ts';
import { halfOutline } from '#core/plan/cutter.ts';
import type { Guide, GuideSection } from '#core/plan/guide.ts';
import { placesOf } from '#core/plan/places.ts';
import { CAUTIONS, expectedWords, PLAN, sunkWords, warningWords } from '#words/plan.ts';
import { STEP_WORDS } from '#words/steps.ts';
import { CHECK, type DrawnLine } from '../../files/drawing.ts';
import { LINE, type Paper, Sheet, SOFT } from '../report/sheet.ts';

type Point = readonly [number, number];

const INK = '#16202b';
/** Points of the page in a millimetre. */
const MM = 72 / 25.4;

/** How much larger than life a section is drawn to be read. */
const LARGE = 5;

/** A section's lines by what they are. */
export const guideLines = (s: GuideSection): DrawnLine[] =>
  (['original', 'least', 'most'] as const).flatMap((layer) => s[layer].map((points, i) => ({ id: `${layer}-${i + 1}`, layer, points })));
export const GUIDE_STROKES = {
  original: { stroke: '#4d5b63', width: 0.1, dashed: true },
  least: { stroke: '#16202b', width: 0.18 },
  most: { stroke: '#4d5b63', width: 0.18 },
} as const;
export const GUIDE_COLOURS = { original: 8, least: 7, most: 6 } as const;

function trace(doc: PDFKit.PDFDocument, points: readonly Point[]): void {
  for (const [i, [x, y]] of points.entries()) {
    if (i) doc.lineTo(x, y);
    else doc.moveTo(x, y);
  }
}

/** The tooth from above with the numbers of the steps, and beside it the cutters life size times three. */
function picture(sheet: Sheet, { guide, plan, cutters }: PlanView): void {
  const scale = 14;
  const reach = Math.max(...guide.outline.map((p) => Math.hypot(...p))) + 0.8;
  const height = 2 * reach * scale;
  sheet.figure(PLAN.legend, height, (doc, x, y) => {
    const at = ([px, py]: Point): [number, number] => [x + (reach + guide.mesialSign * px) * scale, y + (reach - py) * scale];
    const line = (points: Guide['outline'], closed: boolean): void => {
      trace(doc, points.map(at));
      if (closed) doc.closePath();
      doc.stroke();
    };
    doc.lineWidth(1).strokeColor(INK);
    line(guide.outline, true);
    doc.lineWidth(0.7).strokeColor(SOFT);
    for (const g of guide.grooves) line(g, false);
    doc.dash(3, { space: 2 });
    line(guide.neck, true);
    doc.undash();
    for (const s of plan.steps)
      for (const p of placesOf(s, guide, plan)) {
        const [cx, cy] = at(p);
        doc.circle(cx, cy, 6).fillAndStroke(INK, '#ffffff');
        sheet.label(String(s.number), cx - 6, cy - 3.8, 12, { color: '#ffffff', size: 7.5, align: 'center', font: 'bold' });
      }
    sheet.label('facial', x + reach * scale - 20, y - 2, 40, { align: 'center' });
    sheet.label('mesial', guide.mesialSign === 1 ? x + 2 * reach * scale + 2 : x - 34, y + reach * scale - 4, 36, {
      align: guide.mesialSign === 1 ? 'left' : 'right',
    });
    let top = y;
    const left = x + 2 * reach * scale + 46;
    for (const c of cutters) {
      const widest = Math.max(c.shank_mm, c.tip_mm) * 3 * MM;
      if (top + widest + 4 > y + height) break;
      const middle = top + widest / 2 + 1;
      const half = halfOutline(c);
      const out = [...half.map(([a, r]): Point => [a, -r]), ...[...half].reverse().map(([a, r]): Point => [a, r])];
      trace(
        doc,
        out.map(([a, r]): Point => [left + a * 3 * MM, middle + r * 3 * MM]),
      );
      doc.closePath().lineWidth(0.8).strokeColor(INK).stroke();
      sheet.label(c.name, left + c.length_mm * 3 * MM + 8, middle - 5, 150, { size: 8 });
      top += widest + 5;
    }
  });
}

/** The plan as a card: big type, no colour needed. */
export async function planPdf(view: PlanView, paper: Paper): Promise<Buffer> {
  const { plan, exercise, cutters } = view;
  const title = `${PLAN.title}: ${exercise.title}`;
  const sheet = new Sheet(title, paper);
  sheet.text('H1', title, { font: 'bold', size: 15, gap: 2 });
  sheet.text('P', PLAN.lead(view.standard), { size: 8, color: SOFT, gap: 4 });
  picture(sheet, view);
  sheet.table(
    [
      { title: '', share: 0.05, font: 'figure' },
      { title: 'Step', share: 0.21 },
      { title: PLAN.cutter, share: 0.27 },
      { title: PLAN.expected, share: 0.47 },
    ],
    plan.steps.map((s) => {
      const cutter = cutters.find((c) => c.id === s.cutter);
      const how = [
        cutter?.name ?? '',
        sunkWords(s),
        s.tilt === null ? null : PLAN.tilt(s.tilt),
        s.passes && s.passes > 1 ? PLAN.passes(s.passes) : null,
        s.left > 0 ? PLAN.left(s.left) : null,
      ];
      const gauge = s.gauge ? PLAN.gauge(s.gauge.passes, s.gauge.stops) : '';
      return [
        String(s.number),
        STEP_WORDS[s.id].title,
        how.filter(Boolean).join(', '),
        [shortened(s.readings.map(expectedWords)), gauge].filter(Boolean).join('; ') || STEP_WORDS[s.id].stop,
      ];
    }),
    9.5,
  );
  const warnings = plan.steps.flatMap((s) => s.warnings.map((w) => `${s.number}. ${warningWords(w)}`));
  if (warnings.length) {
    sheet.text('H2', PLAN.warn, { font: 'bold', size: 10, gap: 2 });
    for (const w of warnings) sheet.text('P', w, { size: 9.5, gap: 2 });
  }
  sheet.text('P', `${PLAN.hand(plan.hand)} ${CAUTIONS.join(' ')}`, { size: 7, color: SOFT });
  return sheet.end(title);
}

/** At most so many figures of a step on the card; the page has all. */
const ON_CARD = 3;
const shortened = (all: readonly string[]): string =>
  all.length > ON_CARD ? `${all.slice(0, ON_CARD).join('; ')}; and ${all.length - ON_CARD} more` : all.join('; ');

/** The guide's sections at life size, with a square to check the print by. */
export async function guidePdf(view: PlanView, paper: Paper): Promise<Buffer> {
  const title = `${PLAN.guide}: ${view.exercise.title}`;
  const sheet = new Sheet(title, paper);
  sheet.text('H1', title, { font: 'bold', size: 15 });
  sheet.text('P', PLAN.guideNote, { size: 9 });
  sheet.figure(`A square of ${CHECK} mm to measure on the print.`, CHECK * MM + 4, (doc, x, y) => {
    doc
      .lineWidth(0.5)
      .strokeColor(INK)
      .rect(x, y, CHECK * MM, CHECK * MM)
      .stroke();
    sheet.label(`${CHECK} mm`, x + CHECK * MM + 6, y + (CHECK * MM) / 2 - 4, 60);
  });
  for (const s of view.guide.sections) {
    const all = s.original.flat();
    if (!all.length) continue;
    const [left, low, high] = [Math.min(...all.map((p) => p[0])), Math.min(...all.map((p) => p[1])), Math.max(...all.map((p) => p[1]))];
    sheet.text('H2', s.plane.name, { font: 'bold', size: 10, keep: (high - low) * MM * LARGE + 20 });
    // Life size to lay a cast on, and large to read.
    sheet.figure(`Section ${s.plane.name}, life size and five times as large.`, (high - low) * MM * LARGE + 16, (doc, x, y) => {
      for (const [scale, from] of [
        [MM, x],
        [LARGE * MM, x + 26 * MM],
      ] as const) {
        const at = ([u, z]: Point): [number, number] => [from + (u - left) * scale, y + (high - z) * scale + 10];
        for (const l of guideLines(s)) {
          const stroke = GUIDE_STROKES[l.layer as keyof typeof GUIDE_STROKES];
          trace(doc, l.points.map(at));
          doc.lineWidth(l.layer === 'least' ? 1 : 0.6).strokeColor(stroke.stroke);
          if ('dashed' in stroke) doc.dash(2.5, { space: 1.8 });
          doc.stroke().undash();
        }
        if (scale === MM) continue;
        for (const t of s.ticks) {
          doc
            .lineWidth(0.5)
            .strokeColor(LINE)
            .moveTo(...at(t.at))
            .lineTo(...at([t.at[0] + 0.8 * t.inward[0], t.at[1] + 0.8 * t.inward[1]]))
            .stroke();
          const [tx, ty] = at([t.at[0] - 0.9 * t.inward[0], t.at[1] - 0.5 * t.inward[1]]);
          sheet.label(`${t.band.lo?.toFixed(1) ?? ''}–${t.band.hi?.toFixed(1) ?? ''}`, tx - 15, ty - 4, 30, { size: 7, align: 'center' });
        }
      }
    });
  }
  sheet.text('P', CAUTIONS.join(' '), { size: 7, color: SOFT });
  return sheet.end(title);
}
