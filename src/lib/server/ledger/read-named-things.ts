import type { Wants } from '../../core/ledger/request.ts';
import {
  codeKey,
  type KnownPartner,
  type KnownPlace,
  type KnownProduct
} from '../../core/ledger/snapshot.ts';
import type { Tx } from '../kernel/db/client.ts';
import { together } from '../kernel/db/together.ts';
import { askable, distinctCodes } from './named-codes.ts';
import { asProducts, productsNamed, type ProductRow } from './read-products.ts';

/** The products, the partner and the places a request names. */
export async function readNamedThings(
  tx: Tx,
  wants: Wants
): Promise<{
  products: Map<string, KnownProduct>;
  partners: Map<string, KnownPartner>;
  places: Map<string, KnownPlace>;
}> {
  const places = distinctCodes(wants.places);
  const rows = await together<{ product: ProductRow; partner: KnownPartner; place: KnownPlace }>(
    tx,
    {
      product: productsNamed(tx, wants.products),
      partner:
        wants.partner !== null && askable(wants.partner)
          ? tx`
            SELECT id, code, name, supplier, customer
            FROM partner
            WHERE upper(code) = ${codeKey(wants.partner)}
          `
          : null,
      place:
        places.length > 0
          ? tx`
            ${knownPlaces(tx)}
            WHERE upper(p.code) = ANY(${places})
              OR (
                p.kind = 'quarantine'
                  AND p.site_id IN (SELECT site_id FROM place WHERE upper(code) = ANY(${places}))
              )
            ORDER BY p.id
          `
          : null
    }
  );
  const byCode = <T extends { code: string }>(list: readonly T[]) =>
    new Map(list.map((row) => [codeKey(row.code), row]));
  return {
    products: asProducts(rows.product),
    partners: byCode(rows.partner),
    places: byCode(rows.place)
  };
}

export async function readPlaces(tx: Tx, ids: readonly number[]): Promise<Map<string, KnownPlace>> {
  const rows = await tx<KnownPlace[]>`
    ${knownPlaces(tx)}
    WHERE p.id = ANY(${ids as number[]})
    ORDER BY p.id
  `;
  return new Map(rows.map((row) => [codeKey(row.code), row]));
}

/** The places where these marks lie or lay, and these. */
export async function readPlacesOf(
  tx: Tx,
  marks: readonly number[],
  ids: readonly number[]
): Promise<Map<string, KnownPlace>> {
  if (marks.length === 0 && ids.length === 0) return new Map();
  const rows = await tx<KnownPlace[]>`
    ${knownPlaces(tx)}
    WHERE p.id = ANY(${ids as number[]})
      OR p.id IN (SELECT t.place_id FROM stock t WHERE t.mark_id = ANY(${marks as number[]}))
    ORDER BY p.id
  `;
  return new Map(rows.map((row) => [codeKey(row.code), row]));
}

const knownPlaces = (tx: Tx) => tx`
  SELECT p.id, p.code, p.name, s.name AS site, s.zone, p.kind = 'quarantine' AS quarantine,
    p.kind = 'transit' AS transit
  FROM place p
    JOIN site s ON s.id = p.site_id
`;
