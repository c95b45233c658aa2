// `npm test`: lint, types, unit, database and browser tests, each with its own cluster and ports;
// nothing is left behind.
// Ends in a line `N passed, N failed`. With --pictures it only refreshes docs/screenshots.
import { spawn } from 'node:child_process';
import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, chmodSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join, relative } from 'node:path';
import { fileURLToPath } from 'node:url';
import { startCluster } from './cluster.mjs';
import { anyFreePort, aptInstall, Plain } from './machine.mjs';
import { installPackages } from './install.mjs';

process.chdir(join(dirname(fileURLToPath(import.meta.url)), '..'));
const onlyPictures = process.argv.includes('--pictures');
const BUILD = 'scripts/build.mjs';
/** Chromium without windows: what a page does is the same, and it starts and draws faster. */
const CHROMIUM = '/usr/bin/chromium-headless-shell';
const PGBACKREST = '/usr/bin/pgbackrest';
let passed = 0;
/** What failed, by name: told last, as of a long run only the end may be kept. */
const failures = [];
let cluster, folder, running;
const beside = new Set();

const inTurn = async (...steps) => {
  for (const step of steps) await step();
};

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
    failures.push(name);
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
    : { passed: 0, failures: [`${name}: it died`] };
  if (code !== 0 && result.failures.length === 0) result.failures.push(`${name}: exit ${code}`);
  passed += result.passed;
  failures.push(...result.failures);
  console.log(`${name}: ${result.passed} passed, ${result.failures.length} failed`);
}
/** Unit and database tests in one run, so that both cores have work until the last file. */
const vitest = (env) => {
  const report = join(folder, 'vitest.json');
  const args = ['vitest', 'run', '--reporter=default', '--reporter=json'];
  return suite(
    'unit and database',
    'npx',
    [...args, `--outputFile.json=${report}`],
    report,
    (json) => ({
      passed: json.numPassedTests,
      failures: json.testResults.flatMap(failuresOfFile)
    }),
    env
  );
};
/** The tests of a file that failed; the file itself where it failed before or after all of them. */
function failuresOfFile({ name, status, assertionResults: tests }) {
  const file = relative(process.cwd(), name);
  const wrong = tests.filter((test) => test.status === 'failed');
  if (status === 'failed' && wrong.length === 0) return [file];
  return wrong.map((test) => `${file}: ${test.fullName}`);
}

/** Where the trace and the screenshot of a failing browser test are kept; its message names them. */
const results = join(process.cwd(), 'test-results');
const browser = (env) => {
  const report = join(folder, 'browser.json');
  const wanted = onlyPictures ? ['--project', 'pictures'] : browserProjects();
  return suite(
    onlyPictures ? 'pictures' : 'browser',
    'npx',
    ['playwright', 'test', ...wanted],
    report,
    (json) => ({
      passed: json.stats.expected,
      failures: [...json.suites.flatMap(failuresOfSuite), ...json.errors.map((e) => e.message)]
    }),
    {
      ...env,
      EARMARK_DATA: join(folder, 'served'),
      EARMARK_TEST_RESULTS: results,
      PLAYWRIGHT_JSON_OUTPUT_NAME: report
    }
  );
};
/** The tests of a file of browser tests that failed, or passed only when tried again. */
const failuresOfSuite = ({ specs = [], suites = [] }) => [
  ...specs
    .filter(({ tests }) => tests.some(({ status }) => ['unexpected', 'flaky'].includes(status)))
    .map(({ file, title }) => `${file}: ${title}`),
  ...suites.flatMap(failuresOfSuite)
];
const browserProjects = () =>
  readdirSync('e2e')
    .filter((file) => file.endsWith('.spec.ts'))
    .flatMap((file) => ['--project', file.replace('.spec.ts', '')]);

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
  if (!existsSync(CHROMIUM)) aptInstall(['chromium-headless-shell'], 'Chromium');
  if (!onlyPictures && !existsSync(PGBACKREST)) aptInstall(['pgbackrest'], 'pgBackRest');
  folder = mkdtempSync(join(tmpdir(), 'earmark-test-'));
  chmodSync(folder, 0o755); // the user postgres must get through
  // Two lanes for two cores; the cluster is made while they run.
  const checks = onlyPictures
    ? check('build', process.execPath, [BUILD])
    : Promise.all([
        inTurn(
          () => check('lint', 'npx', ['eslint', '.', '--max-warnings', '0']),
          () => check('build', process.execPath, [BUILD])
        ),
        inTurn(
          () => check('types', 'npm', ['run', '--silent', 'check']),
          () => check('layout', 'npm', ['run', '--silent', 'format:check']),
          () => check('arrows', 'npm', ['run', '--silent', 'arrows']),
          () => check('dead code', 'npm', ['run', '--silent', 'dead'])
        )
      ]);
  const port = await anyFreePort();
  cluster = await startCluster({ folder: join(folder, 'cluster'), port, fast: true });
  await checks;
  const database = { EARMARK_TEST_URL: cluster.ownerUrl, EARMARK_TEST_APP_URL: cluster.appUrl };
  if (!onlyPictures) await vitest(database);
  await browser(database);
} catch (error) {
  failures.push('the run itself');
  console.error(error instanceof Plain ? error.message : error);
} finally {
  cleanUp();
}
for (const name of failures) console.log(`failed: ${name}`);
console.log(`\n${passed} passed, ${failures.length} failed`);
process.exit(failures.length === 0 ? 0 : 1);
