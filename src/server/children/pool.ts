import { type ChildProcess, fork } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { Fault } from '#core/result/fault.ts';
import { FILE_LIMITS, type FileLimits, limitWords } from '#core/scan/limits.ts';
import type { Order, Report, Results, Task } from './tasks.ts';

/** ms between two looks at a child's memory, and after which an idle child is let go. */
const LOOK_MS = 250;
const IDLE_MS = 60_000;

/** How many times its limit a child may take by the clock while it uses less of the processor. */
const PATIENCE = 5;
/** Linux reports processor time to programs in hundredths of a second. */
const TICKS_PER_SECOND = 100;

/** A child died, hung or grew beyond its limits while it had a file. */
export class ChildEnded extends Error {}

/** A fault of the task itself, reported by the child. */
export class TaskFault extends Error {
  constructor(
    readonly code: string,
    message: string,
  ) {
    super(message);
  }
}

interface Job {
  readonly task: Task;
  readonly signal: AbortSignal | null;
  readonly onProgress: (stage: string, share: number) => void;
  readonly resolve: (r: never) => void;
  readonly reject: (e: Error) => void;
}

/**
 * Child processes for files from outside, each with one file at a time and with limits on time and memory. A child that dies,
 * hangs or grows too large is ended and its task rejected; the server's own process never holds a foreign file.
 * (A thread would not do: V8 ends the whole process when one runs out of array or string space.)
 */
export class ChildPool {
  private readonly waiting: Job[] = [];
  private readonly children = new Set<Child>();
  private isStopped = false;

  constructor(
    private readonly workerFile: string,
    private readonly size = 2,
    readonly limits: FileLimits = FILE_LIMITS,
  ) {}

  run<K extends Task['kind']>(
    task: Extract<Task, { kind: K }>,
    options: {
      signal?: AbortSignal;
      onProgress?: (stage: string, share: number) => void /** A person waits for it. */;
      soon?: boolean;
    } = {},
  ): Promise<Results[K]> {
    return new Promise((resolve, reject) => {
      if (this.isStopped || options.signal?.aborted) return reject(new DOMException('cancelled', 'AbortError'));
      // A person waits for a picture or an archive; measuring goes on behind it.
      const before = task.kind === 'measure' && !options.soon ? -1 : this.waiting.findIndex((j) => j.task.kind === 'measure');
      this.waiting.splice(before < 0 ? this.waiting.length : before, 0, {
        task,
        signal: options.signal ?? null,
        onProgress: options.onProgress ?? (() => undefined),
        resolve: resolve as (r: never) => void,
        reject,
      });
      this.next();
    });
  }

  async stop(): Promise<void> {
    this.isStopped = true;
    for (const j of this.waiting.splice(0)) j.reject(new DOMException('cancelled', 'AbortError'));
    await Promise.all([...this.children].map((c) => c.end(new DOMException('cancelled', 'AbortError'))));
  }

  private next(): void {
    const job = this.waiting[0];
    if (!job || this.isStopped) return;
    if (job.signal?.aborted) {
      this.waiting.shift();
      job.reject(new DOMException('cancelled', 'AbortError'));
      this.next();
      return;
    }
    let child = [...this.children].find((c) => c.isIdle);
    if (!child) {
      if (this.children.size >= this.size) return;
      child = new Child(this.workerFile, this.limits, (c) => {
        this.children.delete(c);
        this.next();
      });
      this.children.add(child);
    }
    this.waiting.shift();
    void child.work(job).then(() => this.next());
    this.next();
  }
}

class Child {
  private readonly process: ChildProcess;
  private job: Job | null = null;
  private count = 0;
  private idle: NodeJS.Timeout | null = null;
  private ended: Promise<void>;
  private finish: (() => void) | null = null;

  constructor(
    file: string,
    private readonly limits: FileLimits,
    onGone: (c: Child) => void,
  ) {
    this.process = fork(file, [], {
      serialization: 'advanced',
      execArgv: [`--max-old-space-size=${Math.round(limits.memoryBytes / 1e6)}`],
      // The child gets no environment variables of the server, so that a hostile file cannot reach its secrets.
      env: { NODE_ENV: process.env.NODE_ENV ?? 'production', TZ: 'UTC', PATH: process.env.PATH ?? '' },
      stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
    });
    this.ended = new Promise((resolve) => {
      this.process.once('exit', (code, signal) => {
        this.settle(new ChildEnded(`it ended by itself (${signal ?? code})`));
        onGone(this);
        resolve();
      });
    });
    this.process.on('error', () => undefined);
    this.process.on('message', (r: Report) => this.take(r));
  }

