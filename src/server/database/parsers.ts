import { types } from '@electric-sql/pglite';

/** Parsers of database types: numbers as numbers, dates as ISO text, timestamps in UTC. */
export const PARSERS = {
  [types.INT8]: Number,
  [types.NUMERIC]: Number,
  [types.DATE]: (s: string) => s,
  [types.TIMESTAMPTZ]: (s: string) => new Date(s).toISOString(),
};
