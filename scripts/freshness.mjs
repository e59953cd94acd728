// Checks whether packages and build match their sources. Uses only Node's own modules, so that it runs before any install.
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import path from 'node:path';

const ROOT = path.dirname(path.dirname(new URL(import.meta.url).pathname));

export function hashOf(root, names) {
  const h = createHash('sha256');
  const walk = (p) => {
    if (!existsSync(p)) return;
    if (statSync(p).isDirectory()) for (const n of readdirSync(p).sort()) walk(path.join(p, n));
    else if (!/\.test\.tsx?$/.test(p)) h.update(path.relative(root, p)).update('\0').update(readFileSync(p));
  };
  for (const n of names) walk(path.join(root, n));
  return h.digest('hex');
}

const stampIs = (file, value) => existsSync(file) && readFileSync(file, 'utf8') === value;

function stamp(file, value) {
  mkdirSync(path.dirname(file), { recursive: true });
  writeFileSync(file, value);
}

export function run(command, args, options = {}) {
  const r = spawnSync(command, args, {
    stdio: ['ignore', 'inherit', 'inherit'],
    cwd: ROOT,
    env: { ...process.env, ASTRO_TELEMETRY_DISABLED: '1' },
    ...options,
  });
  return r.status === 0;
}

/** Installs the packages when the lock file is not the one they came from. */
export function ensurePackages() {
  const hash = hashOf(ROOT, ['package-lock.json']);
  const file = path.join(ROOT, 'node_modules', '.veritor-lock');
  if (stampIs(file, hash)) return;
  process.stderr.write('Installing packages (about a minute the first time)…\n');
  if (!run('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'])) process.exit(1);
  stamp(file, hash);
}

const APP = ['src', 'astro.config.mjs', 'package-lock.json', 'tsconfig.json', 'data', 'scripts/build.mjs', 'scripts/bundle.mjs', 'public'];

export async function ensureBuild() {
  const hash = hashOf(ROOT, APP);
  const file = path.join(ROOT, 'dist', '.veritor-build');
  if (stampIs(file, hash)) return;
  process.stderr.write('Building…\n');
  if (!run(process.execPath, ['scripts/build.mjs'])) process.exit(1);
  stamp(file, hash);
}

export function ensureChromium() {
  if (process.env.CHROMIUM_PATH || existsSync('/usr/bin/chromium')) return;
  process.stderr.write('Installing Chromium from the system packages…\n');
  const sudo = process.getuid?.() === 0 ? [] : ['sudo'];
  const apt = (...args) =>
    run([...sudo, 'apt-get'][0], [...sudo.slice(0, 0), ...(sudo.length ? ['apt-get'] : []), ...args], {
      env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
    });
  if (!(apt('update', '-qq') && apt('install', '-y', '-qq', '--no-install-recommends', 'chromium'))) process.exit(1);
}

export async function ensureCli(root = ROOT) {
  ensurePackages();
  const hash = hashOf(root, ['src/core', 'src/cli', 'src/files', 'src/contract', 'package-lock.json']);
  const out = path.join(root, 'dist', 'cli', 'veritor.mjs');
  const file = path.join(root, 'dist', 'cli', '.stamp');
  if (!existsSync(out) || !stampIs(file, hash)) {
    const { bundle } = await import('./bundle.mjs');
    await bundle('src/cli/main.ts', out, { split: true });
    stamp(file, hash);
  }
  return out;
}
