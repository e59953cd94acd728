// The whole application: pages and islands by Astro, worker threads and the command line by esbuild.
import { spawnSync } from 'node:child_process';
import { cpSync, rmSync } from 'node:fs';
import { bundle } from './bundle.mjs';

rmSync('dist', { recursive: true, force: true });
const astro = spawnSync(process.execPath, ['node_modules/astro/astro.js', 'build'], {
  stdio: 'inherit',
  env: { ...process.env, ASTRO_TELEMETRY_DISABLED: '1' },
});
if (astro.status !== 0) process.exit(astro.status ?? 1);
await bundle('src/cli/main.ts', 'dist/cli/veritor.mjs');
await bundle('src/server/database/worker.ts', 'dist/workers/database.mjs');
await bundle('src/server/jobs/worker.ts', 'dist/workers/measure.mjs');
await bundle('src/seed/main.ts', 'dist/seed/main.mjs');
cpSync('src/migrations', 'dist/migrations', { recursive: true });
