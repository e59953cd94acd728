import { getDocument, OPS } from 'pdfjs-dist/legacy/build/pdf.mjs';

/** A PDF as a program that is not ours reads it. */
export async function readPdf(pdf: Uint8Array) {
  const doc = await getDocument({ data: Uint8Array.from(pdf), useSystemFonts: false, verbosity: 0 }).promise;
  const pages = await Promise.all(Array.from({ length: doc.numPages }, (_, i) => doc.getPage(i + 1)));
  const texts = await Promise.all(
    pages.map(async (p) => (await p.getTextContent()).items.map((t) => ('str' in t ? `${t.str}${t.hasEOL ? ' ' : ''}` : '')).join('')),
  );
  const roles: string[] = [];
  const alts: string[] = [];
  const walk = (n: { role?: string; alt?: string; children?: unknown[] }): void => {
    if (n.role) roles.push(n.role);
    if (n.alt) alts.push(n.alt);
    for (const c of n.children ?? []) walk(c as never);
  };
  for (const p of pages) walk(((await p.getStructTree()) ?? {}) as never);
  // The extent of every path, in points.
  const boxes = (await Promise.all(pages.map((p) => p.getOperatorList()))).flatMap((list) =>
    list.fnArray.flatMap((fn, i) => (fn === OPS.constructPath ? [Array.from(list.argsArray[i][2] as ArrayLike<number>)] : [])),
  );
  const rectangles = boxes.map(([x0, y0, x1, y1]) => [x0, y0, x1 - x0, y1 - y0] as const);
  return { doc, text: texts.join(' ').replace(/\s+/g, ' '), pages: doc.numPages, roles, alts, sizes: pages.map((p) => p.view), rectangles };
}
