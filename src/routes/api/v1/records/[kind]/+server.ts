import type { RequestHandler } from './$types';
import { recordsFileApart } from '$lib/server/files-apart.ts';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readQuery } from '$lib/server/http/read-body.ts';
import { RecordsQuery } from '$lib/server/exchange/records/asked.ts';
import {
  recordKind,
  recordsAsked,
  readRecords
} from '$lib/server/exchange/records/read-records.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { fileResponse } from '$lib/server/kernel/tables/write-table.ts';

/** Most rows that are answered at once. */
const MOST = 1_000;

/** The auditor's lists. */
export const GET: RequestHandler = ({ params, url, locals }) =>
  answering(async () => {
    const kind = recordKind(params.kind, locals.actor!);
    const { format, ...given } = readQuery(url, RecordsQuery);
    const asked = recordsAsked({ ...given, format });
    if (format === 'json') return jsonResponse(await readRecords(db(), kind, asked, MOST));
    return fileResponse(await recordsFileApart(kind, asked, format));
  });
