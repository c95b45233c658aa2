import { svelte } from '@sveltejs/vite-plugin-svelte';
import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vitest/config';

const file = (path: string): string => fileURLToPath(new URL(path, import.meta.url));

/**
 * Two projects: `unit` needs nothing; `database` needs a cluster of its own, which scripts/test.mjs
 * starts.
 */
export default defineConfig({
  test: {
    maxWorkers: 2,
    projects: [
      {
        // Models of screens are tested without a browser: runes compiled, navigation stood in for.
        plugins: [svelte()],
        resolve: {
          conditions: ['browser'],
          alias: {
            $lib: file('src/lib'),
            '$app/navigation': file('src/lib/ui/testing/navigation.ts'),
            '$app/state': file('src/lib/ui/testing/state.ts')
          }
        },
        test: {
          name: 'unit',
          include: ['{src,scripts,bench}/**/*.test.ts'],
          exclude: ['{src,scripts,bench}/**/*.db.test.ts'],
          environment: 'node',
          // What is tested keeps nothing between files: loading it once halves the time.
          isolate: false,
          testTimeout: 120_000
        }
      },
      {
        test: {
          name: 'database',
          include: ['{src,demo,scripts,bench}/**/*.db.test.ts'],
          environment: 'node',
          globalSetup: ['src/lib/server/testing/template.ts'],
          // As above; what files book stands in databases of their own.
          isolate: false,
          testTimeout: 240_000,
          hookTimeout: 300_000
        }
      }
    ]
  }
});
