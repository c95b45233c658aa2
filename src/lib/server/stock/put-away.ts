import { proposePlace, type LyingThere, type PlaceProposal } from '../../core/stock/put-away.ts';
import type { Lying } from '../../core/stock/lying.ts';
import type { Db } from '../kernel/db/client.ts';
import { listed, mapListed, type Listed } from '../kernel/db/listed.ts';
import { listPlaces } from '../catalogue/read-catalogue.ts';
import { trimZeros } from '../kernel/quantity-text.ts';

export interface PutAwayRow extends Lying {
  since: string;
  document: string | null;
  proposal: PlaceProposal | null;
}

/**
 * What lies at a dock and waits to be put away, oldest first, each with where it should go: the first
 * two thousand, and how many there are.
 * @param event only what this receipt brought, where one is named
 */
export async function readPutAway(db: Db, event: number | null): Promise<Listed<PutAwayRow>> {
  const rows = await db<
    (Omit<PutAwayRow, 'proposal'> & {
      lot_id: number | null;
      product_id: number;
      site: string;
      total: number;
    })[]
  >`
    SELECT m.id AS mark, m.kind, m.number, l.number AS lot, m.lot_id, p.id AS product_id,
      p.code AS product, p.name, p.unit, m.state, c.code AS from, t.code AS site,
      t.name || ', ' || c.name AS "fromName", s.quantity, e.happened_at::date AS since, e.document,
      count(*) OVER ()::int AS total
    FROM stock s
      JOIN place c ON c.id = s.place_id
      JOIN site t ON t.id = c.site_id
      JOIN mark m ON m.id = s.mark_id
      JOIN product p ON p.id = m.product_id
      LEFT JOIN mark l ON l.id = m.lot_id
      JOIN LATERAL (
        SELECT e.id, e.happened_at, e.document
        FROM movement v
          JOIN event e ON e.id = v.event_id
        WHERE v.mark_id = m.id AND v.place_id = s.place_id AND v.quantity > 0
        ORDER BY e.id DESC
        LIMIT 1
      ) e ON true
    WHERE s.quantity > 0 AND c.kind = 'dock' ${
      event === null
        ? db``
        : db`
        AND EXISTS (SELECT FROM movement v WHERE v.event_id = ${event} AND v.mark_id = m.id)
      `
    }
    ORDER BY e.happened_at, e.document, p.code, l.number_key, m.number_key
    LIMIT 2000
  `;
  const products = [...new Set(rows.map((row) => row.product_id))];
  const lying = await db<LyingThere[]>`
    SELECT c.code AS place, c.kind, m.id AS mark, m.lot_id AS lot, p.code AS product, s.quantity
    FROM stock s
      JOIN mark m ON m.id = s.mark_id
      JOIN product p ON p.id = m.product_id
      JOIN place c ON c.id = s.place_id
    WHERE s.quantity > 0 AND c.kind IN ('rack', 'bin') AND m.product_id = ANY(${products})
  `;
  const taken = await db<{ code: string }[]>`
    SELECT c.code
    FROM place c
    WHERE EXISTS (SELECT FROM stock s WHERE s.place_id = c.id AND s.quantity > 0)
  `;
  const places = await listPlaces(db);
  const elsewhere: LyingThere[] = taken.map(({ code }) => ({
    place: code,
    kind: 'other',
    mark: 0,
    lot: null,
    product: '',
    quantity: '1'
  }));
  const all = [...lying, ...elsewhere];
  // To another site goods are transferred, not put away.
  const siteOf = new Map(places.map((place) => [place.code, place.site]));
  const at = <P>(site: string, list: readonly P[], code: (one: P) => string): P[] =>
    list.filter((one) => siteOf.get(code(one)) === site);
  return mapListed(listed(rows), ({ lot_id, product_id: _, site, ...row }) => ({
    ...row,
    quantity: trimZeros(row.quantity),
    proposal: proposePlace(
      { mark: row.mark, lot: lot_id, product: row.product, from: row.from },
      at(site, all, (one) => one.place),
      at(site, places, (one) => one.code)
    )
  }));
}
