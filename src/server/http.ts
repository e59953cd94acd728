import type { APIContext } from 'astro';
import * as v from 'valibot';
import { type RefusalKind, Refused } from './errors.ts';

const STATUS: Readonly<Record<RefusalKind, number>> = {
  malformed: 400,
  'signed-out': 401,
  'not-allowed': 403,
  'not-there': 404,
  conflict: 409,
  'too-large': 413,
  unsupported: 415,
  'not-valid': 422,
  wait: 429,
  'no-space': 507,
};

export const refusal = (e: Refused): Response =>
  Response.json(
    { message: e.message, ...e.details },
    { status: STATUS[e.kind], headers: typeof e.details.wait_s === 'number' ? { 'Retry-After': String(e.details.wait_s) } : {} },
  );

/** bytes: limit of a JSON body; the longest that the screens send is far shorter. */
const JSON_LIMIT = 1_000_000;

/** Reads a request's body up to a limit; refuses a longer one before holding it in memory. */
export async function bytesOf(request: Request, limit: number): Promise<Uint8Array> {
  const refuse = (): never => {
    throw new Refused('too-large', `This request is too large: at most ${limit.toLocaleString('en')} bytes are taken here.`);
  };
  if (Number(request.headers.get('content-length') ?? 0) > limit) refuse();
  if (!request.body) return new Uint8Array(0);
  const parts: Uint8Array[] = [];
  let size = 0;
  const reader = request.body.getReader();
  for (let read = await reader.read(); !read.done; read = await reader.read()) {
    size += read.value.length;
    if (size > limit) {
      await reader.cancel();
      refuse();
    }
    parts.push(read.value);
  }
  return Buffer.concat(parts);
}

export async function body<S extends v.GenericSchema>(context: APIContext, schema: S): Promise<v.InferOutput<S>> {
  const type = context.request.headers.get('content-type') ?? '';
  if (!type.startsWith('application/json')) throw new Refused('unsupported', `Expected JSON (application/json), got ${type || 'nothing'}.`);
  const bytes = await bytesOf(context.request, JSON_LIMIT);
  let json: unknown;
  try {
    json = JSON.parse(new TextDecoder('utf-8', { fatal: true }).decode(bytes));
  } catch {
    throw new Refused('malformed', 'The request is no JSON.');
  }
  const r = v.safeParse(schema, json);
  if (r.success) return r.output;
  const issue = r.issues[0];
  throw new Refused('malformed', `${v.getDotPath(issue) ?? 'The request'}: ${issue.message}.`);
}

/** Cross-site request check: a changing request must carry this site's origin, or none (no page sent it). */
export function checkOrigin(request: Request): void {
  if (request.method === 'GET' || request.method === 'HEAD') return;
  const origin = request.headers.get('origin');
  if (origin === null) return;
  const host = URL.canParse(origin) ? new URL(origin).host : null;
  if (host === null || host !== request.headers.get('host')) throw new Refused('not-allowed', 'This request came from another site.');
}

/** Runs an endpoint. A refusal becomes JSON with one sentence; anything unexpected becomes a logged 500. */
export const endpoint =
  (work: (context: APIContext) => Promise<Response>) =>
  async (context: APIContext): Promise<Response> => {
    try {
      return await work(context);
    } catch (e) {
      if (e instanceof Refused) return refusal(e);
      console.error(e);
      return Response.json({ message: 'Something went wrong on the server. Nothing of yours was changed; try again.' }, { status: 500 });
    }
  };

/** What came as words by name, checked; `what` names the whole in the refusal. */
export function valid<S extends v.GenericSchema>(
  schema: S,
  values: Readonly<Record<string, string | undefined>>,
  what: string,
): v.InferOutput<S> {
  const read = v.safeParse(schema, values);
  if (read.success) return read.output;
  const [issue] = read.issues;
  throw new Refused(
    'not-valid',
    `${v.getDotPath(issue) ?? what}: expected ${issue.expected ?? 'another value'}, received ${issue.received}.`,
  );
}

/** What an address asks for behind its “?”, checked. */
export const asked = <S extends v.GenericSchema>(context: Pick<APIContext, 'url'>, schema: S): v.InferOutput<S> =>
  valid(schema, Object.fromEntries(context.url.searchParams), 'The address');

export const number = (text: string | undefined): number => {
  const n = Number(text);
  if (!Number.isSafeInteger(n) || n < 0 || n > 2 ** 31 - 1) throw new Refused('not-there', 'There is no such page.');
  return n;
};
