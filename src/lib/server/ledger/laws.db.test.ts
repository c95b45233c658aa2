import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { makeWorld, type World } from '../testing/world.ts';
import type { Db } from '../kernel/db/client.ts';

// The laws of docs/domain.md, attacked with plain SQL, past all of the application's own checks.
let world: World;
let lot: number, serial: number, dock: number, rack: number, person: number;
beforeAll(async () => {
  world = await makeWorld();
  lot = (await world.receive('LOT', [{ lot: 'L1' }], '10')).marks[0]!.id;
  serial = (await world.receive('SER', [{ serial: 'S1' }])).marks[0]!.id;
  const places = Object.fromEntries(
    (await world.sql<{ code: string; id: number }[]>`SELECT code, id FROM place`).map((row) => [
      row.code,
      row.id
    ])
  );
  [dock, rack, person] = [places.DOCK!, places.RACK!, world.actor.personId];
});
afterAll(() => world.end());

const event = async (sql: Db, kind = 'gain'): Promise<number> =>
  (
    await sql<{ id: number }[]>`
      INSERT INTO event (kind, document, happened_at, booked_by, reason)
      VALUES (${kind}, 'X', now(), ${person}, 'test')
      RETURNING id
    `
  )[0]!.id;
const move = async (sql: Db, rows: [number, number, string][]): Promise<void> => {
  const id = await event(sql);
  await sql`
    INSERT INTO movement (event_id, mark_id, place_id, quantity)
    SELECT ${id}, *
    FROM unnest(
      ${rows.map((row) => row[0])}::bigint[], ${rows.map((row) => row[1])}::bigint[],
        ${rows.map((row) => row[2])}::numeric[]
    )
  `;
};
const inTransaction = (attack: (tx: Db) => Promise<void>) =>
  world.sql.begin(async (tx) => {
    await attack(tx);
  });

describe('law 1: on hand is never negative', () => {
  it('not by taking more than is there', () =>
    expect(inTransaction((tx) => move(tx, [[lot, dock, '-10.000001']]))).rejects.toMatchObject({
      constraint_name: 'never_negative'
    }));
  it('not by taking from where it never was', () =>
    expect(inTransaction((tx) => move(tx, [[lot, rack, '-1']]))).rejects.toMatchObject({
      constraint_name: 'never_negative'
    }));
  it('not by two takings in one statement', () =>
    expect(
      inTransaction((tx) =>
        move(tx, [
          [lot, dock, '-6'],
          [lot, dock, '-6']
        ])
      )
    ).rejects.toMatchObject({ constraint_name: 'never_negative' }));
});

describe('law 2: a serial is one or none, in one place', () => {
  it('not two of it', () =>
    expect(inTransaction((tx) => move(tx, [[serial, dock, '1']]))).rejects.toMatchObject({
      constraint_name: 'a_serial_is_one_or_none'
    }));
  it('not half of it', () =>
    expect(inTransaction((tx) => move(tx, [[serial, dock, '-0.5']]))).rejects.toMatchObject({
      constraint_name: 'a_serial_is_one_or_none'
    }));
  it('not in two places', () =>
    expect(inTransaction((tx) => move(tx, [[serial, rack, '1']]))).rejects.toMatchObject({
      constraint_name: 'stock_serial_in_one_place'
    }));
  it('but it can move from one to the other in one statement', async () => {
    await inTransaction((tx) =>
      move(tx, [
        [serial, rack, '1'],
        [serial, dock, '-1']
      ])
    );
    const [row] = await world.sql<
      { place_id: number }[]
    >`SELECT place_id FROM stock WHERE mark_id = ${serial} AND quantity > 0`;
    expect(row!.place_id).toBe(rack);
    await inTransaction((tx) =>
      move(tx, [
        [serial, rack, '-1'],
        [serial, dock, '1']
      ])
    );
  });
});

describe('law 3: stock is the movements’ to change', () => {
  it.each([
    ['update', (sql: Db) => sql`UPDATE stock SET quantity = 99 WHERE mark_id = ${lot}`],
    ['insert', (sql: Db) => sql`INSERT INTO stock VALUES (${lot}, ${rack}, 'lot', 5)`],
    ['delete', (sql: Db) => sql`DELETE FROM stock`]
  ])('the application may not %s it', (_, attack) =>
    expect(attack(world.sql)).rejects.toMatchObject({ code: '42501' })
  );
});

