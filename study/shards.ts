import { fork } from 'node:child_process';

/**
 * Runs a study on both cores: the program starts itself twice with `--shard N`, each child does its share and sends its rows.
 * Call it first; it returns the rows in the parent and never in a child.
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
