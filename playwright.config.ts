import { readdirSync } from 'node:fs';
import { defineConfig } from '@playwright/test';

/** One project a spec file, so that Playwright gives each file workers of its own. */
const files = readdirSync('e2e').filter((name) => name.endsWith('.spec.ts'));
const report = process.env.PLAYWRIGHT_JSON_OUTPUT_NAME;

/**
 * The application served from copies of a fresh demo database (e2e/test.ts); Debian's Chromium; no
 * request leaves the machine. What a failing test saw is kept: its message says where.
 */
export default defineConfig({
  testDir: 'e2e',
  globalSetup: './e2e/template.ts',
  outputDir: process.env.EARMARK_TEST_RESULTS ?? 'test-results',
  timeout: 240_000,
  expect: { timeout: 30_000 },
  workers: 2,
  forbidOnly: !!process.env.CI,
  reporter: report ? [['list'], ['json']] : [['list']],
  use: {
    actionTimeout: 30_000,
    viewport: { width: 1280, height: 800 },
    // What was done, asked and said; drawing each step as well takes an eighth of the whole run.
    trace: { mode: 'retain-on-failure', screenshots: false, snapshots: false, sources: false },
    screenshot: 'only-on-failure',
    launchOptions: {
      executablePath: '/usr/bin/chromium-headless-shell',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync'
      ]
    }
  },
  projects: [
    ...files.map((file) => ({ name: file.replace('.spec.ts', ''), testMatch: file })),
    { name: 'pictures', testMatch: 'pictures.ts' }
  ]
});
