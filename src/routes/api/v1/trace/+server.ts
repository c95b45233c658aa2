import type { RequestHandler } from './$types';
import { answering, jsonPieces } from '$lib/server/http/answer.ts';
import { readQuery } from '$lib/server/http/read-body.ts';
import { TraceQuery } from '$lib/server/trace/schemas.ts';
import { Problem } from '$lib/server/kernel/problem.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { readCutFrom } from '$lib/server/trace/trace-cut.ts';
import { findMarkId } from '$lib/server/ledger/find-mark.ts';
import { traceJson } from '$lib/server/trace/trace.ts';

export const GET: RequestHandler = ({ url }) =>
  answering(async () => {
    const { product, lot, serial, direction } = readQuery(url, TraceQuery);
    const root = await findMarkId(db(), product, lot, serial);
    const trace =
      root === null
        ? null
        : await traceJson(db(), [root], direction, await readCutFrom(db(), url, [root]));
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
