import type { RequestHandler } from './$types';
import { answering } from '$lib/server/http/answer.ts';
import { sendAgain } from '$lib/server/hooks/hooks.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { rowId } from '$lib/server/kernel/row-id.ts';

export const POST: RequestHandler = ({ params }) =>
  answering(async () => {
    await sendAgain(db(), rowId(params.id) ?? 0, rowId(params.delivery) ?? 0);
    return new Response(null, { status: 204 });
  });
