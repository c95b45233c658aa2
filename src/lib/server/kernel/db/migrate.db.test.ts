import { randomBytes } from 'node:crypto';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { MIGRATIONS, withDatabase } from '../../testing/template.ts';
import { connect, type Sql } from './client.ts';
import { migrate, migrationsIn } from './migrate.ts';

let maintenance: Sql, sql: Sql;
const name = `migrate_${randomBytes(5).toString('hex')}`;
beforeAll(async () => {
  maintenance = connect(process.env.EARMARK_TEST_URL!, { max: 1 });
  await maintenance.unsafe(`CREATE DATABASE ${name}`);
  sql = connect(withDatabase(process.env.EARMARK_TEST_URL!, name), { max: 4 });
});
afterAll(async () => {
  await sql.end();
  await maintenance.unsafe(`DROP DATABASE ${name} WITH (FORCE)`);
  await maintenance.end();
});

it('two servers starting at once bring an empty database up to date once, and a third finds nothing to do', async () => {
  const all = migrationsIn(MIGRATIONS);
  const [a, b] = await Promise.all([migrate(sql, all), migrate(sql, all)]);
  expect([...a, ...b].sort()).toEqual(all.map((migration) => migration.name));
  expect(await migrate(sql, all)).toEqual([]);
});

it('a migration that fails leaves nothing of itself', async () => {
  const all = [
    ...migrationsIn(MIGRATIONS),
    { name: '9999-bad.sql', text: 'CREATE TABLE half_done (id int); SELECT 1/0;' }
  ];
  await expect(migrate(sql, all)).rejects.toThrow(
    '9999-bad.sql failed and was undone: division by zero'
  );
  expect((await sql`SELECT to_regclass('half_done') AS found`)[0]!.found).toBeNull();
});

it('a database of a newer Earmark is left alone', async () => {
  await expect(migrate(sql, migrationsIn(MIGRATIONS).slice(0, 1))).rejects.toThrow('newer Earmark');
});
