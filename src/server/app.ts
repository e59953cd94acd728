import type { Person } from './access/table.ts';
import type { SignInThrottle } from './account/throttle.ts';
import type { Records } from './audit/records.ts';
import type { ChildPool } from './children/pool.ts';
import type { Database } from './database/port.ts';
import type { Redraw } from './demo/redraw.ts';
import type { Pulse } from './pulse.ts';
import type { FileStore } from './scans/files.ts';
import type { JobQueue } from './scans/queue.ts';

/** A stand-in for the scanner at the bench. */
export interface BenchScanner {
  /** Number of simulated scans that have not yet arrived in a sitting. */
  onTheWay(sitting: string): number;
  /** Starts one simulated scan, which arrives in the tray by itself. Null when the scanner cannot cut such a tooth. */
  start(sitting: string, student: string, person: Person): Promise<{ fileName: string } | null>;
}

/** Everything a request needs, opened once per process. */
export interface App {
  readonly db: Database;
  readonly records: Records;
  readonly files: FileStore;
  readonly children: Pick<ChildPool, 'limits' | 'run'>;
  readonly jobs: Pick<JobQueue, 'add' | 'cancel' | 'pair' | 'masterPicture' | 'progressOf' | 'waiting'>;
  readonly scanner: BenchScanner;
  /** Makes what the demo ships without; null outside the demo. */
  readonly redraw: Pick<Redraw, 'measurement' | 'master'> | null;
  readonly throttle: SignInThrottle;
  readonly pulse: Pulse;
  readonly dataFolder: string;
  /** Folder of the standards that rubrics refer to. */
  readonly standardsFolder: string;
}
