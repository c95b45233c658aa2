import type { RequestHandler } from './$types';
import { mayDo } from '$lib/core/people/rights.ts';
import {
  billsApart,
  ledgerApart,
  productsApart,
  recordSheetApart
} from '$lib/server/files-apart.ts';
import { answering } from '$lib/server/http/answer.ts';
import { readQuery } from '$lib/server/http/read-body.ts';
import { ExportQuery } from '$lib/server/exchange/schemas.ts';
import { notFound } from '$lib/server/kernel/problem.ts';
import { fileResponse } from '$lib/server/kernel/tables/write-table.ts';

export const GET: RequestHandler = ({ params, url, locals }) =>
  answering(async () => {
    const { format, product, ...which } = readQuery(url, ExportQuery);
    const as = url.searchParams.get('as') === 'epcis' ? 'epcis' : format;
    const seesCosts = mayDo(locals.actor!.roles, 'see.costs');
    const files: Record<string, () => ReturnType<typeof ledgerApart>> = {
      products: () => productsApart(format),
      bills: () => billsApart(format, product),
      'record-sheet': () => recordSheetApart(which, format),
      ledger: () => ledgerApart(which, as, seesCosts)
    };
    const make = Object.hasOwn(files, params.kind) ? files[params.kind] : undefined;
    return fileResponse(await (make?.() ?? notFound('table', params.kind)));
  });
