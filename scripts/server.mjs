// Starts the built application. One place says how, for the demo, the journeys and the benchmarks alike.
import { spawn } from 'node:child_process';

/**
 * Measuring threads run below the server's priority, but their garbage is collected by helpers of the process that do not:
 * one helper leaves the answers more room than the usual four.
 */
const ARGUMENTS = ['--v8-pool-size=1', 'scripts/serve.mjs'];

/** On loopback only; `data` holds everything the installation knows, `demo` the simulated cases that a demonstration begins with. */
export const startServer = ({ root, port, data, demo, stdio }) =>
  spawn(process.execPath, ARGUMENTS, {
    cwd: root,
    stdio,
    env: { ...process.env, HOST: '127.0.0.1', PORT: String(port), TZ: 'UTC', VERITOR_DATA: data, VERITOR_DEMO: demo },
  });
