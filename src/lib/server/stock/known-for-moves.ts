import { moveWants } from '../../core/stock/decide-move.ts';
import type { Snapshot } from '../../core/ledger/snapshot.ts';
import { listPlaces } from '../catalogue/read-catalogue.ts';
import type { Sql } from '../kernel/db/client.ts';
import { asNamed, type OnHandNamed } from '../ledger/named-on-hand.ts';
import { readKnown } from '../ledger/read-known.ts';

/** Lots and serials that wait at a dock, as many as its screen shows; and what was moved last. */
const MOST_AT_DOCKS = 2_000;
const LAST_MOVEMENTS = 6_000;
const MOST_CARTONS = 1_000;

/**
 * What the decision of a move knows, for a device that goes on without a line: what waits at a dock
 * and what came in or was moved last, with its cartons. Anything else is looked for with the line.
 */
export async function knownForMoves(sql: Sql): Promise<Snapshot> {
  const [places, marks] = await Promise.all([listPlaces(sql), movedLast(sql)]);
  const units = await cartonsWith(sql, marks);
  const named = asNamed(marks);
  return readKnown(sql, {
    ...moveWants({ document: '', kind: 'move', lines: [] }),
    products: named.map((one) => one.product),
    places: places.map((place) => place.code),
    marks: named,
    units
  });
}

type MovedLast = OnHandNamed & { id: number };

const movedLast = (sql: Sql): Promise<MovedLast[]> =>
  sql<MovedLast[]>`
    WITH
      docked AS (
        SELECT s.mark_id
        FROM stock s
          JOIN place c ON c.id = s.place_id AND c.kind = 'dock'
        WHERE s.quantity > 0
        LIMIT ${MOST_AT_DOCKS}
      ),
      latest AS (
        SELECT v.mark_id FROM movement v ORDER BY v.id DESC LIMIT ${LAST_MOVEMENTS}
      )
    SELECT m.id, p.code AS product, m.kind, m.number
    FROM mark m
      JOIN product p ON p.id = m.product_id
    WHERE m.id IN (SELECT mark_id FROM docked UNION SELECT mark_id FROM latest)
      AND EXISTS (SELECT FROM stock s WHERE s.mark_id = m.id AND s.quantity > 0)
  `;

/** Cartons that hold any of these marks, and the pallets they stand on. */
async function cartonsWith(sql: Sql, marks: readonly MovedLast[]): Promise<string[]> {
  const rows = await sql<{ sscc: string }[]>`
    SELECT u.sscc
    FROM logistic_unit u
    WHERE u.id IN (
        SELECT c.unit_id
        FROM unit_content c
        WHERE c.mark_id = ANY(${marks.map(({ id }) => id)}) AND NOT c.shipped AND c.quantity > 0
        LIMIT ${MOST_CARTONS}
      )
  `;
  return rows.map(({ sscc }) => sscc);
}
