/** The command line was called wrongly: one line on standard error, exit 2. */
export class UsageError extends Error {}
