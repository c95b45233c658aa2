import { fileURLToPath } from 'node:url';
import { connect } from '../kernel/db/client.ts';
import { migrate, migrationsIn } from '../kernel/db/migrate.ts';

export const TEMPLATE = 'earmark_template';
export const MIGRATIONS = fileURLToPath(new URL('../kernel/db/migrations/', import.meta.url));

/** A database URL with another database's name. */
export const withDatabase = (url: string, name: string): string =>
  Object.assign(new URL(url), { pathname: `/${name}` }).toString();

/** Once before the database tests: one migrated database every test file copies. */
export default async function setup(): Promise<void> {
  const url = process.env.EARMARK_TEST_URL;
  if (!url)
    throw new Error(
      'EARMARK_TEST_URL is not set. Run these tests with `npm test`, or see CONTRIBUTING.md for one test.'
    );
  const sql = connect(url, { max: 1 });
  await sql.unsafe(`DROP DATABASE IF EXISTS ${TEMPLATE}`);
  await sql.unsafe(`CREATE DATABASE ${TEMPLATE}`);
  await sql.end();
  const template = connect(withDatabase(url, TEMPLATE), { max: 2 });
  await migrate(template, migrationsIn(MIGRATIONS));
  await template.end();
}
