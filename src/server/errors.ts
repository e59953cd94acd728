/** Why an act was not done; http.ts has the status of each. */
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

/** An act that was refused, with a sentence that says what to do. */
export class Refused extends Error {
  constructor(
    readonly kind: RefusalKind,
    message: string,
    /** More that the caller needs to go on: what changed, what is undecided, how long to wait. */
    readonly details: Readonly<Record<string, unknown>> = {},
  ) {
    super(message);
  }
}
