import PDFDocument from 'pdfkit';
import { ascentOf, firstFile, fontBytes, runs, type Setting } from './fonts.ts';

export const PAPERS = { a4: 'A4', letter: 'LETTER' } as const;
export type Paper = keyof typeof PAPERS;

const MARGIN = 48;
const INK = '#16202b';
export const SOFT = '#4d5b63';
export const LINE = '#b9c4c0';

export interface Column {
  readonly title: string;
  /** Share of the page's width. */
  readonly share: number;
  readonly font?: Setting;
  readonly align?: 'left' | 'right';
}

interface Style {
  readonly font?: Setting;
  readonly size?: number;
  readonly color?: string;
  readonly align?: 'left' | 'right' | 'center';
  readonly gap?: number;
  /** Height of what has to follow on the same page. */
  readonly keep?: number;
}

type Element = ReturnType<PDFKit.PDFDocument['struct']>;

/** A tagged PDF that is written from top to bottom: headings, paragraphs, figures with their words, tables with header cells. */
export class Sheet {
  private readonly doc: PDFKit.PDFDocument;
  private readonly root: Element;
  private readonly known = new Set<string>();
  private readonly done: Promise<Buffer>;

  constructor(title: string, paper: Paper) {
    this.doc = new PDFDocument({
      size: PAPERS[paper],
      margin: MARGIN,
      tagged: true,
      lang: 'en',
      displayTitle: true,
      pdfVersion: '1.7',
      bufferPages: true,
      info: { Title: title, Creator: 'Veritor', Producer: 'Veritor' },
    } as PDFKit.PDFDocumentOptions);
    const parts: Buffer[] = [];
    this.done = new Promise((resolve, reject) => {
      this.doc.on('data', (b: Buffer) => parts.push(b));
      this.doc.on('end', () => resolve(Buffer.concat(parts)));
      this.doc.on('error', reject);
    });
    this.root = this.doc.struct('Document');
    this.doc.addStructure(this.root);
  }

  get width(): number {
    return this.doc.page.width - 2 * MARGIN;
  }
  private get bottom(): number {
    return this.doc.page.height - MARGIN - 14;
  }
  /** Height left on this page. */
  get left(): number {
    return this.bottom - this.doc.y;
  }

  /** Goes on on a new page where less than so much is left. */
  room(height: number): void {
    if (this.doc.y + height > this.bottom) this.doc.addPage();
  }
  page(): void {
    this.doc.addPage();
  }
  down(by: number): void {
    this.doc.y += by;
  }

  /** Takes up a font's file; each is put into the document once, and only if a letter needs it. */
  private takeUp(file: string): PDFKit.PDFDocument {
    if (!this.known.has(file)) {
      this.doc.registerFont(file, fontBytes(file));
      this.known.add(file);
    }
    return this.doc.font(file);
  }

  private heightOf(text: string, width: number, { font = 'text', size = 10 }: Style): number {
    return this.takeUp(firstFile(font)).fontSize(size).heightOfString(text, { width });
  }

  private put(text: string, x: number, y: number, width: number, { font = 'text', size = 10, color = INK, align = 'left' }: Style): void {
    const pieces = runs(text, font);
    this.doc.fontSize(size).fillColor(color);
    pieces.forEach((p, i) => {
      // How far the base lies under y, with a minus.
      const options = { width, align, continued: i < pieces.length - 1, baseline: -ascentOf(font) * size };
      this.takeUp(p.file);
      if (i === 0) this.doc.text(p.text, x, y, options);
      else this.doc.text(p.text, options);
    });
  }

  /** A heading or a paragraph over the whole width. */
  text(tag: 'H1' | 'H2' | 'P', text: string, style: Style = {}): void {
    if (!text) return;
    const height = this.heightOf(text, this.width, style);
    this.room(Math.min(height, 200) + (style.keep ?? (tag === 'P' ? 0 : 40)));
    const y = this.doc.y;
    this.root.add(this.doc.struct(tag, {}, () => this.put(text, MARGIN, y, this.width, style)));
    this.doc.x = MARGIN;
    this.doc.y = y + height + (style.gap ?? 4);
  }

  /** What is drawn from (x, y) down, with words for whoever does not see it. */
  figure(words: string, height: number, paint: (doc: PDFKit.PDFDocument, x: number, y: number) => void): void {
    this.room(height);
    const y = this.doc.y;
    this.root.add(
      this.doc.struct('Figure', { alt: words, bbox: [MARGIN, y, MARGIN + this.width, y + height] } as object, () => {
        this.doc.save();
        paint(this.doc, MARGIN, y);
        this.doc.restore();
      }),
    );
    this.doc.x = MARGIN;
    this.doc.y = y + height + 6;
  }

  /** A small caption inside a figure; figures carry their words already. */
  label(text: string, x: number, y: number, width: number, style: Style = {}): void {
    this.put(text, x, y, width, { size: 8, color: SOFT, ...style });
  }

  table(columns: readonly Column[], rows: readonly (readonly string[])[], size = 9): void {
    const table = this.doc.struct('Table');
    this.root.add(table);
    const widths = columns.map((c) => c.share * this.width);
    const row = (cells: readonly string[], tag: 'TH' | 'TD'): void => {
      const style = (i: number): Style => ({
        font: tag === 'TH' ? 'text' : (columns[i].font ?? 'text'),
        size: tag === 'TH' ? 8 : size,
        color: tag === 'TH' ? SOFT : INK,
        align: columns[i].align ?? 'left',
      });
      const height = Math.max(...cells.map((c, i) => this.heightOf(c || ' ', widths[i] - 6, style(i)))) + 5;
      this.room(height);
      const y = this.doc.y;
      this.rule(y);
      const tr = this.doc.struct('TR');
      let x = MARGIN;
      cells.forEach((c, i) => {
        const at = x;
        tr.add(this.doc.struct(tag, {}, () => this.put(c || ' ', at + 3, y + 3, widths[i] - 6, style(i))));
        x += widths[i];
      });
      tr.end();
      table.add(tr);
      this.doc.x = MARGIN;
      this.doc.y = y + height;
    };
    row(
      columns.map((c) => c.title),
      'TH',
    );
    for (const r of rows) row(r, 'TD');
    table.end();
    this.down(8);
  }

  /** Lines and foot lines are no content: readers pass over them. */
  private aside(paint: () => void): void {
    this.doc.markContent('Artifact', { type: 'Layout' } as object);
    paint();
    this.doc.endMarkedContent();
  }
  private rule(y: number): void {
    this.aside(() =>
      this.doc
        .save()
        .lineWidth(0.5)
        .strokeColor(LINE)
        .moveTo(MARGIN, y)
        .lineTo(MARGIN + this.width, y)
        .stroke()
        .restore(),
    );
  }

  /** Ends the document with a foot line on each page. */
  async end(foot: string): Promise<Buffer> {
    this.root.end();
    const { start, count } = this.doc.bufferedPageRange();
    for (let i = start; i < start + count; i++) {
      this.doc.switchToPage(i);
      const y = this.doc.page.height - MARGIN;
      // Below the margin a text would begin a new page.
      this.doc.page.margins.bottom = 0;
      this.aside(() => {
        this.put(foot, MARGIN, y, this.width - 60, { size: 7.5, color: SOFT });
        this.put(`${i - start + 1} / ${count}`, MARGIN + this.width - 60, y, 60, { size: 7.5, color: SOFT, align: 'right' });
      });
    }
    this.doc.end();
    return this.done;
  }
}
