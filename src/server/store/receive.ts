import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { ReadableStream } from 'node:stream/web';
import { Busboy, type BusboyInstance } from '@fastify/busboy';
import { Refused } from '../http.ts';
import type { FileStore, Kept } from './files.ts';

/** A file out of a form, already in the store. */
export interface Received {
  readonly name: string;
  readonly kept: Kept;
}

const BROKEN = 'The files did not arrive whole. Send them again; what is in the tray already was not changed.';

/**
 * Takes a form's files straight into the store while they come, so that the server answers others meanwhile and holds none of
 * them whole. Gives the files of `field`, in order, and the form's other values by name.
 */
export async function receive(
  request: Request,
  store: FileStore,
  field: string,
): Promise<{ files: Received[]; values: Record<string, string[]> }> {
  const type = request.headers.get('content-type') ?? '';
  if (!request.body || !type.startsWith('multipart/form-data'))
    throw new Refused(400, `Expected a form with files (multipart/form-data), got ${type || 'nothing'}.`);
  const coming: Promise<Received>[] = [];
  const values: Record<string, string[]> = {};
  let parser: BusboyInstance;
  try {
    parser = new Busboy({ headers: { 'content-type': type } });
  } catch {
    throw new Refused(400, BROKEN);
  }
  const streams: Readable[] = [];
  parser.on('file', (name, stream, fileName) => {
    if (name !== field || !fileName) {
      stream.resume();
      return;
    }
    streams.push(stream);
    const kept = store.keep(stream);
    // What cannot be written is read to its end all the same, or the form would never come to its own.
    kept.catch(() => stream.resume());
    coming.push(kept.then((k) => ({ name: fileName, kept: k })));
  });
  parser.on('field', (name, value) => {
    values[name] ??= [];
    values[name].push(value);
  });
  const whole = pipeline(Readable.fromWeb(request.body as ReadableStream), parser);
  const [arrived] = await Promise.allSettled([whole]);
  // The parser does not tell the files it had begun that the connection is gone.
  if (arrived.status === 'rejected') for (const s of streams) s.destroy(new Error('the form broke off'));
  const files = await Promise.allSettled(coming);
  if (arrived.status === 'rejected') throw new Refused(400, BROKEN);
  const unwritten = files.find((f) => f.status === 'rejected');
  if (unwritten)
    throw new Refused(
      507,
      `The server could not write the files down (${(unwritten.reason as Error).message}). Tell whoever looks after it, then send them again.`,
    );
  return { files: files.flatMap((f) => (f.status === 'fulfilled' ? [f.value] : [])), values };
}
