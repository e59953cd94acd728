import { type Settings, USUAL_SETTINGS } from '#contract/settings.ts';

let own: Settings = USUAL_SETTINGS;
/** In a browser one person reads; the server writes as usual, and the browser writes again as its person wants. */
export const setWriting = (s: Settings): void => {
  own = s;
};
export const writing = (): Settings => own;

/** Palmer's corner of each quadrant, as the mouth is looked at from in front. */
const CORNER: Readonly<Record<string, readonly [before: string, after: string]>> = {
  1: ['', '┘'],
  2: ['└', ''],
  3: ['┌', ''],
  4: ['', '┐'],
};

/** A tooth of the two-digit notation (ISO 3950) in the notation that a person reads; what is no tooth stays as it is. */
export function toothWords(tooth: string, numbering: Settings['numbering'] = own.numbering): string {
  if (!/^([1-4][1-8]|[5-8][1-5])$/.test(tooth)) return tooth;
  const [q, p] = [Number(tooth[0]), Number(tooth[1])];
  const isPrimary = q > 4;
  const quadrant = isPrimary ? q - 4 : q;
  if (numbering === 'universal') {
    const per = isPrimary ? 5 : 8;
    // Counted from the upper right backmost tooth round to the lower right one.
    const n = (quadrant - 1) * per + (quadrant % 2 === 1 ? per + 1 - p : p);
    return isPrimary ? String.fromCharCode(64 + n) : String(n);
  }
  if (numbering === 'palmer') {
    const [before, after] = CORNER[quadrant];
    return `${before}${isPrimary ? String.fromCharCode(64 + p) : p}${after}`;
  }
  return tooth;
}

/** A day as a person writes it: short in lists, long in headings. */
export function dayWords(iso: string, length: 'short' | 'long' = 'short', dates: Settings['dates'] = own.dates): string {
  const day = new Date(`${iso.slice(0, 10)}T12:00:00Z`);
  if (Number.isNaN(day.getTime())) return iso;
  return day.toLocaleDateString(
    dates,
    length === 'short'
      ? { day: '2-digit', month: '2-digit', year: 'numeric', timeZone: 'UTC' }
      : { weekday: 'short', day: 'numeric', month: 'short', year: 'numeric', timeZone: 'UTC' },
  );
}
