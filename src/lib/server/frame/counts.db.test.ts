import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { quality } from '../quality/kinds.ts';
import { receive } from '../receiving/kinds.ts';
import { readHeld } from '../stock/held.ts';
import { bookThroughLevels, makeWorld, type World } from '../testing/world.ts';
import { readLooseEnds } from '../trace/loose-ends.ts';
import { findDocument } from './find-document.ts';
import { readToday } from './today.ts';

const TODAY = '2026-11-23';
let world: World;
beforeAll(async () => {
  world = await makeWorld();
  await bookThroughLevels(world);
});
afterAll(() => world.end());

describe('a document typed over a sheet', () => {
  it('is asked for by its exact number; a number that a mark bears means the mark', async () => {
    const [event] = await world.sql<{ id: number; document: string }[]>`
      SELECT id, document
      FROM event
      ORDER BY id
      LIMIT 1
    `;
    const latest = await world.sql<{ id: number }[]>`
      SELECT max(id) AS id
      FROM event
      WHERE document = ${event!.document}
    `;
    expect(await findDocument(world.sql, event!.document.toLowerCase())).toEqual({
      href: `/events/${latest[0]!.id}`
    });
    const [mark] = await world.sql<{ number: string }[]>`
      SELECT number
      FROM mark
      WHERE number IS NOT NULL
      LIMIT 1
    `;
    expect(await findDocument(world.sql, mark!.number)).toBeNull();
    expect(await findDocument(world.sql, 'NOTHING-OF-THE-KIND')).toBeNull();
  });
});

describe('counts', () => {
  it('are of all there is, however few a list shows', async () => {
    const before = await readToday(world.sql, TODAY, world.actor.personId);
    const lots = Array.from({ length: 230 }, (_, n) => ({
      lot: `OLD-${n}`,
      expires: '2026-01-01'
    }));
    await world.book(receive, {
      document: 'R-OLD',
      supplier: 'SUP',
      reasons: { 'mark.expired': 'a drill' },
      lines: [
        {
          product: 'LOT',
          place: 'DOCK',
          quantity: '230',
          marks: lots.map((lot) => ({ ...lot, quantity: '1' }))
        }
      ]
    });
    const audit = await readLooseEnds(world.sql, TODAY);
    expect(audit.counts['expired on hand']).toBe(230);
    expect(audit.ends.filter((end) => end.kind === 'expired on hand')).toHaveLength(200);
    const after = await readToday(world.sql, TODAY, world.actor.personId);
    expect(after.expiring.total - before.expiring.total).toBe(230);
    expect(after.expiring.rows).toHaveLength(20);
    await world.book(quality, {
      document: 'Q-OLD',
      kind: 'hold',
      reason: 'too old',
      marks: lots.map(({ lot }) => ({ product: 'LOT', lot }))
    });
    const held = await readHeld(world.sql);
    expect([held.rows.length, held.total - before.held.total]).toEqual([20, 230]);
  });
});
