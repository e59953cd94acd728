// Writes docs/measures.md and docs/coverage.md: npm run docs
import { writeFileSync } from 'node:fs';
import { coverageDoc } from './coverage-doc.ts';
import { measuresDoc } from './measures-doc.ts';

writeFileSync('docs/measures.md', measuresDoc());
writeFileSync('docs/coverage.md', coverageDoc());
