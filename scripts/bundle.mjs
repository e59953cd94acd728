import path from 'node:path';
import { build } from 'esbuild';

const root = path.dirname(path.dirname(new URL(import.meta.url).pathname));

/**
 * One TypeScript entry → ES modules for Node; packages stay outside, the project's own files go in. What is imported only when it is
 * called for (`await import`) becomes a module of its own where `split` is asked for, so that a start does not read it.
 */
export async function bundle(entry, outfile, { split = false } = {}) {
  const { dir, name } = path.parse(outfile);
  await build({
    absWorkingDir: root,
    entryPoints: { [name]: entry },
    outdir: dir,
    outExtension: { '.js': '.mjs' },
    chunkNames: `${name}-[name]-[hash]`,
    splitting: split,
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
