import { existsSync, readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { type RubricFile, rubricFrom } from '#contract/rubric.ts';
import { type StandardFile, standardFrom } from '#contract/standard.ts';
import type { App } from '../app.ts';

export type Shipped = Pick<App, 'standardsFolder'>;

/** Rubrics that ship, by id. */
export function shippedRubrics({ standardsFolder }: Shipped): Map<string, RubricFile> {
  const folder = path.join(standardsFolder, '../rubrics');
  if (!existsSync(folder)) return new Map();
  return new Map(
    readdirSync(folder)
      .filter((n) => n.endsWith('.json'))
      .map((n) => {
        const r = rubricFrom(JSON.parse(readFileSync(path.join(folder, n), 'utf8')), n);
        return [r.id, r];
      }),
  );
}

/** A standard that ships, as it stands in its file; null where there is none of that name. */
export function shippedBody(folder: string, id: string): unknown {
  const file = path.join(folder, `${id}.json`);
  return /^[\w-]+$/.test(id) && existsSync(file) ? JSON.parse(readFileSync(file, 'utf8')) : null;
}

export function shippedStandard(a: Shipped, id: string): StandardFile | null {
  const body = shippedBody(a.standardsFolder, id);
  return body === null ? null : standardFrom(body, `${id}.json`);
}

/** All standards that ship, by id. */
export const shippedBodies = ({ standardsFolder }: Shipped): Map<string, unknown> =>
  new Map(
    readdirSync(standardsFolder)
      .filter((n) => n.endsWith('.json'))
      .map((n) => [n.slice(0, -5), shippedBody(standardsFolder, n.slice(0, -5))]),
  );
