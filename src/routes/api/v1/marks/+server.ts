import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/api/answer';
import { readQuery } from '$lib/server/api/read-body';
import { MarksQuery } from '$lib/server/api/schemas';
import { db } from '$lib/server/db/client';
import { findMarks } from '$lib/server/reading/marks';

export const GET: RequestHandler = ({ url }) =>
  answering(async () => jsonResponse(await findMarks(db(), readQuery(url, MarksQuery))));
