import { error } from '@sveltejs/kit';
import type { PageServerLoad } from './$types';
import { listPlaces } from '$lib/server/catalogue/read-catalogue.ts';
import { readProduct } from '$lib/server/catalogue/products.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { rowId } from '$lib/server/kernel/row-id.ts';
import type { Listed } from '$lib/server/kernel/db/listed.ts';
import { readHistory, type HistoryRow } from '$lib/server/stock/history.ts';

/** Most events one page lists; the earlier ones follow. */
const MOST = 200;

/** The event before which the list goes on; null where it ends. */
const earlier = ({ rows }: Listed<HistoryRow>): number | null =>
  rows.length === MOST ? rows.at(-1)!.event : null;

export const load: PageServerLoad = async ({ url }) => {
  const code = (name: string) => (url.searchParams.get(name) ?? '').trim().slice(0, 60);
  const before = rowId(url.searchParams.get('before') ?? '') ?? undefined;
  const [product, place] = [code('product'), code('place')];
  if (product) {
    const known = await readProduct(db(), product);
    if (!known) error(404, `There is no product ${product}. Check the code.`);
    const history = await readHistory(db(), { product: known.code }, { before, most: MOST });
    return {
      what: 'product' as const,
      code: known.code,
      name: known.name,
      before,
      history,
      earlier: earlier(history)
    };
  }
  const known = (await listPlaces(db())).find(
    (one) => one.code.toUpperCase() === place.toUpperCase()
  );
  if (!known) error(404, `There is no place ${place}. Check the code.`);
  const history = await readHistory(db(), { place: known.code }, { before, most: MOST });
  const name = `${known.siteName}, ${known.name}`;
  return {
    what: 'place' as const,
    code: known.code,
    name,
    before,
    history,
    earlier: earlier(history)
  };
};
