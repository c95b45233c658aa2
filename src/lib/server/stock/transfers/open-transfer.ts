import { numberKey, readNumber, shown } from '../../../core/numbers/number.ts';
import { wayCode } from '../../../core/stock/way.ts';
import type { Actor } from '../../kernel/actor.ts';
import type { Tx } from '../../kernel/db/client.ts';
import { Problem } from '../../kernel/problem.ts';
import { findTransfer, readTransferHead, type TransferHead } from './transfer-head.ts';

/** A transfer’s number and the codes of its two sites. */
interface Between {
  document: string;
  from: string;
  to: string;
}

/**
 * The transfer of a document: the one there is, or a new one with a place of its own. Others who
 * open it wait.
 * @throws Problem 409 where the document is another transfer’s, 422
 */
export async function openTransfer(
  tx: Tx,
  actor: Actor,
  { document: typed, from, to }: Between
): Promise<TransferHead> {
  const reading = readNumber(typed);
  if (!reading.ok || reading.number.length > 50)
    throw refused(
      'number.malformed',
      'document',
      `Document ${shown(typed)} cannot be used: ${reading.ok ? 'it is longer than 50 characters' : reading.why}.`
    );
  const document = reading.number;
  await tx`SELECT pg_advisory_xact_lock(hashtextextended(${`transfer ${numberKey(document)}`}, 0))`;
  const before = await findTransfer(tx, document);
  const same =
    before && numberKey(before.from) === numberKey(from) && numberKey(before.to) === numberKey(to);
  if (before && !same)
    throw new Problem(409, 'The number is taken', [
      {
        code: 'mark.duplicate',
        path: 'document',
        number: shown(document),
        message: `${before.document} goes from ${before.from} to ${before.to}. Give this transfer another number.`
      }
    ]);
  if (before) return before;
  if (numberKey(from) === numberKey(to))
    throw refused(
      'place.unknown',
      'to',
      'It lies at that site already: goods are moved within a site.'
    );
  const [leaving, going] = [await siteOf(tx, from, 'from'), await siteOf(tx, to, 'to')];
  const [place] = await tx<{ id: number }[]>`
    INSERT INTO place (code, name, kind, site_id)
    VALUES (${wayCode(document)}, ${`on the way with ${document}`}, 'transit', ${going})
    RETURNING id
  `;
  await tx`
    INSERT INTO transfer (document, from_site_id, to_site_id, place_id, opened_by)
    VALUES (${document}, ${leaving}, ${going}, ${place!.id}, ${actor.personId})
  `;
  return readTransferHead(tx, document);
}

async function siteOf(tx: Tx, code: string, path: string): Promise<number> {
  const [site] = await tx<{ id: number }[]>`
    SELECT id FROM site WHERE upper(code) = ${numberKey(code)}
  `;
  if (site) return site.id;
  throw refused(
    'place.unknown',
    path,
    `There is no site ${shown(code)}. Check the code in Setup → Places.`
  );
}

/** One fault of a transfer. */
export const refused = (code: string, path: string, message: string): Problem =>
  new Problem(422, 'The transfer cannot be booked', [{ code, path, message }]);
