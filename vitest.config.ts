import { defineConfig } from 'vitest/config';

/**
 * Two projects: `unit` needs nothing; `database` needs a cluster of its own, which scripts/test.mjs
 * starts.
 */
export default defineConfig({
  test: {
    maxWorkers: 2,
    projects: [
      {
        test: {
          name: 'unit',
          include: ['src/**/*.test.ts'],
          exclude: ['src/**/*.db.test.ts'],
          environment: 'node',
          testTimeout: 120_000
        }
      },
      {
        test: {
          name: 'database',
          include: ['src/**/*.db.test.ts', 'demo/**/*.db.test.ts', 'scripts/**/*.db.test.ts'],
          environment: 'node',
          globalSetup: ['src/lib/server/testing/template.ts'],
          testTimeout: 240_000,
          hookTimeout: 300_000
        }
      }
    ]
  }
});
