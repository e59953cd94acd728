import { closeSync, mkdirSync, openSync, readFileSync, rmSync, writeSync } from 'node:fs';
import path from 'node:path';

/** The database itself does not notice a second process on its folder and loses rows: this file does. */
export function lockFolder(folder: string): () => void {
  mkdirSync(folder, { recursive: true });
  const file = path.join(folder, 'veritor.lock');
  for (let tries = 0; tries < 2; tries++) {
    try {
      const fd = openSync(file, 'wx');
      writeSync(fd, String(process.pid));
      closeSync(fd);
      return () => rmSync(file, { force: true });
    } catch (e) {
      if ((e as NodeJS.ErrnoException).code !== 'EEXIST') throw e;
      const pid = Number(readFileSync(file, 'utf8'));
      if (pid > 0 && alive(pid)) throw new Error(`the data folder ${folder} is in use by process ${pid}; stop that one first`);
      rmSync(file, { force: true });
    }
  }
  throw new Error(`the lock of ${folder} cannot be taken`);
}

function alive(pid: number): boolean {
  try {
    process.kill(pid, 0);
    return true;
  } catch (e) {
    return (e as NodeJS.ErrnoException).code === 'EPERM';
  }
}
