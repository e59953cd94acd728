import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { create, type Font } from 'fontkit';

const require = createRequire(import.meta.url);

/** Ways in which the pages are set, by the family and weight of each. */
const SETTINGS = {
  text: { family: 'atkinson-hyperlegible-next', weight: 400 },
  bold: { family: 'atkinson-hyperlegible-next', weight: 700 },
  figure: { family: 'spline-sans-mono', weight: 400 },
} as const;
export type Setting = keyof typeof SETTINGS;

/** Families are cut into files by alphabet; of the second one only what the first lacks is needed. */
const OWN = ['latin', 'latin-ext'];
const OTHERS = { family: 'noto-sans', files: ['latin-ext', 'vietnamese', 'greek', 'greek-ext', 'cyrillic', 'cyrillic-ext'] };

/** Where a font's file lies: as "family/file/weight". */
const filesOf = (setting: Setting): string[] => {
  const { family, weight } = SETTINGS[setting];
  return [...OWN.map((file) => `${family}/${file}/${weight}`), ...OTHERS.files.map((file) => `${OTHERS.family}/${file}/${weight}`)];
};

/** The first file of a way of setting: it has the figures and most letters. */
export const firstFile = (setting: Setting): string => filesOf(setting)[0];

const bytes = new Map<string, Buffer>();
export function fontBytes(key: string): Buffer {
  let known = bytes.get(key);
  if (!known) {
    const [family, file, weight] = key.split('/');
    known = readFileSync(require.resolve(`@fontsource/${family}/files/${family}-${file}-${weight}-normal.woff`));
    bytes.set(key, known);
  }
  return known;
}

const fonts = new Map<string, Font>();
function fontOf(key: string): Font {
  let font = fonts.get(key);
  if (!font) {
    font = create(fontBytes(key)) as Font;
    fonts.set(key, font);
  }
  return font;
}

/** Height of a line's letters over its base, in sizes of the font: one for all files of a setting, so that they stand on one line. */
export function ascentOf(setting: Setting): number {
  const font = fontOf(firstFile(setting));
  return font.ascent / font.unitsPerEm;
}

interface Run {
  readonly text: string;
  /** The font's file that has all of its letters. */
  readonly file: string;
}

/** A text in pieces that one file holds each; what none has becomes a question mark, so that nothing is silently left out. */
export function runs(text: string, setting: Setting = 'text'): Run[] {
  const files = filesOf(setting);
  const out: { text: string; file: string }[] = [];
  for (const letter of text.normalize('NFC')) {
    const code = letter.codePointAt(0) as number;
    const last = out[out.length - 1];
    // A line's end belongs to no font.
    const file = letter === '\n' ? (last?.file ?? files[0]) : files.find((f) => fontOf(f).hasGlyphForCodePoint(code));
    const shown = file ? letter : '?';
    const own = file ?? files[0];
    if (last?.file === own) last.text += shown;
    else out.push({ text: shown, file: own });
  }
  return out;
}
