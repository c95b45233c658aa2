import type { RequestHandler } from './$types';
import { mayDo } from '$lib/core/people/rights.ts';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readQuery } from '$lib/server/http/read-body.ts';
import { ImportQuery } from '$lib/server/exchange/schemas.ts';
import { requireRight } from '$lib/server/kernel/rights.ts';
import { Problem } from '$lib/server/kernel/problem.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { importBills } from '$lib/server/catalogue/import-bills.ts';
import { importOrders } from '$lib/server/orders/import-orders.ts';
import { importProducts } from '$lib/server/catalogue/import-products.ts';
import { MOST_BYTES } from '$lib/server/kernel/tables/read-table.ts';

const ORDERS = {
  'purchase-orders': 'purchase',
  'work-orders': 'work',
  'sales-orders': 'sales'
} as const;

/**
 * A file of products or orders: the report row by row and, where asked, the writing. The body is
 * the file itself, CSV or XLSX.
 */
export const POST: RequestHandler = ({ params, request, url, locals }) =>
  answering(async () => {
    const { mode } = readQuery(url, ImportQuery);
    if (Number(request.headers.get('content-length') ?? 0) > MOST_BYTES)
      throw new Problem(413, 'The file is too large', [
        {
          code: 'request.too-large',
          path: '',
          message: 'A file of at most 5 MB is taken. Send it in parts.'
        }
      ]);
    const file = new Uint8Array(await request.arrayBuffer());
    if (params.kind === 'products') {
      requireRight(locals.actor!, 'edit.catalogue');
      return jsonResponse(await importProducts(db(), file, mode));
    }
    if (params.kind === 'bills') {
      requireRight(locals.actor!, 'edit.catalogue');
      return jsonResponse(await importBills(db(), locals.actor!, file, mode));
    }
    const kind = ORDERS[params.kind as keyof typeof ORDERS];
    if (!kind)
      throw new Problem(404, 'There is no such table', [
        {
          code: 'request.malformed',
          path: 'kind',
          message: `Use one of products, bills, ${Object.keys(ORDERS).join(', ')}.`
        }
      ]);
    if (!mayDo(locals.actor!.roles, 'edit.catalogue')) requireRight(locals.actor!, 'edit.orders');
    return jsonResponse(await importOrders(db(), locals.actor!, kind, file, mode));
  });
