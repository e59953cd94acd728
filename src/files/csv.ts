import Papa from 'papaparse';

export type Cell = string | number | null;

/**
 * A table as CSV with a mark for spreadsheets to read it as UTF-8. Text that a spreadsheet would take for a formula gets an apostrophe before it;
 * numbers stay numbers.
 */
export function csvOf(header: readonly string[], rows: readonly (readonly Cell[])[]): string {
  const body = rows.map((r) => r.map((c) => (c === null ? '' : typeof c === 'number' ? String(c) : defused(c))));
  return `\ufeff${Papa.unparse([[...header], ...body], { newline: '\r\n' })}\r\n`;
}

/** Signs with which a cell begins that is a formula to a spreadsheet. */
const FORMULA = /^[=+\-@\t\r\n|%]/;

export const defused = (text: string): string => (FORMULA.test(text) ? `'${text}` : text);
