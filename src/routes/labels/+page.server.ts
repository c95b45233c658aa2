import type { PageServerLoad } from './$types';
import { mayDo } from '$lib/core/access/rights';
import { db } from '$lib/server/db/client';
import { listLabelJobs, readLabelMarks } from '$lib/server/documents/label-jobs';
import { labelSvg } from '$lib/server/documents/labels';

/** Labels to print for an event or a mark, with a picture of the first; and what was printed lately. */
export const load: PageServerLoad = async ({ url, locals }) => {
  const id = (name: string): number | null => (/^\d{1,15}$/.test(url.searchParams.get(name) ?? '') ? Number(url.searchParams.get(name)) : null);
  const event = id('event'), mark = id('mark');
  const ids = event !== null
    ? (await db()<{ id: number }[]>`SELECT DISTINCT m.id, m.number_key FROM movement v JOIN mark m ON m.id = v.mark_id WHERE v.event_id = ${event} AND v.quantity > 0 AND m.kind <> 'bulk' ORDER BY m.number_key LIMIT 2000`).map((row) => row.id)
    : mark !== null ? [mark] : [];
  const labels = ids.length > 0 ? await readLabelMarks(db(), ids) : [];
  const previews = labels[0] ? Object.fromEntries((['datamatrix', 'gs1-128', 'qr'] as const).flatMap((symbol) => (['50x25', '70x40', '100x50', '100x150'] as const).map((size) => [`${symbol} ${size}`, labelSvg(labels[0]!, symbol, size)]))) : {};
  return { labels, previews, jobs: await listLabelJobs(db()), event, mayPrint: mayDo(locals.actor!.roles, 'print') };
};
