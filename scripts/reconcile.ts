// `npm run reconcile`: proves the ledger from its rows alone, without the code that booked them.
// Exits 1 with the rows that break a law.
import { reconcile } from '../src/lib/server/ledger/reconcile.ts';
import { onDatabase } from './on-database.ts';
import { sayBreak } from './say-breaks.ts';

const url = process.env.DATABASE_URL ?? process.env.EARMARK_APP_URL;
if (!url) {
  console.error('No database is running. Start Earmark with `npm start`, or set DATABASE_URL.');
  process.exit(2);
}
const { marks, places, proofs, breaks } = await onDatabase(url, reconcile);
if (breaks.length === 0)
  console.log(
    `Reconciled: ${marks} marks at ${places} mark-places stand ${proofs} proofs; nothing is broken.`
  );
for (const row of breaks) console.error(sayBreak(row));
if (breaks.length > 0)
  console.error(`${breaks.length} break${breaks.length === 1 ? '' : 's'} found.`);
process.exitCode = breaks.length === 0 ? 0 : 1;
