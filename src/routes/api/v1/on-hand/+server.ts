import type { RequestHandler } from './$types';
import { deskApart } from '$lib/server/files-apart.ts';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readQuery } from '$lib/server/http/read-body.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { fileResponse } from '$lib/server/kernel/tables/write-table.ts';
import { DeskFileQuery } from '$lib/server/stock/desk/asked.ts';
import { deskFile } from '$lib/server/stock/desk/desk-file.ts';
import { readDesk } from '$lib/server/stock/desk/read-desk.ts';

/** Most rows that are answered at once. */
const MOST = 5_000;

export const GET: RequestHandler = ({ url }) =>
  answering(async () => {
    const { format, ...asked } = readQuery(url, DeskFileQuery);
    if (format === 'json') return jsonResponse(await readDesk(db(), asked, MOST));
    return fileResponse(
      format === 'pdf' ? await deskFile(db(), asked, format) : await deskApart(asked, format),
      format === 'pdf'
    );
  });