describe('law 7: the ledger is append-only', () => {
  const tables = [
    'event',
    'movement',
    'transformation',
    'transformation_input',
    'transformation_output',
    'mark_change',
    'build_gap',
    'transformation_reversed',
    'station_step'
  ];
  const columnOf = (table: string) =>
    table === 'event'
      ? 'document'
      : /^transformation_(in|out)put$/.test(table)
        ? 'quantity'
        : 'event_id';
  it.each(tables)('%s: the application has no right to change or delete', async (table) => {
    const column = columnOf(table);
    await expect(
      world.sql.unsafe(`UPDATE ${table} SET ${column} = ${column}`)
    ).rejects.toMatchObject({ code: '42501' });
    await expect(world.sql.unsafe(`DELETE FROM ${table}`)).rejects.toMatchObject({ code: '42501' });
    await expect(world.sql.unsafe(`TRUNCATE ${table} CASCADE`)).rejects.toMatchObject({
      code: '42501'
    });
  });
  it.each(tables)('%s: not even the owner of the tables changes it', async (table) => {
    const column = columnOf(table);
    await expect(world.owner.unsafe(`UPDATE ${table} SET ${column} = ${column}`)).rejects.toThrow(
      'append-only'
    );
    await expect(world.owner.unsafe(`DELETE FROM ${table}`)).rejects.toThrow('append-only');
    await expect(world.owner.unsafe(`TRUNCATE ${table} CASCADE`)).rejects.toThrow('append-only');
  });
  it('a mark changes only through a change with its event, and its old value must be true', async () => {
    await expect(world.sql`UPDATE mark SET state = 'held' WHERE id = ${lot}`).rejects.toMatchObject(
      { code: '42501' }
    );
    await expect(world.sql`DELETE FROM mark WHERE id = ${lot}`).rejects.toMatchObject({
      code: '42501'
    });
    await expect(world.owner`DELETE FROM mark WHERE id = ${lot}`).rejects.toThrow('append-only');
    const change = (from: string) =>
      inTransaction(async (tx) => {
        const id = await event(tx, 'hold');
        await tx`
          INSERT INTO mark_change (event_id, mark_id, field, old_value, new_value)
          VALUES (${id}, ${lot}, 'state', ${from}, 'held')
        `;
      });
    await expect(change('rejected')).rejects.toMatchObject({ code: '40001' });
    await change('usable');
    expect(
      (await world.sql<{ state: string }[]>`SELECT state FROM mark WHERE id = ${lot}`)[0]!.state
    ).toBe('held');
  });
});

describe('law 9: who and when is always known', () => {
  it('not without a person', () =>
    expect(
      world.sql`INSERT INTO event (kind, document, happened_at, booked_by) VALUES ('receive', 'X', now(), NULL)`
    ).rejects.toMatchObject({ code: '23502' }));
  it('not by somebody who is not there', () =>
    expect(
      world.sql`INSERT INTO event (kind, document, happened_at, booked_by) VALUES ('receive', 'X', now(), 999999)`
    ).rejects.toMatchObject({ code: '23503' }));
  it('when it was booked is the database’s to say', () =>
    expect(
      world.sql`INSERT INTO event (kind, document, happened_at, booked_by, booked_at) VALUES ('receive', 'X', now(), ${person}, '2001-01-01')`
    ).rejects.toMatchObject({ code: '42501' }));
  it('nothing is booked before it happened', () =>
    expect(
      world.sql`INSERT INTO event (kind, document, happened_at, booked_by) VALUES ('receive', 'X', now() + interval '1 hour', ${person})`
    ).rejects.toMatchObject({ constraint_name: 'not_in_the_future' }));
  it('a loss or a hold says why', () =>
    expect(
      world.sql`INSERT INTO event (kind, document, happened_at, booked_by) VALUES ('loss', 'X', now(), ${person})`
    ).rejects.toMatchObject({ constraint_name: 'reason_where_due' }));
});

describe('identity', () => {
  it('one number once per product and kind, whatever the capitals', async () => {
    const insert = (number: string) =>
      inTransaction(async (tx) => {
        const id = await event(tx);
        await tx`
          INSERT INTO mark (product_id, kind, number, birth_event)
          SELECT product_id, 'serial', ${number}, ${id}
          FROM mark
          WHERE id = ${serial}
        `;
      });
    await expect(insert('s1')).rejects.toMatchObject({ constraint_name: 'mark_identity' });
  });
  it('a serial lies only within a lot of its own product', () =>
    expect(
      inTransaction(async (tx) => {
        const id = await event(tx);
        await tx`
          INSERT INTO mark (product_id, kind, number, lot_id, birth_event)
          SELECT product_id, 'serial', 'S2', ${lot}, ${id}
          FROM mark
          WHERE id = ${serial}
        `;
      })
    ).rejects.toMatchObject({ constraint_name: 'lot_of_same_product' }));
});
