import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { CATALOGUE } from '../src/core/catalogue/catalogue.ts';
import type { Entry } from '../src/core/catalogue/entry.ts';
import { HAND_METHODS, STEPS } from '../src/core/catalogue/terms.ts';
import { zoneChoices } from '../src/core/catalogue/zones.ts';

const FOLDERS = {
  crown: 'Full crowns',
  cavity: 'Cavities',
  partial: 'Partial crowns and covered margins',
  surroundings: 'Surroundings',
} as const;

const oneLine = (text: string): string =>
  text
    .replace(/\n\s*\* ?/g, ' ')
    .replace(/\s+/g, ' ')
    .trim();

const stats = (e: Entry): string =>
  Object.entries(e.stats)
    .map(([stat, s]) => `${stat} (${s.unit})`)
    .join(', ');

function catalogueTable(): string {
  const rows = CATALOGUE.map((e) => [
    `\`${e.name}${e.sized ? '(1.0)' : ''}\``,
    e.title,
    stats(e),
    zoneChoices(e.zones).join(', '),
    e.hand.map((h) => HAND_METHODS[h].word).join(', ') || '–',
    [...e.steps.map((s) => STEPS[s]), STEPS.final].join(', '),
    e.sign ?? '',
  ]);
  const head = ['Reading', 'Words', 'Statistics', 'Places', 'Without a scan', 'Exists', 'Sign'];
  return [head, head.map(() => '---'), ...rows].map((r) => `| ${r.join(' | ')} |`).join('\n');
}

const DOCSTRING = /\/\*\*((?:(?!\*\/)[\s\S])*@formula(?:(?!\*\/)[\s\S])*)\*\/\s*export function (\w+)/g;

function definitions(folder: keyof typeof FOLDERS): string[] {
  const dir = path.join('src/core/measure', folder);
  return readdirSync(dir)
    .filter((f) => !f.endsWith('.test.ts'))
    .sort()
    .flatMap((file) =>
      [...readFileSync(path.join(dir, file), 'utf8').matchAll(DOCSTRING)].map(([, docstring, name]) => {
        const [what, ...tags] = docstring.split(/@(?=formula|units|frame|fails|source|example)/);
        const lines = tags.map((t) => {
          const tag = /^\w+/.exec(t)?.[0] ?? '';
          return `- **${tag}**: ${oneLine(t.slice(tag.length))}`;
        });
        return `### ${name}\n\n${oneLine(what.replace(/^\s*\*/, ''))}\n\n${lines.join('\n')}\n- **file**: \`src/core/measure/${folder}/${file}\`\n`;
      }),
    );
}

/** docs/measures.md: the catalogue as a table, then every measure's docstring. */
export function measuresDoc(): string {
  return [
    '# What Veritor measures\n',
    'Written by `npm run docs` from the catalogue in `src/core/catalogue` and the docstrings in `src/core/measure`; the words and the definitions live there. Azimuth 0° is facial, 90° mesial, 180° lingual, 270° distal, whatever the quadrant. Every reading carries U (k = 2).\n',
    '## The catalogue\n',
    `${catalogueTable()}\n`,
    ...Object.entries(FOLDERS).flatMap(([folder, title]) => [`## ${title}\n`, ...definitions(folder as keyof typeof FOLDERS)]),
  ].join('\n');
}
