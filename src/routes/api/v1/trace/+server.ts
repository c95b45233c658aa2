import type { RequestHandler } from './$types';
import { answering, jsonPieces } from '$lib/server/api/answer';
import { readQuery } from '$lib/server/api/read-body';
import { TraceQuery } from '$lib/server/api/schemas';
import { Problem } from '$lib/server/booking/problem';
import { db } from '$lib/server/db/client';
import { readCut } from '$lib/server/reading/trace-cut';
import { findTraceRoot, traceJson } from '$lib/server/reading/trace';

export const GET: RequestHandler = ({ url }) =>
  answering(async () => {
    const { product, lot, serial, direction } = readQuery(url, TraceQuery);
    const root = await findTraceRoot(db(), product, lot, serial);
    const trace = root === null ? null : await traceJson(db(), [root], direction, readCut(url));
    if (!trace)
      throw new Problem(404, 'There is no such mark', [
        {
          code: 'mark.unknown',
          path: serial !== undefined ? 'serial' : lot !== undefined ? 'lot' : 'product',
          number: serial ?? lot ?? product,
          message: `There is no ${serial !== undefined ? `serial ${serial}` : lot !== undefined ? `lot ${lot}` : 'unmarked stock'} of ${product}. Check the number and the product.`
        }
      ]);
    return jsonPieces(trace);
  });
