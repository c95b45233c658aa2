import type { RequestHandler } from './$types';
import type { z } from 'zod';
import { tableApart } from '$lib/server/files-apart.ts';
import { listPaper, listTable } from '$lib/server/frame/list-file.ts';
import { ListAsked } from '$lib/server/frame/schemas.ts';
import { answering } from '$lib/server/http/answer.ts';
import { paperInTurn } from '$lib/server/http/papers.ts';
import { readBody } from '$lib/server/http/read-body.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { fileResponse, pdfResponse } from '$lib/server/kernel/tables/write-table.ts';

/** A list as a screen shows it, as a paper or a file. */
export const POST: RequestHandler = ({ request, locals }) =>
  answering(async () => {
    const asked = await readBody(request, ListAsked);
    // Only then: whoever sends slowly keeps nobody else waiting.
    return paperInTurn(() => made(asked, locals.actor!.name));
  });

async function made(
  { format, ...list }: z.infer<typeof ListAsked>,
  who: string
): Promise<Response> {
  if (format === 'pdf')
    return pdfResponse(await listPaper(db(), list, who, new Date()), 'list.pdf');
  const { columns, rows } = listTable(list);
  return fileResponse(await tableApart('list', format, columns, rows));
}
