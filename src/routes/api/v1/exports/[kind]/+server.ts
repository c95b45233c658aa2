import type { RequestHandler } from './$types';
import { answering } from '$lib/server/api/answer';
import { readQuery } from '$lib/server/api/read-body';
import { ExportQuery } from '$lib/server/api/schemas';
import { notFound } from '$lib/server/booking/problem';
import { db } from '$lib/server/db/client';
import { exportProducts } from '$lib/server/imports/products';
import { fileResponse } from '$lib/server/tables/write-table';

export const GET: RequestHandler = ({ params, url }) => answering(async () => {
  if (params.kind !== 'products') notFound('table', params.kind);
  return fileResponse(await exportProducts(db(), readQuery(url, ExportQuery).format));
});
