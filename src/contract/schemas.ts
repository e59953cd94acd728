import { toJsonSchema } from '@valibot/to-json-schema';
import { KitFile } from './kit.ts';
import { RecipeFile } from './recipe.ts';
import { RubricFile } from './rubric.ts';
import { StandardFile } from './standard.ts';

/** The published JSON Schemas, by file name in docs/schemas: what others may write for Veritor to read. */
export const SCHEMAS: Readonly<Record<string, object>> = Object.fromEntries(
  (
    [
      ['veritor-recipe-1', 'A preparation for the simulated bench', RecipeFile],
      ['veritor-kit-1', 'Cutters, gauges, phrases and drills of a course', KitFile],
      ['veritor-rubric-1', 'A rubric: criteria, bands, weights, critical errors', RubricFile],
      ['veritor-standard-2', 'What a preparation of one kind should measure', StandardFile],
    ] as const
  ).map(([name, title, schema]) => [
    `${name}.schema.json`,
    // Defaults apply when Veritor reads a file, so only the input schema has them.
    { ...toJsonSchema(schema, { typeMode: 'input', errorMode: 'ignore' }), title },
  ]),
);
