import { spawnSync } from 'node:child_process';
import { connect } from '../src/lib/server/kernel/db/client.ts';
import { withDatabase } from '../src/lib/server/testing/template.ts';
import { PASSWORD, TOKEN } from './company.ts';

/** The demo's database, seeded once; the server of each spec file gets a copy of its own. */
export const SEEDED = 'earmark_e2e';

/** The test cluster that scripts/test.mjs started, or one named by hand (CONTRIBUTING.md). */
export function clusterUrls(): { ownerUrl: string; appUrl: string } {
  const { EARMARK_TEST_URL: ownerUrl, EARMARK_TEST_APP_URL: appUrl } = process.env;
  if (!ownerUrl || !appUrl)
    throw new Error(
      'EARMARK_TEST_URL is not set. Run the browser tests with `npm test`, or see CONTRIBUTING.md for one test.'
    );
  return { ownerUrl, appUrl };
}

/** What a server of the browser tests is started with, for a database by name. */
export const environment = (database: string): Record<string, string> => {
  const { ownerUrl, appUrl } = clusterUrls();
  return {
    DATABASE_URL: withDatabase(ownerUrl, database),
    EARMARK_APP_URL: withDatabase(appUrl, database),
    EARMARK_SEED: 'demo',
    EARMARK_DEMO_PASSWORD: PASSWORD,
    EARMARK_TOKEN: TOKEN
  };
};

/** Once before the browser tests. */
export default async function seed(): Promise<void> {
  const sql = connect(clusterUrls().ownerUrl, { max: 1 });
  await sql.unsafe(`DROP DATABASE IF EXISTS ${SEEDED} WITH (FORCE)`);
  await sql.unsafe(`CREATE DATABASE ${SEEDED}`);
  await sql.end();
  const { status } = spawnSync(process.execPath, ['--import', 'tsx', 'scripts/prepare.ts'], {
    env: { ...process.env, ...environment(SEEDED) },
    stdio: ['ignore', 'ignore', 'inherit']
  });
  if (status !== 0) throw new Error('The demo could not be seeded: see above.');
}
