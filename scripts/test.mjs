// `npm test`: lint, types, unit, database and browser tests, each with its own cluster and ports;
// nothing is left behind.
// Ends in a line `N passed, N failed`. With --pictures it only refreshes docs/screenshots.
import { spawn } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync, chmodSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { buildIfStale } from './build.mjs';
import { anyFreePort, aptInstall, Plain, startCluster } from './cluster.mjs';
import { installPackages } from './install.mjs';

process.chdir(join(dirname(fileURLToPath(import.meta.url)), '..'));
const onlyPictures = process.argv.includes('--pictures');
const CHROMIUM = '/usr/bin/chromium';
let passed = 0,
  failed = 0;
let cluster, folder, running;
const beside = new Set();

function run(command, args, env = {}) {
  return new Promise((done) => {
    running = spawn(command, args, { stdio: 'inherit', env: { ...process.env, ...env } });
    running.on('exit', (code) => done(code ?? 1));
  });
}

/**
 * A check that passes or fails as a whole; what it says is kept until it ends, so that several may
 * run at once.
 */
async function check(name, command, args) {
  const { code, said } = await new Promise((done) => {
    const child = spawn(command, args, { stdio: ['ignore', 'pipe', 'pipe'] });
    beside.add(child);
    let said = '';
    for (const stream of [child.stdout, child.stderr])
      stream.on('data', (chunk) => {
        said += chunk;
      });
    child.on('exit', (code) => {
      beside.delete(child);
      done({ code: code ?? 1, said });
    });
  });
  console.log(`\n── ${name}\n${said.trimEnd()}`);
  if (code === 0) passed++;
  else {
    failed++;
    console.log(`${name} failed`);
  }
}

/**
 * A runner that writes a JSON report; `count` reads passed and failed from it. A runner that dies
 * without one is a failure.
 */
async function suite(name, command, args, report, count, env) {
  console.log(`\n── ${name}`);
  const code = await run(command, args, env);
  const result = existsSync(report)
    ? count(JSON.parse(readFileSync(report, 'utf8')))
    : { passed: 0, failed: 1 };
  passed += result.passed;
  failed += result.failed || (code === 0 ? 0 : 1);
  console.log(`${name}: ${result.passed} passed, ${result.failed} failed`);
}
const vitest = (project, env) => {
  const report = join(folder, `${project}.json`);
  return suite(
    project,
    'npx',
    [
      'vitest',
      'run',
      '--project',
      project,
      '--reporter=default',
      '--reporter=json',
      `--outputFile.json=${report}`
    ],
    report,
    (json) => ({
      passed: json.numPassedTests,
      failed:
        json.numFailedTests +
        json.testResults.filter(
          (file) => file.status === 'failed' && file.assertionResults.length === 0
        ).length
    }),
    env
  );
};

function cleanUp() {
  try {
    cluster?.stop();
  } catch {
    /* it was killed by its own test */
  }
  if (folder) rmSync(folder, { recursive: true, force: true });
}
for (const signal of ['SIGINT', 'SIGTERM'])
  process.on(signal, () => {
    running?.kill(signal);
    for (const child of beside) child.kill(signal);
    cleanUp();
    process.exit(1);
  });

try {
  installPackages();
  if (!existsSync(CHROMIUM)) aptInstall(['chromium'], 'Chromium');
  folder = mkdtempSync(join(tmpdir(), 'earmark-test-'));
  chmodSync(folder, 0o755); // the user postgres must get through
  if (!onlyPictures) {
    // Each of them takes one core: two at a time.
    await Promise.all([
      check('lint', 'npx', ['eslint', '.', '--max-warnings', '0']),
      check('types', 'npm', ['run', '--silent', 'check'])
    ]);
    await vitest('unit');
  }
  buildIfStale();
  cluster = await startCluster({
    folder: join(folder, 'cluster'),
    port: await anyFreePort(),
    fast: true
  });
  const database = { EARMARK_TEST_URL: cluster.ownerUrl, EARMARK_TEST_APP_URL: cluster.appUrl };
  if (!onlyPictures) await vitest('database', database);
  const report = join(folder, 'browser.json');
  await suite(
    onlyPictures ? 'pictures' : 'browser',
    'npx',
    [
      'playwright',
      'test',
      ...(onlyPictures ? ['--project', 'pictures'] : ['--project', 'browser'])
    ],
    report,
    (json) => ({
      passed: json.stats.expected,
      failed: json.stats.unexpected + json.stats.flaky + json.errors.length
    }),
    {
      ...database,
      PORT: String(await anyFreePort()),
      EARMARK_DATA: join(folder, 'served'),
      PLAYWRIGHT_JSON_OUTPUT_NAME: report
    }
  );
} catch (error) {
  failed++;
  console.error(error instanceof Plain ? error.message : error);
} finally {
  cleanUp();
}
console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
