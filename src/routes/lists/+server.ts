import type { RequestHandler } from './$types';
import { listFile } from '$lib/server/frame/list-file.ts';
import { ListAsked } from '$lib/server/frame/schemas.ts';
import { answering } from '$lib/server/http/answer.ts';
import { readBody } from '$lib/server/http/read-body.ts';
import { db } from '$lib/server/kernel/db/client.ts';

/** A list as a screen shows it, as a paper or a file. */
export const POST: RequestHandler = ({ request, locals }) =>
  answering(async () =>
    listFile(db(), locals.actor!.name, await readBody(request, ListAsked), new Date())
  );
