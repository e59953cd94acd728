/** Kinds of refusal; http.ts gives each its HTTP status. */
export type RefusalKind =
  | 'signed-out'
  | 'not-allowed'
  | 'not-there'
  | 'conflict'
  | 'malformed'
  | 'not-valid'
  | 'too-large'
  | 'unsupported'
  | 'wait'
  | 'no-space';

/** A refused act with a sentence that says what to do. */
export class Refused extends Error {
  constructor(
    readonly kind: RefusalKind,
    message: string,
    /** Facts that the caller needs to continue: what changed, what is undecided, how long to wait. */
    readonly details: Readonly<Record<string, unknown>> = {},
  ) {
    super(message);
  }
}
