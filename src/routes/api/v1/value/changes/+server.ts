import type { RequestHandler } from './$types';
import { valueChangesApart } from '$lib/server/files-apart.ts';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readQuery } from '$lib/server/http/read-body.ts';
import { company } from '$lib/server/catalogue/company.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { fileResponse } from '$lib/server/kernel/tables/write-table.ts';
import { MOST_CHANGES, readValueChanges } from '$lib/server/stock/costs/read-value-changes.ts';
import { valueChangesFile } from '$lib/server/stock/costs/value-file.ts';
import { ValueChangesQuery } from '$lib/server/stock/schemas.ts';

export const GET: RequestHandler = ({ url }) =>
  answering(async () => {
    const { format, ...period } = readQuery(url, ValueChangesQuery);
    if (format !== 'json')
      return fileResponse(
        format === 'pdf'
          ? await valueChangesFile(db(), period, format)
          : await valueChangesApart(period, format),
        format === 'pdf'
      );
    const { currency } = await company(db());
    return jsonResponse({ ...(await readValueChanges(db(), period, MOST_CHANGES)), currency });
  });
