import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readQuery } from '$lib/server/http/read-body.ts';
import { MarksQuery } from '$lib/server/stock/schemas.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { findMarks } from '$lib/server/stock/marks.ts';

export const GET: RequestHandler = ({ url }) =>
  answering(async () => jsonResponse(await findMarks(db(), readQuery(url, MarksQuery))));
