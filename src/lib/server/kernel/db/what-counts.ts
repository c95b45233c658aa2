import type { Db } from './client.ts';

/**
 * What counts of a mark (alias m) that may lie within a lot (alias l): it is held or rejected where
 * its lot is, unless it is so itself.
 */
export const stateOf = (db: Db) =>
  db`CASE WHEN m.state = 'usable' THEN coalesce(l.state, 'usable') ELSE m.state END`;

/**
 * The marks of products whose state, as `stateOf` says it, is not usable: the few, without a look at
 * the others.
 * @param products a query of product ids
 */
export const notUsableOf = (db: Db, products: ReturnType<Db>) => db`
  SELECT m.id
  FROM mark m
  WHERE m.state <> 'usable' AND m.product_id IN (${products})
  UNION ALL
  SELECT m.id
  FROM mark l
    JOIN mark m ON m.lot_id = l.id
  WHERE l.state <> 'usable' AND l.product_id IN (${products})
`;

/** A mark within a lot expires with it where it has no date of its own. */
export const expiryOf = (db: Db) => db`coalesce(m.expires_on, l.expires_on)`;

/**
 * What one of a mark costs by now, carried from the ledger: the last row of the last event, as told
 * last. Whoever asks has costs carried before.
 * @param mark its id, as a column of the statement
 */
export const costNow = (db: Db, mark: ReturnType<Db>) =>
  db`
    (
      SELECT k.unit_cost
      FROM mark_cost k
      WHERE k.mark_id = ${mark}
      ORDER BY k.event_id DESC, k.told_by DESC
      LIMIT 1
    )
  `;

/**
 * What one of a mark cost when it came in by an event, where that was told otherwise since: as told
 * last.
 * @param until only what was told until this event
 */
export const toldCost = (db: Db, mark: ReturnType<Db>, event: ReturnType<Db>, until?: number) =>
  db`
    (
      SELECT told.unit_cost
      FROM cost_told told
      WHERE told.mark_id = ${mark}
        AND told.of_event = ${event}
        ${until === undefined ? db`` : db`AND told.event_id <= ${until}`}
      ORDER BY told.event_id DESC
      LIMIT 1
    )
  `;

/**
 * Whether a movement (alias v) of an event (alias e) holds: it is no reversal, and none until an
 * event took it back, of its mark.
 */
export const heldUntil = (db: Db, until: number) =>
  db`
    e.kind <> 'reversal'
      AND NOT EXISTS (
        SELECT
        FROM event b
          JOIN movement w ON w.event_id = b.id
        WHERE b.reverses_id = v.event_id AND w.mark_id = v.mark_id AND b.id <= ${until}
      )
  `;

/**
 * Whether a transformation stands: no reversal took it back.
 * @param transformation its id, as a column of the statement
 */
export const stands = (db: Db, transformation: ReturnType<Db>) =>
  db`
    NOT EXISTS (
      SELECT
      FROM transformation_reversed taken_back
      WHERE taken_back.transformation_id = ${transformation}
    )
  `;

/**
 * Whether what lies at a place is free to be used, promised or sent: neither in quarantine nor on
 * the way of a transfer.
 * @param place its id, as a column of the statement
 */
export const isFreePlace = (db: Db, place: ReturnType<Db>) =>
  db`NOT EXISTS (SELECT FROM place q WHERE q.id = ${place} AND q.kind IN ('quarantine', 'transit'))`;

/**
 * Whether what lies at a place is on hand: not on the way of a transfer.
 * @param place its id, as a column of the statement
 */
export const isOnHand = (db: Db, place: ReturnType<Db>) =>
  db`NOT EXISTS (SELECT FROM place w WHERE w.id = ${place} AND w.kind = 'transit')`;
