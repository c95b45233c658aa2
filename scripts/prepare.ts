// Brings the database up to date before serving: migrations, the demo or a first administrator, the
// token of EARMARK_TOKEN.
// Runs as the database's owner. Prints what a person must know, one line each.
import { randomBytes } from 'node:crypto';
import { ROLES } from '../src/lib/core/people/rights.ts';
import { hashPassword, secretHash } from '../src/lib/server/people/password.ts';
import { forgetForeignTransactions } from '../src/lib/server/kernel/db/after-restore.ts';
import { connect, type Sql } from '../src/lib/server/kernel/db/client.ts';
import { letGo } from './let-go.mjs';
import { migrateOwn } from './migrate-own.ts';

/**
 * The token of EARMARK_TOKEN is the one set now; one set at an earlier start is worth nothing any
 * more.
 */
async function ensureToken(sql: Sql, token: string | undefined): Promise<void> {
  await sql`
    UPDATE api_token
    SET revoked_at = now()
    WHERE name = 'EARMARK_TOKEN' AND revoked_at IS NULL AND token_hash <> ${secretHash(token ?? '')}
  `;
  if (!token) return;
  await sql`
    INSERT INTO person (login, name, roles)
    VALUES ('system', 'System token', ${[...ROLES]})
    ON CONFLICT (upper(login)) DO UPDATE SET roles = EXCLUDED.roles
  `;
  await sql`
    INSERT INTO api_token (name, person_id, roles, token_hash)
    SELECT 'EARMARK_TOKEN', id, ${[...ROLES]}, ${secretHash(token)}
    FROM person
    WHERE login = 'system'
    ON CONFLICT (token_hash) DO UPDATE SET revoked_at = NULL
  `;
}

async function ensureAdministrator(sql: Sql): Promise<string | null> {
  const [some] = await sql`SELECT 1 FROM person WHERE password_hash IS NOT NULL LIMIT 1`;
  if (some) return null;
  const password = randomBytes(9).toString('base64url');
  await sql`
    INSERT INTO person (login, name, roles, password_hash)
    VALUES (
      'admin', 'First administrator', ${['administrator', 'coordinator']},
        ${await hashPassword(password)}
    )
  `;
  return password;
}

const url = process.env.DATABASE_URL;
if (!url) throw new Error('DATABASE_URL is not set');
const sql = connect(url, { max: 4 });
try {
  const applied = await migrateOwn(sql);
  if (applied.length > 0)
    console.log(
      `Database brought up to date: ${applied.length} migration${applied.length === 1 ? '' : 's'}.`
    );
  const restored = await forgetForeignTransactions(sql);
  if (restored > 0)
    console.log(
      `The ledger came from a backup of another database: ${restored} event${restored === 1 ? '' : 's'} made ready for the index.`
    );
  const seed = process.env.EARMARK_SEED ?? 'demo';
  const [some] = await sql`SELECT 1 FROM person WHERE login <> 'system' LIMIT 1`;
  if (!some && seed === 'demo') {
    const appUrl = process.env.EARMARK_APP_URL ?? url;
    const app = connect(appUrl, { max: 4, role: 'earmark_app' });
    const password = process.env.EARMARK_DEMO_PASSWORD ?? randomBytes(9).toString('base64url');
    console.log('Booking the demo company’s year …');
    try {
      // Read only where there is something to seed: it is most of what this script is made of.
      const { seedDemo } = await import('../demo/seed.ts');
      await seedDemo(app, { now: new Date(), password });
    } finally {
      await letGo(app);
    }
    console.log(`NOTE demo-password ${password}`);
  } else if (seed !== 'demo' && seed !== 'none') {
    throw new Error(`EARMARK_SEED is "${seed}"; it can be "demo" or "none".`);
  }
  const password = await ensureAdministrator(sql);
  if (password) console.log(`NOTE first-password ${password}`);
  await ensureToken(sql, process.env.EARMARK_TOKEN);
} catch (error) {
  console.error(`FAILED ${(error as Error).message}`);
  if (process.env.EARMARK_DEBUG) console.error(error);
  process.exitCode = 1;
} finally {
  await letGo(sql);
}
