// Writes docs/measures.md: npm run docs
import { writeFileSync } from 'node:fs';
import { measuresDoc } from './measures-doc.ts';

writeFileSync('docs/measures.md', measuresDoc());
