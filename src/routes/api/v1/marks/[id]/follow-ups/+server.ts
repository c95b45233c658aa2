import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/api/answer';
import { readQuery } from '$lib/server/api/read-body';
import { FollowUpsQuery } from '$lib/server/api/schemas';
import { notFound } from '$lib/server/booking/problem';
import { db } from '$lib/server/db/client';
import { rowId } from '$lib/server/row-id';
import { readFollowUps } from '$lib/server/reading/follow-ups';

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
