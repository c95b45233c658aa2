import type { PageServerLoad } from './$types';
import { pageAsked } from '$lib/server/http/page-asked.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { countUnderWay, readOnHand } from '$lib/server/stock/on-hand.ts';
import {
  countOnHandProducts,
  readOnHandPage,
  readOnHandProducts
} from '$lib/server/stock/on-hand-products.ts';

/** Products of a page: a screen and a half. Rows of one that it lists; its figures are of all. */
const PRODUCTS = 25;
const ROWS = 500;
/** Who looks for something that so few products have wants to see it. */
const FEW = 3;

export const load: PageServerLoad = async ({ url }) => {
  const { q, after } = pageAsked(url);
  const wanted = (url.searchParams.get('open') ?? '').split(',').filter(Boolean);
  const text = q || undefined;
  const { codes, more } = await readOnHandPage(db(), text, after, PRODUCTS);
  const isOne = after === '' && !more;
  const isFew = q !== '' && isOne && codes.length <= FEW && !url.searchParams.has('open');
  const open = isFew ? codes : codes.filter((code) => wanted.includes(code));
  const [products, rows, underWay, total] = await Promise.all([
    readOnHandProducts(db(), codes, text),
    open.length > 0 ? readOnHand(db(), { text, products: open, most: ROWS }) : [],
    countUnderWay(db()),
    isOne ? codes.length : countOnHandProducts(db(), text)
  ]);
  return { products, rows, underWay, q, after, open, total, more };
};
