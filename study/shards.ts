import { fork } from 'node:child_process';

/**
 * Runs a study in two processes: the program starts itself with `--shard N`, and each child sends its rows. Call it first;
 * only the parent returns, with all rows.
 */
export async function sharded<T>(own: string | undefined, work: (shard: number, of: number) => Promise<T[]>): Promise<T[]> {
  if (own !== undefined) {
    const rows = await work(Number(own), 2);
    await new Promise<never>(() => process.send?.(rows, () => process.exit(0)));
  }
  const child = (i: number): Promise<T[]> =>
    new Promise((resolve, reject) => {
      const started = fork(process.argv[1], [...process.argv.slice(2), '--shard', String(i)], { stdio: 'inherit' });
      started.on('message', (m) => resolve(m as T[]));
      started.on('exit', (code) => code !== 0 && reject(new Error(`a shard ended with ${code}`)));
    });
  return (await Promise.all([child(0), child(1)])).flat();
}
