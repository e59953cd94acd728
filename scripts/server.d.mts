import type { ChildProcess, StdioOptions } from 'node:child_process';

export function startServer(options: {
  root: string;
  port: number | string;
  data: string;
  demo: string | undefined;
  stdio: StdioOptions;
}): ChildProcess;
