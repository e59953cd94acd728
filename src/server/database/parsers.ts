import { types } from '@electric-sql/pglite';

/** How the database's types come out: numbers as numbers, days as they are written, moments in UTC. */
export const PARSERS = {
  [types.INT8]: Number,
  [types.NUMERIC]: Number,
  [types.DATE]: (s: string) => s,
  [types.TIMESTAMPTZ]: (s: string) => new Date(s).toISOString(),
};
