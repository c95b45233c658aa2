import type { PageServerLoad } from './$types';
import { db } from '$lib/server/kernel/db/client.ts';
import { readMarkRecords } from '$lib/server/ledger/mark-record.ts';
import { readSet } from '$lib/server/trace/trace-roots.ts';
import { rowId } from '$lib/server/kernel/row-id.ts';

export const load: PageServerLoad = async ({ url }) => {
  const set = rowId(url.searchParams.get('set')),
    mark = rowId(url.searchParams.get('mark'));
  const kept = set === null ? null : await readSet(db(), set);
  const ids = kept?.marks ?? (mark === null ? [] : [mark]);
  return {
    first: await readMarkRecords(db(), ids.slice(0, 500)),
    ids,
    title: kept?.title ?? '',
    mock: url.searchParams.get('mock') === '1'
  };
};
