import type { RequestHandler } from './$types';
import { answering } from '$lib/server/api/answer';
import { readQuery } from '$lib/server/api/read-body';
import { ExportQuery } from '$lib/server/api/schemas';
import { notFound } from '$lib/server/booking/problem';
import { db } from '$lib/server/db/client';
import { exportBills } from '$lib/server/imports/bills';
import { exportProducts } from '$lib/server/imports/products';
import { fileResponse } from '$lib/server/tables/write-table';

export const GET: RequestHandler = ({ params, url }) => answering(async () => {
  const { format, product } = readQuery(url, ExportQuery);
  if (params.kind === 'products') return fileResponse(await exportProducts(db(), format));
  if (params.kind === 'bills') return fileResponse(await exportBills(db(), format, product));
  return notFound('table', params.kind);
});
