import { ChildEnded, TaskFault } from '../children/pool.ts';
import { Refused } from '../errors.ts';

/** Runs a task whose fault is the file's: what the child says reaches the person as a refusal. */
export async function inChild<R>(work: Promise<R>): Promise<R> {
  try {
    return await work;
  } catch (e) {
    if (e instanceof TaskFault) throw new Refused('not-valid', e.message);
    if (e instanceof ChildEnded)
      throw new Refused(
        'not-valid',
        'This arch took too long or too much memory to read. Export it with fewer triangles and bring it again.',
      );
    throw e;
  }
}
