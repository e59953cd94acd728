import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { ReadableStream } from 'node:stream/web';
import { Busboy, type BusboyInstance } from '@fastify/busboy';
import { FILE_LIMITS, type FileLimits, limitWords } from '#core/scan/limits.ts';
import { Refused } from '../errors.ts';
import type { FileStore, Kept } from './files.ts';

/** A form's file, already stored. */
export interface Received {
  readonly name: string;
  readonly kept: Kept;
}

const BROKEN = 'The files did not arrive whole. Send them again; what is in the tray already was not changed.';

/** Limits for the form's other values: their number and the bytes of each. */
const FIELDS = 4000;
const FIELD_BYTES = 2000;

/**
 * Streams a form's files into the store, so that no file is held whole in memory. Returns the files of `field` in order and
 * the form's other values by name.
 */
export async function receive(
  request: Request,
  store: Pick<FileStore, 'keep'>,
  field: string,
  limits: FileLimits = FILE_LIMITS,
): Promise<{ files: Received[]; values: Record<string, string[]> }> {
  const type = request.headers.get('content-type') ?? '';
  if (!request.body || !type.startsWith('multipart/form-data'))
    throw new Refused('unsupported', `Expected a form with files (multipart/form-data), got ${type || 'nothing'}.`);
  const coming: Promise<Received>[] = [];
  const values: Record<string, string[]> = {};
  let parser: BusboyInstance;
  try {
    parser = new Busboy({
      headers: { 'content-type': type },
      limits: { fileSize: limits.fileBytes, files: limits.entries, fields: FIELDS, fieldSize: FIELD_BYTES, headerPairs: 50 },
    });
  } catch {
    throw new Refused('malformed', BROKEN);
  }
  const streams: Readable[] = [];
  const tooLarge: string[] = [];
  parser.on('file', (name, stream, fileName) => {
    if (name !== field || !fileName) {
      stream.resume();
      return;
    }
    streams.push(stream);
    const kept = store.keep(whole(stream, () => tooLarge.push(fileName)));
    // A file that cannot be stored is read to its end; otherwise the parser would never reach the form's end.
    kept.catch(() => stream.resume());
    coming.push(kept.then((k) => ({ name: fileName, kept: k })));
  });
  parser.on('field', (name, value) => {
    values[name] ??= [];
    values[name].push(value);
  });
  const form = pipeline(Readable.fromWeb(request.body as ReadableStream), parser);
  const [arrived] = await Promise.allSettled([form]);
  // When the connection breaks, the parser does not end the file streams it has begun; this does.
  if (arrived.status === 'rejected') for (const s of streams) s.destroy(new Error('the form broke off'));
  const files = await Promise.allSettled(coming);
  if (tooLarge.length)
    throw new Refused(
      'too-large',
      `${tooLarge.join(', ')} is too large: ${limitWords(limits, 'fileBytes')}. Export it with fewer triangles; nothing of this form was added.`,
    );
  if (arrived.status === 'rejected') throw new Refused('malformed', BROKEN);
  const unwritten = files.find((f) => f.status === 'rejected');
  if (unwritten)
    throw new Refused(
      'no-space',
      `The server could not write the files down (${(unwritten.reason as Error).message}). Tell whoever looks after it, then send them again.`,
    );
  return { files: files.flatMap((f) => (f.status === 'fulfilled' ? [f.value] : [])), values };
}

/** Stores a file's bytes; refuses a file cut off at the limit. */
async function* whole(stream: Readable & { truncated?: boolean }, onTooLarge: () => void): AsyncGenerator<Uint8Array> {
  yield* stream;
  if (!stream.truncated) return;
  onTooLarge();
  throw new Error('too large');
}
