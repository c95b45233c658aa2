// `npm run reconcile`: proves that stock equals the sum of movements (law 3) and that what the
// transformations say left and entered is what moved. Exits 1 with the rows that break it.
import { connect } from '../src/lib/server/kernel/db/client.ts';
import { reconcile } from '../src/lib/server/ledger/reconcile.ts';

const url = process.env.DATABASE_URL ?? process.env.EARMARK_APP_URL;
if (!url) {
  console.error('No database is running. Start Earmark with `npm start`, or set DATABASE_URL.');
  process.exit(2);
}
const sql = connect(url, { max: 2 });
try {
  const { marks, places, breaks } = await reconcile(sql);
  if (breaks.length === 0)
    console.log(
      `Reconciled: ${marks} marks at ${places} mark-places; stock equals the sum of movements everywhere, and builds equal what moved.`
    );
  for (const row of breaks)
    console.error(`${row.law}: ${row.what} — expected ${row.expected}, found ${row.found}`);
  if (breaks.length > 0)
    console.error(`${breaks.length} break${breaks.length === 1 ? '' : 's'} found.`);
  process.exitCode = breaks.length === 0 ? 0 : 1;
} finally {
  await sql.end();
}
