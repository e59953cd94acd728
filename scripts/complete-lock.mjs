// Run after each `npm install` that changes the lock. Registries that lack some platforms' packages make npm leave them out
// of the lock, and `npm ci` then refuses it: this adds an entry for each missing optional package. npm skips them by platform.
import { readFileSync, writeFileSync } from 'node:fs';

const file = 'package-lock.json';
const lock = JSON.parse(readFileSync(file, 'utf8'));
const packages = lock.packages;
const OS = ['android', 'darwin', 'freebsd', 'openbsd', 'openharmony', 'win32', 'linux'];
const CPU = ['loong64', 'riscv64', 'wasm32', 'arm64', 's390x', 'ppc64', 'ia32', 'x64', 'arm'];
let added = 0;
for (const [path, entry] of Object.entries({ ...packages }))
  for (const [name, version] of Object.entries(entry.optionalDependencies ?? {})) {
    let base = path;
    let found = false;
    while (!found) {
      found = Boolean(packages[`${base ? `${base}/` : ''}node_modules/${name}`]);
      if (!base) break;
      const i = base.lastIndexOf('/node_modules/');
      base = i < 0 ? '' : base.slice(0, i);
    }
    if (found) continue;
    const os = OS.find((o) => name.includes(o));
    const cpu = CPU.find((c) => name.includes(c));
    packages[`node_modules/${name}`] = {
      version: version.replace(/^[\^~]/, ''),
      ...(os ? { os: [os] } : {}),
      ...(cpu ? { cpu: [cpu] } : {}),
      ...(name.includes('musl') ? { libc: ['musl'] } : os === 'linux' ? { libc: ['glibc'] } : {}),
      ...(entry.dev ? { dev: true } : {}),
      optional: true,
    };
    added++;
  }
writeFileSync(file, `${JSON.stringify(lock, null, 2)}\n`);
process.stdout.write(`${added} optional packages added to the lock\n`);
