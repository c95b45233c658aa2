import { randomBytes } from 'node:crypto';
import { book } from '../src/lib/server/ledger/book.ts';
import { fit } from '../src/lib/server/making/kinds.ts';
import { actorOf } from './actor.ts';
import type { Bench } from './bench.ts';
import { compare, type Measured } from './measure.ts';
import { bareBirths, product, settle } from './store.ts';

const UNITS = 1000,
  EACH = 3,
  TURNS = 24;

interface Serial {
  id: number;
  serial: string;
}

/** Units that were never swapped, the parts in them, and the ones that go in instead. */
interface Turn {
  hosts: Serial[];
  inside: Serial[];
  next: Serial[];
}

/** 1,000 units, 3 swaps each, booked at once, against the bare insertion of the same rows. */
export async function fitMany(bench: Bench): Promise<Measured> {
  const [host, part] = [await product(bench, 'FB-UNIT'), await product(bench, 'FB-PART')];
  const [ours, theirs] = [
    await sideOf(bench, host, part, 'FO'),
    await sideOf(bench, host, part, 'FT')
  ];
  const actor = actorOf(bench.world);
  await settle(bench);
  return compare(
    'fit-1k',
    UNITS * EACH,
    (turn) =>
      book(bench.app, fit, actor, `fit ${turn} ${randomBytes(4).toString('hex')}`, {
        document: `FB-${turn}`,
        place: 'P',
        reason: 'bench',
        units: ours[turn]!.hosts.map(({ serial }, n) => ({
          product: 'FB-UNIT',
          serial,
          remove: partsOf(ours[turn]!.inside, n).map((one) => ({ ...one, to: 'P' })),
          fit: partsOf(ours[turn]!.next, n)
        }))
      }),
    (turn) => bareFit(bench, theirs[turn]!.hosts, theirs[turn]!.next, theirs[turn]!.inside),
    TURNS
  );
}

const partsOf = (parts: readonly Serial[], unit: number) =>
  parts.slice(unit * EACH, (unit + 1) * EACH).map(({ serial }) => ({
    product: 'FB-PART',
    serial
  }));

async function sideOf(bench: Bench, host: number, part: number, name: string): Promise<Turn[]> {
  const born = async (of: number, prefix: string, count: number): Promise<Serial[]> => {
    const serials = Array.from({ length: count }, (_, n) => `${prefix}-${n}`);
    const ids = await bareBirths(bench, of, bench.world.place, serials);
    return ids.map((id, n) => ({ id, serial: serials[n]! }));
  };
  const turns: Turn[] = [];
  for (let turn = 0; turn <= TURNS; turn++) {
    const made = {
      hosts: await born(host, `${name}H${turn}`, UNITS),
      inside: await born(part, `${name}A${turn}`, UNITS * EACH),
      next: await born(part, `${name}B${turn}`, UNITS * EACH)
    };
    await bareFit(bench, made.hosts, made.inside, null);
    turns.push(made);
  }
  return turns;
}

/** Bare insertion of the parts that go in and, where there are any, of those that come out. */
function bareFit(
  { owner, world }: Bench,
  hosts: readonly Serial[],
  goesIn: readonly Serial[],
  comesOut: readonly Serial[] | null
): Promise<unknown> {
  const into = hosts.flatMap(({ id }) => Array.from({ length: EACH }, () => id));
  const idsOf = (parts: readonly Serial[]): number[] => parts.map((part) => part.id);
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
