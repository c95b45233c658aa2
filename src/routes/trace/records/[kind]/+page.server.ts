import { error } from '@sveltejs/kit';
import type { PageServerLoad } from './$types';
import { RECORD_KINDS, RECORDS } from '$lib/core/exchange/records.ts';
import { mayDo } from '$lib/core/people/rights.ts';
import { RecordsQuery } from '$lib/server/exchange/records/asked.ts';
import { recordsAsked, readRecords } from '$lib/server/exchange/records/read-records.ts';
import { db } from '$lib/server/kernel/db/client.ts';

/** Rows on the screen; the file has all. */
const MOST = 200;

export const load: PageServerLoad = async ({ params, url, locals }) => {
  const { roles } = locals.actor!;
  const kind = RECORD_KINDS.find((one) => one === params.kind);
  if (!kind) error(404, 'There is no such list.');
  if (!mayDo(roles, RECORDS[kind].right)) error(403, 'Your role does not have this list.');
  const given = Object.fromEntries([...url.searchParams].filter(([, value]) => value !== ''));
  const read = RecordsQuery.safeParse(given);
  const asked = recordsAsked(read.success ? read.data : RecordsQuery.parse({}));
  const mayProve = mayDo(roles, 'see.costs');
  return {
    ...{ kind, asked, mayProve, misread: !read.success },
    ...(await readRecords(db(), kind, asked, MOST)),
    kinds: RECORD_KINDS.filter((one) => mayDo(roles, RECORDS[one].right))
  };
};
