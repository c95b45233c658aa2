// `npm run bench`: generates a world in a database cluster of its own and prints ratios measured in
// one run.
//   --links N      genealogy links of the world (default 1000000)
//   --only A,B     only these cases
//   --json FILE    also writes [{ name, ratio, ours, theirs, unit, size }]
import { chmodSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { pathToFileURL } from 'node:url';
import { parseArgs } from 'node:util';
import { connect } from '../src/lib/server/kernel/db/client.ts';
import { migrate, migrationsIn } from '../src/lib/server/kernel/db/migrate.ts';
import { stopEngines } from '../src/lib/server/trace/engine/engines.ts';
import { CASES } from './cases.ts';
import type { Measured } from './measure.ts';
import { screens } from './screens/screens.ts';
import { small } from './small/small.ts';
import { generateWorld, MIGRATIONS } from './world.ts';

// Not bundled with the benchmarks: they find the project's files from where they lie.
const script = (name: string) =>
  import(/* @vite-ignore */ pathToFileURL(resolve(`scripts/${name}`)).href);
type Clusters = typeof import('../scripts/cluster.mjs');
type Machine = typeof import('../scripts/machine.mjs');
const { startCluster } = (await script('cluster.mjs')) as Clusters;
const { anyFreePort } = (await script('machine.mjs')) as Machine;

const { values } = parseArgs({
  options: {
    links: { type: 'string', default: '1000000' },
    only: { type: 'string' },
    json: { type: 'string' }
  }
});
/** Cases with worlds of their own. */
const APART: Record<string, () => Promise<Measured>> = { screens, small };
const asked = values.only?.split(',') ?? [...Object.keys(CASES), ...Object.keys(APART)];
const names = asked.filter((name) => !(name in APART));
const unknown = names.filter((name) => !(name in CASES));
const size = Number(values.links);
if (unknown.length > 0 || !Number.isInteger(size) || size < 1) {
  console.error(
    unknown.length > 0
      ? `There is no case ${unknown.join(', ')}. There are: ${[...Object.keys(CASES), ...Object.keys(APART)].join(', ')}.`
      : `--links ${values.links} is no number of links.`
  );
  process.exit(2);
}

const results: Measured[] = [];

function tell(result: Measured): void {
  results.push(result);
  const { name, ratio, ours, theirs, unit, size: of } = result;
  console.log(
    `${name.padEnd(14)} ratio ${ratio.toFixed(2).padStart(6)}   ours ${String(ours).padStart(8)} ${unit}   theirs ${String(theirs).padStart(8)} ${unit === 'ms' ? 'ms' : 'links'}   size ${of}`
  );
}

/** The cases that are measured on a generated world, in a cluster of its own. */
async function onWorld(): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), 'earmark-bench-'));
  chmodSync(folder, 0o755);
  const cluster = await startCluster({ folder, port: await anyFreePort() });
  try {
    const owner = connect(cluster.ownerUrl, { max: 2 }),
      app = connect(cluster.appUrl, { max: 32, role: 'earmark_app' });
    await migrate(owner, migrationsIn(MIGRATIONS));
    process.stdout.write(`Making a world of about ${size.toLocaleString('en-GB')} links …`);
    const before = Date.now();
    const world = await generateWorld(owner, size);
    console.log(
      ` ${world.links.toLocaleString('en-GB')} links in ${Math.round((Date.now() - before) / 1000)} s`
    );
    for (const name of names) {
      const result = await CASES[name]!({
        app,
        owner,
        world,
        appUrl: cluster.appUrl,
        ownerUrl: cluster.ownerUrl,
        indexFile: join(folder, 'index', 'genealogy.idx')
      });
      tell(result);
    }
    await stopEngines();
    await app.end();
    await owner.end();
  } finally {
    cluster.stop();
    rmSync(folder, { recursive: true, force: true });
  }
}

if (names.length > 0) await onWorld();
for (const name of asked) if (name in APART) tell(await APART[name]!());
if (values.json) writeFileSync(values.json, `${JSON.stringify(results, null, 2)}\n`);
