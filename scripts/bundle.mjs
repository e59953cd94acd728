import path from 'node:path';
import { build } from 'esbuild';

const root = path.dirname(path.dirname(new URL(import.meta.url).pathname));

/** One TypeScript entry → one ES module for Node; packages stay outside, the project's own files go in. */
export async function bundle(entry, outfile) {
  await build({
    absWorkingDir: root,
    entryPoints: [entry],
    outfile,
    bundle: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    packages: 'external',
    sourcemap: 'linked',
    logLevel: 'warning',
    alias: { '#core': './src/core', '#contract': './src/contract', '#server': './src/server', '#words': './src/words' },
  });
}
