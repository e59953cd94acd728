import { build } from 'esbuild';

/** One TypeScript entry → one ES module for Node; packages stay outside, the project's own files go in. */
export async function bundle(entry, outfile) {
  await build({ entryPoints: [entry], outfile, bundle: true, platform: 'node', format: 'esm', target: 'node20', packages: 'external', sourcemap: 'inline', logLevel: 'warning', alias: { '#core': './src/core', '#contract': './src/contract', '#server': './src/server', '#words': './src/words' } });
}
