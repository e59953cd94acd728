import type { APIContext } from 'astro';
import { may } from './access/table.ts';
import { Refused } from './errors.ts';
import { number } from './http.ts';
import type { Media } from './photos/keep.ts';
import type { FileStore } from './scans/files.ts';
import { UNDRAWN } from './scans/undrawn.ts';
import { app } from './start.ts';
import { visibleMeasurement } from './view/bench.ts';

/**
 * Streams a file of a measurement. Measurements never change, so browsers may cache files whose address holds the
 * measurement's number.
 */
export async function sendMeasurementFile(
  context: APIContext,
  which: 'display_sha256' | 'profiles_sha256' | 'picture_sha256',
  type: string,
): Promise<Response> {
  const a = await app();
  const { person, subject } = context.locals;
  // Whoever sees the tray sees the small pictures; graders see every file; a student sees the files of the released measurement.
  const action = which === 'picture_sha256' ? 'tray.see' : 'score.see';
  const seesAll = subject !== null && may(person, action, { course: subject.course });
  const asked = context.url.searchParams.get('m');
  const find = () => visibleMeasurement(a.db, number(context.params.id), seesAll, asked === null ? null : number(asked));
  let m = await find();
  if (!m) throw new Refused('not-there', 'This attempt has not been measured.');
  if (m[which] === UNDRAWN && a.redraw) {
    // Many small pictures are asked for at once; nobody waits for one of them.
    if (which === 'picture_sha256') throw new Refused('not-there', 'The picture is drawn when the attempt is opened.');
    await a.redraw.measurement(m.id);
    m = (await find()) ?? m;
  }
  const { body, size, isGzip } = await a.files.stream(m[which]);
  const keep = asked !== null && seesAll ? 'private, max-age=31536000, immutable' : 'private, no-store';
  return new Response(body, {
    headers: {
      'Content-Type': type,
      'Content-Length': String(size),
      'Cache-Control': keep,
      ...(isGzip ? { 'Content-Encoding': 'gzip' } : {}),
    },
  });
}

/** A gzipped display file that belongs to nobody's grade: it changes under the same address, so it is not kept by browsers. */
export async function displayResponse(files: FileStore, sha256: string): Promise<Response> {
  const { body, size } = await files.stream(sha256);
  return new Response(body, {
    headers: {
      'Content-Type': 'application/octet-stream',
      'Content-Encoding': 'gzip',
      'Content-Length': String(size),
      'Cache-Control': 'private, no-store',
    },
  });
}

/** A photograph as it lies in the store. */
export async function pictureResponse(
  files: FileStore,
  { sha256, media }: { readonly sha256: string; readonly media: Media },
): Promise<Response> {
  const { body, size } = await files.stream(sha256);
  return new Response(body, { headers: { 'Content-Type': media, 'Content-Length': String(size), 'Cache-Control': 'private, no-store' } });
}

/** A file to keep. Its name is the program's own, never a person's. */
export const download = (content: string | Uint8Array, type: string, name: string): Response =>
  new Response(typeof content === 'string' ? content : Buffer.from(content), {
    headers: { 'Content-Type': type, 'Content-Disposition': `attachment; filename="${name}"`, 'Cache-Control': 'private, no-store' },
  });