  get isIdle(): boolean {
    return this.job === null && this.process.connected && !this.process.killed;
  }

  /** Resolves when the child has finished the job or has ended. */
  work(job: Job): Promise<void> {
    if (this.idle) clearTimeout(this.idle);
    this.job = job;
    this.count++;
    const done = new Promise<void>((resolve) => {
      this.finish = resolve;
    });
    // Processor time counts where the system tells it: on a busy machine a sound scan waits long. What only waits is ended later.
    const before = busyOf(this.process.pid);
    const tooLong = (): void =>
      void this.end(new ChildEnded(`it took more than ${this.limits.seconds} s (${limitWords(this.limits, 'seconds')})`));
    const late = setTimeout(tooLong, 1000 * this.limits.seconds * (before === null ? 1 : PATIENCE));
    const look = setInterval(() => {
      const busy = busyOf(this.process.pid);
      if (before !== null && busy !== null && busy - before > this.limits.seconds) return tooLong();
      const used = memoryOf(this.process.pid);
      if (used > this.limits.memoryBytes)
        void this.end(new ChildEnded(`it took ${(used / 1e9).toFixed(1)} GB of memory (${limitWords(this.limits, 'memoryBytes')})`));
    }, LOOK_MS);
    const cancel = (): void => void this.end(new DOMException('cancelled', 'AbortError'));
    job.signal?.addEventListener('abort', cancel, { once: true });
    const order: Order = { id: this.count, task: job.task, limits: this.limits };
    this.process.send(order, (e) => {
      if (e) void this.end(new ChildEnded('it could not be reached'));
    });
    return done.finally(() => {
      clearTimeout(late);
      clearInterval(look);
      job.signal?.removeEventListener('abort', cancel);
      this.idle = setTimeout(() => void this.end(new ChildEnded('idle')), IDLE_MS);
      this.idle.unref();
    });
  }

  /** Ends the process and rejects its task with the reason. */
  async end(why: Error): Promise<void> {
    if (this.idle) clearTimeout(this.idle);
    this.settle(why);
    if (this.process.exitCode === null && this.process.signalCode === null) this.process.kill('SIGKILL');
    await this.ended;
  }

  private take(r: Report): void {
    if (r.id !== this.count || !this.job) return;
    if ('stage' in r) this.job.onProgress(r.stage, r.share);
    else if ('fault' in r) this.settle(new TaskFault(r.fault.code, r.fault.message));
    else {
      const { job } = this;
      this.job = null;
      job.resolve(r.result as never);
      this.finish?.();
    }
  }

  private settle(e: Error): void {
    const { job } = this;
    this.job = null;
    job?.reject(e);
    this.finish?.();
  }
}

/** Seconds of processor time that a process has used, all its threads together; null where the system does not report it. */
function busyOf(pid: number | undefined): number | null {
  if (pid === undefined) return null;
  try {
    const stat = readFileSync(`/proc/${pid}/stat`, 'utf8');
    // The name in brackets may hold anything; user and system time are the 12th and 13th figure after it.
    const fields = stat.slice(stat.lastIndexOf(')') + 2).split(' ');
    return (Number(fields[11]) + Number(fields[12])) / TICKS_PER_SECOND;
  } catch {
    return null;
  }
}

/** Bytes of memory that a process holds; 0 where the system does not report it. */
function memoryOf(pid: number | undefined): number {
  if (pid === undefined) return 0;
  try {
    return Number(readFileSync(`/proc/${pid}/statm`, 'utf8').split(' ')[1]) * 4096;
  } catch {
    return 0;
  }
}

/** A fault that says that a file brought its child process down. */
export const unreadable = (why: string): Fault =>
  new Fault('file.unreadable', {
    expected: 'a scan can be read and measured within the limits',
    received: `reading it was ended twice: ${why}`,
    remedy: 'Export the scan again with fewer triangles, or scan the tooth again. The file is kept aside.',
  });
