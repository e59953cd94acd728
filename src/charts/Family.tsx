import type { Family } from '#words/families.ts';

/** Sections and plans that a mark is drawn on, 64 by 48: what was there before is dashed. */
const WHOLE = 'M8,44 C8,22 12,9 22,9 C27,9 29,13 32,13 C35,13 37,9 42,9 C52,9 56,22 56,44';
const CROWN = 'M14,44 L14,37 L18,37 L21,20 L28,19 L32,21 L36,19 L43,20 L46,37 L50,37 L50,44';
const CAVITY = 'M8,44 C8,20 14,9 24,9 L26,26 L38,26 L40,9 C50,9 56,20 56,44';
const BOXED = 'M8,44 L8,36 L17,36 L18,20 L40,20 L41,9 C50,9 56,20 56,44';
const TOOTH = 'M32,5 C48,5 58,12 58,24 C58,36 48,43 32,43 C16,43 6,36 6,24 C6,12 16,5 32,5';
const INSIDE = 'M12,20 C18,17 20,22 26,22 L38,22 C44,22 46,17 52,20 L52,28 C46,31 44,26 38,26 L26,26 C20,26 18,31 12,28 Z';

interface Drawn {
  readonly before?: string;
  readonly now: string;
  /** What is measured. */
  readonly mark: string;
}
const DRAWN: Readonly<Record<Family, Drawn>> = {
  occlusal: {
    before: WHOLE,
    now: CROWN,
    mark: 'M24,10 L24,19 M22,12 L24,9 L26,12 M22,17 L24,20 L26,17 M40,10 L40,19 M38,12 L40,9 L42,12 M38,17 L40,20 L42,17',
  },
  axial: {
    before: WHOLE,
    now: CROWN,
    mark: 'M9,29 L19,29 M12,27 L9,29 L12,31 M16,27 L19,29 L16,31 M55,29 L45,29 M52,27 L55,29 L52,31 M48,27 L45,29 L48,31',
  },
  clearance: {
    before: 'M6,2 C14,2 18,9 24,9 C28,9 29,5 32,5 C35,5 36,9 40,9 C46,9 50,2 58,2',
    now: CROWN,
    mark: 'M24,10 L24,18 M22,12 L24,9 L26,12 M22,16 L24,19 L26,16 M40,10 L40,18',
  },
  walls: { now: CROWN, mark: 'M18,37 L21,20 M18,37 L18,18 M18,24 A14,14 0 0 1 20.4,24.2' },
  convergence: { now: CROWN, mark: 'M18,37 L24,3 M46,37 L40,3 M24,8 A30,30 0 0 1 40,8' },
  undercut: { now: 'M14,44 L14,37 L22,37 L18,20 L28,19 L32,21 L36,19 L43,20 L46,37 L50,37 L50,44', mark: 'M22,37 L18,20 M18,37 L18,20' },
  margin: { now: CROWN, mark: 'M14,37 L18,37 M46,37 L50,37 M16,34 A5,5 0 1 0 16.1,34 M48,34 A5,5 0 1 0 48.1,34' },
  bevel: {
    before: WHOLE,
    now: 'M14,44 L14,37 L18,37 L20,26 L26,18 L32,21 L36,19 L43,20 L46,37 L50,37 L50,44',
    mark: 'M20,26 L26,18 M17,25 L23,17',
  },
  form: { before: WHOLE, now: CROWN, mark: 'M21,20 L28,19 L32,21 L36,19 L43,20' },
  // From above: a neighbour, the tooth and its other neighbour, and the row of their cusps.
  arch: {
    before: 'M1,14 C10,8 17,12 17,24 C17,36 10,40 1,34 M63,14 C54,8 47,12 47,24 C47,36 54,40 63,34',
    now: 'M32,10 C42,10 46,15 46,24 C46,33 42,38 32,38 C22,38 18,33 18,24 C18,15 22,10 32,10',
    mark: 'M2,19 L62,19 M29,16 L32,13 L35,16',
  },
  edges: { now: CROWN, mark: 'M20,25 L21,20 L26,19 M38,19 L43,20 L44,25' },
  neighbour: {
    before: 'M2,44 C2,20 4,14 8,14 C13,14 12,34 12,44',
    now: 'M18,44 L18,37 L22,37 L25,18 L34,20 L42,18 L46,37 L50,37 L50,44',
    mark: 'M12,30 L22,30 M14,28 L12,30 L14,32 M20,28 L22,30 L20,32',
  },
  outline: { now: TOOTH, mark: INSIDE },
  depth: { now: CAVITY, mark: 'M26,26 L38,26 M32,11 L32,25 M30,13 L32,10 L34,13 M30,23 L32,26 L34,23' },
  opening: { now: CAVITY, mark: 'M24,9 L26,26 M40,9 L38,26' },
  box: { now: BOXED, mark: 'M8,36 L17,36 L18,20 M8,33 L8,39' },
  groove: {
    now: 'M32,5 C48,5 54,12 54,24 L50,24 C50,28 54,28 54,32 C50,42 42,43 32,43 C22,43 14,42 10,32 C10,28 14,28 14,24 L10,24 C10,12 16,5 32,5',
    mark: 'M54,24 L50,24 C50,28 54,28 54,32 M10,24 L14,24 C14,28 10,28 10,32',
  },
  inside: {
    before: 'M28,44 C28,32 27,28 30,26 L34,26 C37,28 36,32 36,44',
    now: 'M8,44 C8,20 14,9 24,9 L26,18 L38,18 L40,9 C50,9 56,20 56,44',
    mark: 'M32,19 L32,26 M30,21 L32,18 L34,21 M30,24 L32,27 L34,24',
  },
};

/** What a family of readings measures: the tooth before (dashed), as it is cut, and in colour what is read. */
export function FamilyPicture({ family }: { readonly family: Family }) {
  const { before, now, mark } = DRAWN[family];
  return (
    <svg width="64" height="48" viewBox="0 0 64 48" aria-hidden="true">
      {before && <path d={before} fill="none" className="stroke-soft" strokeWidth="1" strokeDasharray="3 2" />}
      <path d={now} className="fill-wash stroke-ink" strokeWidth="1.2" />
      <path d={mark} fill="none" className="stroke-bad" strokeWidth="2" strokeLinecap="round" strokeLinejoin="round" />
    </svg>
  );
}
