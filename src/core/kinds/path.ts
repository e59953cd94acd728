import type { KindName } from './kinds.ts';

/** Kinds that are seated from outside and so have a path of insertion; two of them may share it. */
export const KINDS_WITH_PATH: readonly KindName[] = ['crown', 'onlay', 'partial'];
