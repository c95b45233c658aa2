import { randomBytes } from 'node:crypto';
import { book } from '../src/lib/server/ledger/book.ts';
import { fit } from '../src/lib/server/making/kinds.ts';
import { actorOf } from './actor.ts';
import type { Bench } from './bench.ts';
import { compare, type Measured } from './measure.ts';
import { bareBirths, product } from './store.ts';

const UNITS = 1000,
  EACH = 3,
  TURNS = 3;
/** A set of parts for every turn, and the one that is in the units before the first. */
const SETS = TURNS + 2;

/** Units of one side, and its sets of parts, three of each for every unit. */
interface Side {
  hosts: { id: number; serial: string }[];
  parts: { id: number; serial: string }[][];
}

/** 1,000 units, 3 swaps each, booked at once, against the bare insertion of the same rows. */
export async function fitMany(bench: Bench): Promise<Measured> {
  const [host, part] = [await product(bench, 'FB-UNIT'), await product(bench, 'FB-PART')];
  const [ours, theirs] = [
    await sideOf(bench, host, part, 'FO'),
    await sideOf(bench, host, part, 'FT')
  ];
  const actor = actorOf(bench.world);
  return compare(
    'fit-1k',
    UNITS * EACH,
    (turn) =>
      book(bench.app, fit, actor, `fit ${turn} ${randomBytes(4).toString('hex')}`, {
        document: `FB-${turn}`,
        place: 'P',
        reason: 'bench',
        units: ours.hosts.map(({ serial }, n) => ({
          product: 'FB-UNIT',
          serial,
          remove: partsOf(ours, turn, n).map((one) => ({ ...one, to: 'P' })),
          fit: partsOf(ours, turn + 1, n)
        }))
      }),
    (turn) => bareSwap(bench, theirs, turn),
    TURNS
  );
}

const partsOf = ({ parts }: Side, turn: number, unit: number) =>
  parts[turn]!.slice(unit * EACH, (unit + 1) * EACH).map(({ serial }) => ({
    product: 'FB-PART',
    serial
  }));

async function sideOf(bench: Bench, host: number, part: number, name: string): Promise<Side> {
  const born = async (of: number, prefix: string, count: number) => {
    const serials = Array.from({ length: count }, (_, n) => `${prefix}-${n}`);
    const ids = await bareBirths(bench, of, bench.world.place, serials);
    return ids.map((id, n) => ({ id, serial: serials[n]! }));
  };
  const hosts = await born(host, `${name}H`, UNITS);
  const parts: Side['parts'] = [];
  for (let set = 0; set < SETS; set++) parts.push(await born(part, `${name}${set}`, UNITS * EACH));
  const side = { hosts, parts };
  await bareFit(bench, side, 0, null);
  return side;
}

const bareSwap = (bench: Bench, side: Side, turn: number): Promise<unknown> =>
  bareFit(bench, side, turn + 1, turn);

/** Bare insertion of one set that goes in and, but for the first, of the one that comes out. */
function bareFit(
  { owner, world }: Bench,
  { hosts, parts }: Side,
  goesIn: number,
  comesOut: number | null
): Promise<unknown> {
  const into = hosts.flatMap(({ id }) => Array.from({ length: EACH }, () => id));
  const idsOf = (set: number): number[] => parts[set]!.map((part) => part.id);
  return owner.begin(async (tx) => {
    await tx`ALTER TABLE movement DISABLE TRIGGER apply_movements`;
    const [event] = await tx<{ id: number }[]>`
      INSERT INTO event (kind, document, happened_at, booked_by, reason)
      VALUES ('swap', 'BARE', now(), ${world.person}, 'bench')
      RETURNING id
    `;
    const moved = async (ids: number[], quantity: 1 | -1): Promise<void> => {
      await tx`
        INSERT INTO movement (event_id, mark_id, place_id, quantity)
        SELECT ${event!.id}::bigint, m, ${world.place}::bigint, ${quantity}::int
        FROM unnest(${ids}::bigint[]) m
      `;
      await tx`
        UPDATE stock s
        SET quantity = s.quantity + ${quantity}::int
        FROM unnest(${ids}::bigint[]) AS x (m)
        WHERE s.mark_id = x.m AND s.place_id = ${world.place}
      `;
    };
    if (comesOut !== null) {
      const ids = idsOf(comesOut);
      await tx`
        INSERT INTO removal (component_id, host_id, quantity, event_id)
        SELECT *, 1, ${event!.id}::bigint
        FROM unnest(${ids}::bigint[], ${into}::bigint[])
      `;
      await moved(ids, 1);
    }
    const ids = idsOf(goesIn);
    await tx`
      INSERT INTO fitting (component_id, host_id, quantity, from_event)
      SELECT *, 1, ${event!.id}::bigint
      FROM unnest(${ids}::bigint[], ${into}::bigint[])
    `;
    await moved(ids, -1);
    await tx`ALTER TABLE movement ENABLE TRIGGER apply_movements`;
  });
}
