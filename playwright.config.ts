import { defineConfig } from '@playwright/test';

const port = process.env.PORT ?? '4173';

/**
 * The application served from a fresh demo database (e2e/serve.mjs); Debian's Chromium; no request
 * leaves the machine.
 */
export default defineConfig({
  testDir: 'e2e',
  timeout: 240_000,
  expect: { timeout: 30_000 },
  workers: 1,
  forbidOnly: !!process.env.CI,
  reporter: process.env.PLAYWRIGHT_JSON_OUTPUT_NAME ? [['list'], ['json']] : [['list']],
  use: {
    baseURL: `http://localhost:${port}`,
    viewport: { width: 1280, height: 800 },
    launchOptions: {
      executablePath: '/usr/bin/chromium',
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
    { name: 'browser', testMatch: /.*\.spec\.ts/ },
    { name: 'pictures', testMatch: /pictures\.ts/ }
  ],
  webServer: {
    command: 'node e2e/serve.mjs',
    url: `http://localhost:${port}/api/health`,
    timeout: 400_000,
    gracefulShutdown: { signal: 'SIGTERM', timeout: 15_000 }
  }
});
