import { execFile } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { postgresBin } from '../../scripts/cluster.mjs';
import { PARTS, type Goods } from './goods.ts';

/** What a booking writes, as the statements of a transaction of pgbench. */
export type Bare = (goods: Goods) => string[];

/** What counts them in the bare database. */
export const TURN = 'sb_turn';

/** Each transaction takes the next number, which names what it takes. */
const event = (kind: string, { person }: Goods, partner: number | null): string =>
  `INSERT INTO event (kind, document, partner_id, happened_at, booked_by)
   VALUES ('${kind}', 'SB', ${partner ?? 'NULL'}, now(), ${person})
   RETURNING id AS event, nextval('${TURN}') AS turn \\gset`;

/** Who sends a booking again is answered as before: without that row it could not be told. */
const key = (kind: string, { person }: Goods): string =>
  `INSERT INTO booking_key (person_id, key, request_hash, event_id, answer)
   VALUES (${person}, '${kind} ' || :turn, sha256('sb'), :event, '${'x'.repeat(400)}');`;

const newSerial = (product: number): string =>
  `INSERT INTO mark (product_id, kind, number, birth_event)
   VALUES (${product}, 'serial', 'SB-BARE-' || :turn, :event) RETURNING id AS made \\gset`;

const comes = ({ place }: Goods, product: number): string[] => [
  `INSERT INTO movement (event_id, mark_id, place_id, quantity) VALUES (:event, :made, ${place}, 1);`,
  `INSERT INTO stock (mark_id, place_id, mark_kind, product_id, quantity)
   VALUES (:made, ${place}, 'serial', ${product}, 1);`
];

export const bareReceipt: Bare = (goods) => [
  event('receive', goods, goods.supplier),
  newSerial(goods.part),
  ...comes(goods, goods.part),
  key('receive', goods)
];

export const bareShipment: Bare = (goods) => {
  const mark = `${goods.firstUnit} + :turn - 1`;
  return [
    event('ship', goods, goods.customer),
    `INSERT INTO movement (event_id, mark_id, place_id, quantity)
     VALUES (:event, ${mark}, ${goods.place}, -1);`,
    `UPDATE stock SET quantity = 0 WHERE mark_id = ${mark} AND place_id = ${goods.place};`,
    key('ship', goods)
  ];
};

export const bareBuild: Bare = (goods) => {
  const first = `${goods.firstPart} + (:turn - 1) * ${PARTS}`;
  const parts = `generate_series(${first}, ${first} + ${PARTS - 1})`;
  return [
    event('build', goods, null),
    newSerial(goods.unit),
    `INSERT INTO transformation (event_id) VALUES (:event) RETURNING id AS tie \\gset`,
    `INSERT INTO transformation_input (transformation_id, mark_id, quantity)
     SELECT :tie, m, 1 FROM ${parts} m;`,
    `INSERT INTO transformation_output (transformation_id, mark_id, quantity)
     VALUES (:tie, :made, 1);`,
    ...comes(goods, goods.unit),
    `INSERT INTO movement (event_id, mark_id, place_id, quantity)
     SELECT :event, m, ${goods.place}, -1 FROM ${parts} m;`,
    `UPDATE stock SET quantity = 0
     WHERE mark_id BETWEEN ${first} AND ${first} + ${PARTS - 1} AND place_id = ${goods.place};`,
    key('build', goods)
  ];
};

/**
 * So many transactions by so many connections; every statement prepared once.
 * @returns transactions a second, connecting left out
 */
export async function insertBare(
  url: string,
  folder: string,
  statements: readonly string[],
  { clients, count }: { clients: number; count: number }
): Promise<number> {
  const file = join(folder, 'bare.sql');
  writeFileSync(file, ['BEGIN;', ...statements, 'END;'].map(oneLine).join('\n'));
  const each = String(count / clients);
  const { stdout } = await promisify(execFile)(join(postgresBin()!, 'pgbench'), [
    ...['-n', '-M', 'prepared', '-c', String(clients), '-j', '2', '-t', each, '-f', file],
    url
  ]);
  const [, rate] = /tps = ([\d.]+)/.exec(stdout) ?? [];
  if (!rate) throw new Error(`pgbench said: ${stdout}`);
  return Number(rate);
}

/** pgbench takes a backslash command at the end of a line. */
const oneLine = (statement: string): string => statement.replaceAll(/\s+/g, ' ');
