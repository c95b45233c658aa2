// Serves the demo for the browser tests from a database of its own on the test cluster.
import postgres from 'postgres';

const NAME = 'earmark_e2e';
const withDatabase = (url, name) =>
  Object.assign(new URL(url), { pathname: `/${name}` }).toString();
const { EARMARK_TEST_URL: ownerUrl, EARMARK_TEST_APP_URL: appUrl } = process.env;
if (!ownerUrl || !appUrl) {
  console.error(
    'EARMARK_TEST_URL is not set. Run the browser tests with `npm test`, or see CONTRIBUTING.md for one test.'
  );
  process.exit(1);
}
const sql = postgres(ownerUrl, { max: 1, onnotice: () => {} });
await sql.unsafe(`DROP DATABASE IF EXISTS ${NAME} WITH (FORCE)`);
await sql.unsafe(`CREATE DATABASE ${NAME}`);
await sql.end();
Object.assign(process.env, {
  DATABASE_URL: withDatabase(ownerUrl, NAME),
  EARMARK_APP_URL: withDatabase(appUrl, NAME),
  EARMARK_SEED: 'demo',
  EARMARK_DEMO_PASSWORD: 'harbour-lantern',
  EARMARK_TOKEN: 'token-of-the-browser-tests'
});
await import('../scripts/start.mjs');
