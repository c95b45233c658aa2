// `npm run world`: makes a large firm in a data folder of its own, to be served as it is or measured
// by `npm run bench -- --only screens`. A folder that has one already is left alone.
//   --folder DIR    (default .world)
//   --links N       genealogy links (3000000)
//   --orders N      orders of each kind (80000)
//   --on-hand N     lots and serials on hand (1000000)
//   --products N    (2000)
import { chmodSync, existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { spawnSync } from 'node:child_process';
import { parseArgs } from 'node:util';
import { growFirm, LARGE, type FirmSize } from '../bench/firm/grow.ts';
import { connect } from '../src/lib/server/kernel/db/client.ts';
import { startCluster } from './cluster.mjs';
import { letGo } from './let-go.mjs';
import { anyFreePort } from './machine.mjs';
import { wholeOption } from './whole-option.ts';

const { values } = parseArgs({
  options: {
    folder: { type: 'string', default: '.world' },
    links: { type: 'string', default: String(LARGE.links) },
    orders: { type: 'string', default: String(LARGE.orders) },
    'on-hand': { type: 'string', default: String(LARGE.onHand) },
    products: { type: 'string', default: String(LARGE.products) }
  }
});

const numberOf = (name: 'links' | 'orders' | 'on-hand' | 'products', least: number): number =>
  wholeOption(name, values[name], least);

const size: FirmSize = {
  links: numberOf('links', 1),
  orders: numberOf('orders', 60),
  onHand: numberOf('on-hand', 1),
  products: numberOf('products', 10)
};
const folder = resolve(values.folder);
const note = join(folder, 'world.json');
if (existsSync(note)) {
  console.log(`${folder} has a world already: ${readFileSync(note, 'utf8')}`);
  process.exit(0);
}

/** Kept where `npm start` looks for it. */
function keepPassword(password: string): void {
  const said = JSON.stringify({ kind: 'demo-password', password });
  writeFileSync(join(folder, 'first-sign-in.json'), said, { mode: 0o600 });
}

const cluster = await startCluster({ folder, port: await anyFreePort() });
chmodSync(folder, 0o755);
try {
  const env = {
    ...process.env,
    DATABASE_URL: cluster.ownerUrl,
    EARMARK_APP_URL: cluster.appUrl,
    EARMARK_SEED: 'demo'
  };
  const prepared = spawnSync(process.execPath, ['--import', 'tsx', 'scripts/prepare.ts'], {
    env,
    encoding: 'utf8'
  });
  if (prepared.status !== 0) throw new Error(prepared.stderr);
  const password = /^NOTE demo-password (\S+)$/m.exec(prepared.stdout)?.[1];
  if (password) keepPassword(password);
  const sql = connect(cluster.ownerUrl, { max: 2 });
  const before = Date.now();
  console.log('Growing the firm …');
  await growFirm(sql, size);
  await letGo(sql);
  writeFileSync(note, JSON.stringify(size));
  console.log(`Done in ${Math.round((Date.now() - before) / 1000)} s.`);
  console.log(`Serve it with: EARMARK_DATA=${folder} npm start`);
} finally {
  cluster.stop();
}
