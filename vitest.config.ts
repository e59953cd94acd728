import { defineConfig } from 'vitest/config';

process.env.TZ = 'UTC';

const COMMAND_LINE = 'test/journeys/command-line.test.ts';

export default defineConfig({
  test: {
    projects: [
      {
        test: {
          name: 'unit',
          environment: 'node',
          include: [
            'src/**/*.test.ts',
            'test/architecture/**/*.test.ts',
            'test/contract/**/*.test.ts',
            'test/islands/**/*.test.{ts,tsx}',
            'test/server/**/*.test.ts',
            'test/synthetic/**/*.test.ts',
          ],
          // All cores: the usual one less would leave half of a small machine idle.
          maxWorkers: '100%',
          // Files of one worker share what they import: the core would be loaded a hundred times.
          isolate: false,
          sequence: { groupOrder: 0 },
          // The longest take half a minute alone; a machine that does other things beside them takes thrice as long.
          testTimeout: 180_000,
          hookTimeout: 180_000,
        },
      },
      {
        test: {
          name: 'journeys',
          environment: 'node',
          include: ['test/journeys/**/*.test.ts'],
          exclude: [COMMAND_LINE],
          testTimeout: 120_000,
          hookTimeout: 180_000,
          fileParallelism: false,
          // After the unit tests: a browser beside them would wait for its turn.
          sequence: { groupOrder: 1 },
        },
      },
      {
        // Beside the journeys, which mostly wait for their browser.
        test: {
          name: 'command-line',
          environment: 'node',
          include: [COMMAND_LINE],
          testTimeout: 120_000,
          hookTimeout: 180_000,
          fileParallelism: false,
          sequence: { groupOrder: 1 },
        },
      },
    ],
  },
});
