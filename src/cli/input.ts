import { existsSync, readFileSync } from 'node:fs';
import { Fault } from '#core/result/fault.ts';
import { UsageError } from './usage.ts';

export function readBytes(file: string): Uint8Array {
  if (!existsSync(file)) throw new UsageError(`${file}: there is no such file; check the path`);
  return readFileSync(file);
}

export function readJson(file: string, code: 'rubric.invalid' | 'recipe.invalid'): unknown {
  try {
    return JSON.parse(new TextDecoder().decode(readBytes(file)));
  } catch (e) {
    if (e instanceof UsageError) throw e;
    throw new Fault(code, { where: file, expected: 'it is JSON', received: (e as Error).message, remedy: 'Correct the file.' });
  }
}
