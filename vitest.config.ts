import { defineConfig } from 'vitest/config';

/** Two projects: `unit` needs nothing, `database` needs EARMARK_TEST_URL (scripts/test.mjs sets it). */
export default defineConfig({
  test: {
    projects: [
      { test: { name: 'unit', include: ['src/**/*.test.ts'], exclude: ['src/**/*.db.test.ts'], environment: 'node' } },
      {
        test: {
          name: 'database', include: ['src/**/*.db.test.ts', 'demo/**/*.db.test.ts'], environment: 'node',
          testTimeout: 60_000, hookTimeout: 120_000, maxWorkers: 2
        }
      }
    ]
  }
});
