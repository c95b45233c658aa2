import { randomBytes } from 'node:crypto';
import type { Actor } from '../src/lib/server/access/actor.ts';
import { book } from '../src/lib/server/booking/book.ts';
import { receive } from '../src/lib/server/booking/receive.ts';
import type { Sql } from '../src/lib/server/db/client.ts';
import { reach, spellOut, traceMark } from '../src/lib/server/reading/trace.ts';
import { compare, type Measured } from './measure.ts';
import type { BenchWorld } from './world.ts';

/** `app`: the application's connection; `owner`: the owner's, for the bare side. */
export interface Bench { app: Sql; owner: Sql; world: BenchWorld }

const RECEIPT = 10_000;

/** A full trace (walk, marks, links, events, ends, content, balance) against fetching the same rows by key. */
async function trace(name: string, root: number, { app }: Bench): Promise<Measured> {
  const { marks, transformations } = await reach(app, root, 'downstream');
  const events = (await app<{ id: number }[]>`SELECT DISTINCT event_id AS id FROM movement WHERE mark_id = ANY(${marks})`).map((row) => row.id);
  return compare(name, marks.length,
    async () => spellOut((await traceMark(app, root, 'downstream'))!),
    () => app.begin('ISOLATION LEVEL REPEATABLE READ READ ONLY', async (tx) => {
      await tx`SELECT m.id, m.product_id, m.kind, m.number, m.lot_id, m.supplier_number, m.expires_on, m.state FROM mark m WHERE m.id = ANY(${marks})`;
      await tx`SELECT id, event_id FROM transformation WHERE id = ANY(${transformations})`;
      await tx`SELECT transformation_id, mark_id, quantity FROM transformation_input WHERE transformation_id = ANY(${transformations})`;
      await tx`SELECT transformation_id, mark_id, quantity, share FROM transformation_output WHERE transformation_id = ANY(${transformations})`;
      await tx`SELECT event_id, mark_id, place_id, quantity FROM movement WHERE mark_id = ANY(${marks})`;
      await tx`SELECT id, kind, document, partner_id, happened_at FROM event WHERE id = ANY(${events})`;
      await tx`SELECT mark_id, place_id, quantity FROM stock WHERE mark_id = ANY(${marks}) AND quantity > 0`;
    }));
}

/** A receipt of 10,000 serials, decided and booked, against the bare insertion of the same event, marks, movements and stock. */
async function receiveMany({ app, owner, world }: Bench): Promise<Measured> {
  const actor: Actor = { personId: world.person, login: 'bench', name: 'Bench', roles: ['coordinator'], via: 'token' };
  const serials = (side: string, turn: number) => Array.from({ length: RECEIPT }, (_, i) => `${side}-${turn}-${randomBytes(2).toString('hex')}-${i}`);
  return compare('receive-10k', RECEIPT,
    (turn) => book(app, receive, actor, `bench ${turn} ${randomBytes(4).toString('hex')}`, { document: `GR-${turn}`, supplier: 'X', lines: [{ product: 'PART', place: 'P', quantity: String(RECEIPT), marks: serials('OURS', turn).map((serial) => ({ serial })) }] }),
    (turn) => {
      const numbers = serials('BARE', turn);
      return owner.begin(async (tx) => {
        // The bare side keeps stock itself, so the trigger that does it for the application is not charged to it.
        await tx`ALTER TABLE movement DISABLE TRIGGER apply_movements`;
        const [event] = await tx<{ id: number }[]>`INSERT INTO event (kind, document, happened_at, booked_by) VALUES ('receive', ${`BARE-${turn}`}, now(), ${world.person}) RETURNING id`;
        const ids = (await tx<{ id: number }[]>`INSERT INTO mark (product_id, kind, number, birth_event) SELECT ${world.product}, 'serial', n, ${event!.id} FROM unnest(${numbers}::text[]) n RETURNING id`).map((row) => row.id);
        await tx`INSERT INTO movement (event_id, mark_id, place_id, quantity) SELECT ${event!.id}, m, ${world.place}, 1 FROM unnest(${ids}::bigint[]) m`;
        await tx`INSERT INTO stock (mark_id, place_id, mark_kind, quantity) SELECT m, ${world.place}, 'serial', 1 FROM unnest(${ids}::bigint[]) m`;
        await tx`ALTER TABLE movement ENABLE TRIGGER apply_movements`;
      });
    });
}

export const CASES: Record<string, (bench: Bench) => Promise<Measured>> = {
  'trace-1k': (bench) => trace('trace-1k', bench.world.small, bench),
  'trace-50k': (bench) => trace('trace-50k', bench.world.hub, bench),
  'receive-10k': receiveMany
};
