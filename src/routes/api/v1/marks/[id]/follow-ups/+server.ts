import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readQuery } from '$lib/server/http/read-body.ts';
import { FollowUpsQuery } from '$lib/server/trace/schemas.ts';
import { notFound } from '$lib/server/kernel/problem.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { rowId } from '$lib/server/kernel/row-id.ts';
import { readFollowUps } from '$lib/server/trace/follow-ups.ts';

/** What would follow if a date of this mark were amended; an empty date takes it away. */
export const GET: RequestHandler = ({ params, url }) =>
  answering(async () => {
    const id = rowId(params.id) ?? notFound('mark', params.id);
    const { made, expires } = readQuery(url, FollowUpsQuery);
    return jsonResponse({
      followUps: await readFollowUps(db(), id, {
        ...(made === undefined ? {} : { made: made || null }),
        ...(expires === undefined ? {} : { expires: expires || null })
      })
    });
  });
