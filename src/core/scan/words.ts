/** Words longer than this are no numbers and no keywords of any scan format. */
const LONGEST = 64;

const isBlank = (c: number): boolean => c === 0x20 || (c >= 0x09 && c <= 0x0d);

/** Iterates the words of a text file directly over its bytes, in linear time and memory for any content. */
export class Words {
  private at = 0;

  constructor(private readonly bytes: Uint8Array) {}

  /** The next word, cut off at 64 characters; null at the end. */
  next(): string | null {
    const { bytes } = this;
    while (this.at < bytes.length && isBlank(bytes[this.at])) this.at++;
    if (this.at >= bytes.length) return null;
    const from = this.at;
    while (this.at < bytes.length && !isBlank(bytes[this.at])) this.at++;
    return text(bytes, from, Math.min(this.at, from + LONGEST));
  }

  /** Bytes that are left. */
  get left(): number {
    return this.bytes.length - this.at;
  }
}

/** Lines of a text file, each split into its words; a line of more than so many words is cut off there. */
export function* linesOf(bytes: Uint8Array, mostWords: number): Generator<readonly string[]> {
  let words: string[] = [];
  let from = -1;
  for (let i = 0; i <= bytes.length; i++) {
    const c = i < bytes.length ? bytes[i] : 0x0a;
    if (isBlank(c)) {
      if (from >= 0 && words.length < mostWords) words.push(text(bytes, from, Math.min(i, from + LONGEST)));
      from = -1;
      if (c === 0x0a) {
        yield words;
        words = [];
      }
    } else if (from < 0) from = i;
  }
}

function text(bytes: Uint8Array, from: number, to: number): string {
  let s = '';
  for (let i = from; i < to; i++) s += String.fromCharCode(bytes[i]);
  return s;
}
