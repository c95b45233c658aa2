import type { RequestHandler } from './$types';
import { valueApart } from '$lib/server/files-apart.ts';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readQuery } from '$lib/server/http/read-body.ts';
import { company } from '$lib/server/catalogue/company.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { fileResponse } from '$lib/server/kernel/tables/write-table.ts';
import { readValue } from '$lib/server/stock/costs/read-value.ts';
import { valueFile } from '$lib/server/stock/costs/value-file.ts';
import { ValueQuery } from '$lib/server/stock/schemas.ts';

export const GET: RequestHandler = ({ url }) =>
  answering(async () => {
    const { format, by, ...asked } = readQuery(url, ValueQuery);
    if (format !== 'json')
      return fileResponse(
        format === 'pdf'
          ? await valueFile(db(), asked, format, by)
          : await valueApart(asked, format, by),
        format === 'pdf'
      );
    const { currency } = await company(db());
    return jsonResponse({ ...(await readValue(db(), asked)), currency });
  });
