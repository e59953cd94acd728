// The whole application: pages and islands by Astro, worker threads and the command line by esbuild.
import { spawnSync } from 'node:child_process';
import { cpSync, rmSync, writeFileSync } from 'node:fs';
import { PGlite } from '@electric-sql/pglite';
import { bundle } from './bundle.mjs';

rmSync('dist', { recursive: true, force: true });
const astro = spawnSync(process.execPath, ['node_modules/astro/astro.js', 'build'], {
  stdio: 'inherit',
  env: { ...process.env, ASTRO_TELEMETRY_DISABLED: '1' },
});
if (astro.status !== 0) process.exit(astro.status ?? 1);
await bundle('src/cli/main.ts', 'dist/cli/veritor.mjs', { split: true });
await bundle('src/server/database/worker.ts', 'dist/workers/database.mjs');
await bundle('src/server/children/worker.ts', 'dist/workers/child.mjs');
await bundle('src/server/scanner/worker.ts', 'dist/workers/scanner.mjs');
await bundle('src/seed/main.ts', 'dist/seed/main.mjs');
cpSync('src/migrations', 'dist/migrations', { recursive: true });

// An initialised, empty database: a first start unpacks it in a second instead of making one in ten.
const empty = await PGlite.create();
writeFileSync('dist/database-template.tar.gz', Buffer.from(await (await empty.dumpDataDir('gzip')).arrayBuffer()));
await empty.close();
