// Writes docs/schemas from the contracts: npm run schemas
import { mkdirSync, writeFileSync } from 'node:fs';
import { SCHEMAS } from '../src/contract/schemas.ts';

mkdirSync('docs/schemas', { recursive: true });
for (const [name, schema] of Object.entries(SCHEMAS)) writeFileSync(`docs/schemas/${name}`, `${JSON.stringify(schema, null, 2)}\n`);
