// Format and lint, the core's own fence, then all tests; ends with the counts on a line of their own.
import { spawn } from 'node:child_process';
import { mkdirSync, readFileSync } from 'node:fs';

const run = (args) =>
  new Promise((end) => {
    spawn(process.execPath, args, { stdio: 'inherit', env: { ...process.env, TZ: 'UTC' } }).on('close', (code) => end(code === 0));
  });
mkdirSync('.cache', { recursive: true });
const ok = await Promise.all(
  [
    ['node_modules/@biomejs/biome/bin/biome', 'check', '.'],
    ['node_modules/typescript/bin/tsc', '-p', 'src/core/tsconfig.json'],
    ['node_modules/typescript/bin/tsc', '--noEmit', '-p', 'tsconfig.json'],
  ].map(run),
);
if (!ok.every(Boolean)) process.exit(1);
const passed = await run([
  'node_modules/vitest/vitest.mjs',
  'run',
  '--reporter=default',
  '--reporter=json',
  '--outputFile.json=.cache/tests.json',
  ...process.argv.slice(2),
]);
const { numPassedTests, numFailedTests } = JSON.parse(readFileSync('.cache/tests.json', 'utf8'));
process.stdout.write(`\n${numPassedTests} passed, ${numFailedTests} failed\n`);
process.exit(passed && numPassedTests > 0 ? 0 : 1);
