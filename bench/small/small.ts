import { randomBytes } from 'node:crypto';
import { asOwnerOf, onDatabase } from '../../scripts/on-database.ts';
import { migrate, migrationsIn } from '../../src/lib/server/kernel/db/migrate.ts';
import type { Sql } from '../../src/lib/server/kernel/db/client.ts';
import { withDatabase } from '../../src/lib/server/testing/template.ts';
import { apiOf, type Api } from '../api.ts';
import { measured, median, type Measured } from '../measure.ts';
import { serve, type Served } from '../serve.ts';
import { MIGRATIONS } from '../world.ts';
import { bareBuild, bareReceipt, bareShipment, insertBare, TURN, type Bare } from './bare.ts';
import { PART, PARTS, putGoods, UNIT, type Goods } from './goods.ts';

/** How many book at once. */
const CLIENTS = [1, 8, 32];
/** Bookings of a turn on either side, and turns; the first of each warms and is thrown away. */
const COUNT = 320,
  TURNS = 5;
const TAKEN = COUNT * (TURNS + 1) * CLIENTS.length;
const BARE = 'bare';

/** One small booking of a kind: how it is sent, and what it writes. */
interface Kind {
  path: string;
  request: (turn: number) => object;
  bare: Bare;
}

const serial = (product: string, number: string): object => ({
  product,
  serial: number,
  quantity: '1'
});

const KINDS: Record<string, Kind> = {
  receipt: {
    path: 'receipts',
    request: (turn) => ({
      document: `SB-R-${turn}`,
      supplier: 'SB-SUP',
      lines: [{ product: PART, place: 'SB', quantity: '1', marks: [{ serial: `SB-NEW-${turn}` }] }]
    }),
    bare: bareReceipt
  },
  build: {
    path: 'builds',
    request: (turn) => ({
      document: `SB-B-${turn}`,
      place: 'SB',
      groups: [
        {
          outputs: [serial(UNIT, `SB-BUILT-${turn}`)],
          inputs: Array.from({ length: PARTS }, (_, at) =>
            serial(PART, `${PART}-${turn * PARTS + at}`)
          )
        }
      ]
    }),
    bare: bareBuild
  },
  shipment: {
    path: 'shipments',
    request: (turn) => ({
      document: `SB-S-${turn}`,
      customer: 'SB-CUS',
      lines: [{ product: UNIT, marks: [{ serial: `${UNIT}-${turn}` }] }]
    }),
    bare: bareShipment
  }
};

interface Row {
  kind: string;
  clients: number;
  /** Bookings a second, ours and bare, at the median of the turns. */
  ours: number;
  bare: number;
  /** Milliseconds until one of ours is answered. */
  middle: number;
  slowest: number;
}

/**
 * Small bookings over HTTP, one serial each, against the bare insertion of the same rows by as many
 * connections of pgbench, without a trigger. Prints each kind by how many book at once; the ratio is
 * the worst of them.
 */
export async function small(): Promise<Measured> {
  const token = randomBytes(18).toString('base64url');
  const served = await serve({ token });
  try {
    const bareUrl = await asOwnerOf(served.folder, async (owner, url) => {
      await putGoods(owner, TAKEN);
      await owner.unsafe(`CREATE DATABASE ${BARE}`);
      await owner`VACUUM ANALYZE`;
      return withDatabase(url, BARE);
    });
    const goods = await onDatabase(bareUrl, bareLedger);
    return await measureAll({ served, token, bareUrl, goods });
  } finally {
    await served.stop();
  }
}

/**
 * The same tables with the same goods in a database beside it, where no trigger does anything for
 * an insertion; constraints and indexes are as they are.
 */
async function bareLedger(sql: Sql): Promise<Goods> {
  await migrate(sql, migrationsIn(MIGRATIONS));
  const goods = await putGoods(sql, TAKEN);
  for (const { name } of await sql<{ name: string }[]>`
    SELECT DISTINCT tgrelid::regclass::text AS name FROM pg_trigger WHERE NOT tgisinternal
  `)
    await sql.unsafe(`ALTER TABLE ${name} DISABLE TRIGGER USER`);
  await sql.unsafe(`CREATE SEQUENCE ${TURN}`);
  await sql`VACUUM ANALYZE`;
  return goods;
}

interface Sides {
  served: Served;
  token: string;
  bareUrl: string;
  goods: Goods;
}

async function measureAll(sides: Sides): Promise<Measured> {
  const api = apiOf(sides.served.port, sides.token);
  const rows: Row[] = [];
  for (const [kind, of] of Object.entries(KINDS)) {
    // The bare side takes the first goods again: another kind takes others.
    await onDatabase(sides.bareUrl, (sql) => sql.unsafe(`ALTER SEQUENCE ${TURN} RESTART`));
    const turns = turnsOf(sides, api, of);
    for (const clients of CLIENTS) rows.push({ kind, clients, ...(await turns(clients)) });
  }
  print(rows);
  const worst = rows.reduce((a, b) => (b.bare / b.ours > a.bare / a.ours ? b : a));
  return measured('small', COUNT, 1000 / worst.ours, 1000 / worst.bare);
}

/** Measures one kind by how many book at once; what one turn takes, no other does. */
function turnsOf({ served, bareUrl, goods }: Sides, api: Api, { path, request, bare }: Kind) {
  let next = 0;
  return async (clients: number): Promise<Omit<Row, 'kind' | 'clients'>> => {
    const [ours, bares, waits]: [number[], number[], number[]] = [[], [], []];
    for (let turn = 0; turn <= TURNS; turn++) {
      const { rate, each } = await send(clients, () => api('POST', path, request(next++)));
      const theirs = await insertBare(bareUrl, served.folder, bare(goods), {
        clients,
        count: COUNT
      });
      if (turn === 0) continue;
      ours.push(rate);
      bares.push(theirs);
      waits.push(...each);
    }
    waits.sort((a, b) => a - b);
    return {
      ours: median(ours),
      bare: median(bares),
      middle: median(waits),
      slowest: waits[Math.floor(waits.length * 0.99)]!
    };
  };
}

/** So many at once, each sends its next when its last is answered. */
async function send(
  clients: number,
  one: () => Promise<unknown>
): Promise<{ rate: number; each: number[] }> {
  const each: number[] = [];
  let left = COUNT;
  const client = async (): Promise<void> => {
    while (left-- > 0) {
      const before = performance.now();
      await one();
      each.push(performance.now() - before);
    }
  };
  const begun = performance.now();
  await Promise.all(Array.from({ length: clients }, client));
  return { rate: (COUNT * 1000) / (performance.now() - begun), each };
}

function print(rows: readonly Row[]): void {
  for (const { kind, clients, ours, bare, middle, slowest } of rows)
    console.log(
      `${kind.padEnd(9)} ${String(clients).padStart(2)} at once  ratio ${(bare / ours).toFixed(2).padStart(6)}` +
        `   ours ${ours.toFixed(0).padStart(5)} a second   bare ${bare.toFixed(0).padStart(5)}` +
        `   answered in ${middle.toFixed(1)} ms, p99 ${slowest.toFixed(1)} ms (${(slowest / middle).toFixed(1)} times)`
    );
}
