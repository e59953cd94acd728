import type { StandardFile } from './standard.ts';

/** A standard with its versions in a course; version 0 is the one that ships. */
export interface StandardView {
  readonly body: StandardFile;
  readonly shipped: StandardFile | null;
  readonly version: number;
  readonly versions: readonly { readonly version: number; readonly by: string; readonly made_at: string }[];
  /** Rubrics that refer to it, with the course's exercises that use them. */
  readonly rubrics: readonly { readonly id: string; readonly name: string; readonly exercises: number }[];
}

export interface StandardLineView {
  readonly id: string;
  readonly name: string;
  readonly school: string;
  readonly kind: string;
  readonly version: number;
}
