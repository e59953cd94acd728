// Writes docs/measures.md from the measures' docstrings; with --print to standard output instead.
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';

const root = path.dirname(path.dirname(new URL(import.meta.url).pathname));
const FOLDERS = [
  ['crown', 'Full crowns'],
  ['cavity', 'Cavities'],
  ['partial', 'Partial crowns and covered margins'],
  ['surroundings', 'Surroundings'],
];
const clean = (text) =>
  text
    .replace(/\n\s*\* ?/g, ' ')
    .replace(/\s+/g, ' ')
    .trim();

function measuresDoc() {
  const parts = [
    '# What Veritor measures\n\nWritten from the docstrings in `src/core/measure` by `npm run docs`; the definitions live there. Azimuth 0° is facial, 90° mesial, 180° lingual, 270° distal, whatever the quadrant. Every reading carries U (k = 2).\n',
  ];
  for (const [folder, title] of FOLDERS) {
    parts.push(`## ${title}\n`);
    const dir = path.join(root, 'src/core/measure', folder);
    for (const file of readdirSync(dir).sort()) {
      if (file.endsWith('.test.ts')) continue;
      for (const m of readFileSync(path.join(dir, file), 'utf8').matchAll(
        /\/\*\*((?:(?!\*\/)[\s\S])*@formula(?:(?!\*\/)[\s\S])*)\*\/\s*export function (\w+)/g,
      )) {
        const [what, ...tags] = m[1].split(/@(?=formula|units|frame|fails|source|example)/);
        parts.push(`### ${m[2]}\n\n${clean(what.replace(/^\s*\*/, ''))}\n`);
        parts.push(
          `${tags.map((t) => `- **${t.match(/^\w+/)[0]}**: ${clean(t.replace(/^\w+/, ''))}`).join('\n')}\n- **file**: \`src/core/measure/${folder}/${file}\`\n`,
        );
      }
    }
  }
  return parts.join('\n');
}

if (process.argv.includes('--print')) process.stdout.write(measuresDoc());
else writeFileSync(path.join(root, 'docs/measures.md'), measuresDoc());
