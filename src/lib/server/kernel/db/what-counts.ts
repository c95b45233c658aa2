import type { Db } from './client.ts';

/**
 * What counts of a mark (alias m) that may lie within a lot (alias l): it is held or rejected where
 * its lot is, unless it is so itself.
 */
export const stateOf = (db: Db) =>
  db`CASE WHEN m.state = 'usable' THEN coalesce(l.state, 'usable') ELSE m.state END`;

/** A mark within a lot expires with it where it has no date of its own. */
export const expiryOf = (db: Db) => db`coalesce(m.expires_on, l.expires_on)`;

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
