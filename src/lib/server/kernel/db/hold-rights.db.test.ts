import { afterAll, beforeAll, expect, test } from 'vitest';
import { makeWorld, type World } from '../../testing/world.ts';
import type { Sql } from './client.ts';
import { holdRights, LEDGER_OWNER } from './hold-rights.ts';

let world: World;
beforeAll(async () => {
  world = await makeWorld();
  await holdRights(world.owner);
});
afterAll(() => world.end());

test('every function that works as its owner looks into pg_temp last', async () => {
  const definers = await world.owner<{ name: string; path: string[]; owner: string }[]>`
    SELECT p.oid::regprocedure::text AS name, p.proconfig AS path, r.rolname AS owner
    FROM pg_proc p
      JOIN pg_roles r ON r.oid = p.proowner
    WHERE p.prosecdef AND p.pronamespace = 'public'::regnamespace
    ORDER BY 1
  `;
  // Those that book: were they not listed, the query would look in the wrong place.
  expect(definers.map(({ name }) => name)).toContain('apply_movements()');
  const path = ['search_path=pg_catalog, public, pg_temp'];
  for (const one of definers) expect(one).toEqual({ name: one.name, path, owner: LEDGER_OWNER });
});

test('nothing is owned by anybody who can sign in or do more than own it', async () => {
  const [role] = await world.owner`
    SELECT rolsuper, rolcanlogin, rolcreaterole, rolcreatedb, rolbypassrls,
      has_schema_privilege(oid, 'public', 'CREATE') AS creates
    FROM pg_roles
    WHERE rolname = ${LEDGER_OWNER}
  `;
  expect(Object.values(role!)).toEqual([false, false, false, false, false, false]);
  const others = await world.owner`
    SELECT relname
    FROM pg_class
    WHERE relnamespace = 'public'::regnamespace
      AND relowner <> ${LEDGER_OWNER}::regrole
    UNION ALL
    SELECT proname
    FROM pg_proc
    WHERE pronamespace = 'public'::regnamespace
      AND proowner <> ${LEDGER_OWNER}::regrole
  `;
  expect([...others]).toEqual([]);
});

test('the application makes nothing: no table, not even a temporary one, no function', async () => {
  const made = (text: string) =>
    world.sql.unsafe(text).catch((error: { code: string }) => error.code);
  expect(await made('CREATE TEMP TABLE stock (mark_id bigint)')).toBe('42501');
  expect(await made('CREATE TABLE mine (id int)')).toBe('42501');
  expect(await made("CREATE FUNCTION f() RETURNS int LANGUAGE sql AS 'SELECT 1'")).toBe('42501');
  expect(await made('CREATE SCHEMA mine')).toBe('42501');
  expect(await made(`SET ROLE ${LEDGER_OWNER}`)).toBe('42501');
});

test('a table of its own named stock is not what a booking writes to, had it been able to make one', async () => {
  const mark = (await world.receive('LOT', [{ lot: 'TEMP' }], '10')).marks[0]!.id;
  await world.owner`GRANT TEMPORARY ON DATABASE ${world.owner(await nameOf(world.owner))} TO earmark_app`;
  const attack = world.sql.begin(async (tx) => {
    await tx.unsafe(`
      CREATE TEMP TABLE stock (LIKE public.stock INCLUDING ALL);
      CREATE FUNCTION pg_temp.strike() RETURNS trigger LANGUAGE plpgsql AS $$
      BEGIN
        UPDATE public.event SET document = 'STRUCK';
        RETURN NEW;
      END $$;
      CREATE TRIGGER strike BEFORE INSERT OR UPDATE ON stock
        FOR EACH ROW EXECUTE FUNCTION pg_temp.strike();
    `);
    const [event] = await tx<{ id: number }[]>`
      INSERT INTO event (kind, document, happened_at, booked_by, reason)
      VALUES ('gain', 'G', now(), ${world.actor.personId}, 'attack')
      RETURNING id
    `;
    await tx`
      INSERT INTO movement (event_id, mark_id, place_id, quantity)
      SELECT ${event!.id}, ${mark}, place_id, 5
      FROM public.stock
      WHERE mark_id = ${mark}
    `;
  });
  await attack;
  const [struck] = await world.owner`SELECT FROM event WHERE document = 'STRUCK'`;
  expect(struck).toBeUndefined();
  const [stock] = await world.owner`SELECT quantity FROM stock WHERE mark_id = ${mark}`;
  expect(Number(stock!.quantity)).toBe(15);
});

async function nameOf(sql: Sql): Promise<string> {
  const [row] = await sql<[{ name: string }]>`SELECT current_database() AS name`;
  return row.name;
}
