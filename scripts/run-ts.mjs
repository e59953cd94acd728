// Runs a TypeScript file of this project: bundled by esbuild into a temporary module, then imported. Arguments pass through.
import { spawnSync } from 'node:child_process';
import { mkdirSync } from 'node:fs';
import path from 'node:path';
import { bundle } from './bundle.mjs';

const [entry, ...rest] = process.argv.slice(2);
const out = path.join('.cache', 'run', `${path.basename(entry, '.ts')}.mjs`);
mkdirSync(path.dirname(out), { recursive: true });
await bundle(entry, out);
process.exit(spawnSync(process.execPath, [...process.execArgv, out, ...rest], { stdio: 'inherit' }).status ?? 1);
