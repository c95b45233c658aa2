import { fileURLToPath } from 'node:url';
import { connect } from '../../src/lib/server/kernel/db/client.ts';
import { migrate, migrationsIn } from '../../src/lib/server/kernel/db/migrate.ts';

const MIGRATIONS = fileURLToPath(
  new URL('../../src/lib/server/kernel/db/migrations/', import.meta.url)
);

/** Brings a copy from before an upgrade up to date, as `npm start` would: its proofs are of today. */
export async function migrateOwn(url: string): Promise<void> {
  const sql = connect(url, { max: 1 });
  try {
    await migrate(sql, migrationsIn(MIGRATIONS));
  } finally {
    await sql.end();
  }
}
