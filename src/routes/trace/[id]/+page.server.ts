import { error } from '@sveltejs/kit';
import type { PageServerLoad } from './$types';
import { mayDo } from '$lib/core/access/rights';
import { db } from '$lib/server/db/client';
import { readOutside } from '$lib/server/epcis/outside';
import { readNames } from '$lib/server/reading/catalogue';
import { traceMarks } from '$lib/server/reading/trace';
import { readCut } from '$lib/server/reading/trace-cut';
import { readSet } from '$lib/server/reading/trace-roots';
import { rowId } from '$lib/server/row-id';

const VIEWS = ['river', 'outline', 'table'] as const;

/** One mark by its id, or a kept set of them as `s12`. */
export const load: PageServerLoad = async ({ params, url, locals }) => {
  const direction = url.searchParams.get('direction') === 'upstream' ? 'upstream' as const : 'downstream' as const;
  const setId = params.id.startsWith('s') ? rowId(params.id.slice(1)) : null;
  const set = setId === null ? null : await readSet(db(), setId);
  const id = setId === null ? rowId(params.id) : null;
  const cut = readCut(url);
  const trace = set ? await traceMarks(db(), set.marks, direction, cut) : id !== null ? await traceMarks(db(), [id], direction, cut) : null;
  if (!trace) error(404, 'There is no such mark. Scan its number above.');
  const view = VIEWS.find((one) => one === url.searchParams.get('view')) ?? 'river';
  const outside = await readOutside(db(), trace.marks.map((mark) => mark.id), direction);
  return { trace, outside, view, setTitle: set?.title ?? null, at: params.id, until: cut.until?.toISOString() ?? null, without: { products: [...(cut.withoutProducts ?? [])], kinds: [...(cut.withoutKinds ?? [])] }, mayRecall: mayDo(locals.actor!.roles, 'recall'), ...(await readNames(db())) };
};
