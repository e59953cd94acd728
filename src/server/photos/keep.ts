import { imageSize } from 'image-size';
import type { App } from '../app.ts';
import { type Queries, sql } from '../database/port.ts';
import { Refused } from '../errors.ts';
import { type Received, receive } from '../scans/receive.ts';

/** bytes: a phone's picture at full size is a third of it. */
const PHOTO_BYTES = 20_000_000;
/** Pixels of a picture: more than a phone's camera has, and few enough for every browser to draw. */
const PIXELS_MOST = 100_000_000;

/** The two formats that every browser shows, by their first bytes. */
const STARTS = [
  ['image/jpeg', [0xff, 0xd8, 0xff]],
  ['image/png', [0x89, 0x50, 0x4e, 0x47]],
] as const;
export type Media = (typeof STARTS)[number][0];

/** The one file named `photo` of a form, and what the form says beside it. */
export async function onePhoto(
  a: Pick<App, 'files' | 'children'>,
  request: Request,
): Promise<{ photo: Received; values: Record<string, string[]> }> {
  const { files, values } = await receive(request, a.files, 'photo', { ...a.children.limits, fileBytes: PHOTO_BYTES, entries: 1 });
  if (!files.length) throw new Refused('malformed', 'No file came with this. Choose one photograph.');
  return { photo: files[0], values };
}

/** Says what kind of picture came; refuses what is none, and one too large to be drawn: a few bytes can claim any size. */
export async function pictureOf(a: Pick<App, 'files'>, { name, kept }: Received): Promise<Media> {
  const media = STARTS.find(([, start]) => start.every((b, i) => kept.head[i] === b))?.[0];
  if (!media) throw new Refused('unsupported', `${name} is no picture that every browser shows. Choose a JPEG or PNG file.`);
  const size = sizeOf(await a.files.read(kept.sha256));
  if (!size)
    throw new Refused('not-valid', `${name} begins like a picture and has no size: it is broken. Choose another, or take it again.`);
  if (size.width * size.height > PIXELS_MOST)
    throw new Refused(
      'too-large',
      `${name} has ${size.width} × ${size.height} pixels; at most ${PIXELS_MOST / 1e6} million are shown. Make it smaller, or take it again.`,
    );
  return media;
}

function sizeOf(bytes: Uint8Array): { width: number; height: number } | null {
  try {
    const { width, height } = imageSize(bytes);
    return width > 0 && height > 0 ? { width, height } : null;
  } catch {
    return null;
  }
}

/** Enters a picture's file, which the database refers to. */
export const enterFile = (q: Queries, { kept }: Received): Promise<void> =>
  q.run(sql`insert into stored_file (sha256, size_bytes) values (${kept.sha256}, ${kept.size}) on conflict do nothing`);
