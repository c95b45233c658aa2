import { error } from '@sveltejs/kit';
import type { PageServerLoad } from './$types';
import { NOTHING_BEYOND } from '$lib/core/trace/beyond-time.ts';
import { mayDo } from '$lib/core/people/rights.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { readOutside } from '$lib/server/exchange/outside.ts';
import { readNames } from '$lib/server/catalogue/read-catalogue.ts';
import { readLargeTrace } from '$lib/server/trace/large-trace.ts';
import { readBeyondTime } from '$lib/server/trace/beyond-time.ts';
import { traceForScreen } from '$lib/server/trace/trace.ts';
import { Problem } from '$lib/server/kernel/problem.ts';
import { readCutFrom, type AskedCut } from '$lib/server/trace/trace-cut.ts';
import { readSet } from '$lib/server/trace/trace-roots.ts';
import { rowId } from '$lib/server/kernel/row-id.ts';

const VIEWS = ['river', 'outline', 'table'] as const;
/** Most marks that are drawn one by one; of more a screen shows what they come to. */
const MOST_DRAWN = 20_000;

/** One mark by its id, or a kept set of them as `s12`. */
export const load: PageServerLoad = async ({ params, url, locals }) => {
  const direction =
    url.searchParams.get('direction') === 'upstream'
      ? ('upstream' as const)
      : ('downstream' as const);
  const setId = params.id.startsWith('s') ? rowId(params.id.slice(1)) : null;
  const set = setId === null ? null : await readSet(db(), setId);
  const id = setId === null ? rowId(params.id) : null;
  const roots = set?.marks ?? (id !== null ? [id] : []);
  const cut = await cutOf(url, roots);
  const found =
    roots.length > 0 ? await traceForScreen(db(), roots, direction, cut, MOST_DRAWN) : null;
  if (!found) error(404, 'There is no such mark. Scan its number above.');
  const view = VIEWS.find((one) => one === url.searchParams.get('view')) ?? 'river';
  const trace = 'drawn' in found ? found.drawn : null;
  const outside = trace
    ? await readOutside(
        db(),
        trace.marks.map((mark) => mark.id),
        direction
      )
    : [];
  const names = await readNames(db());
  return {
    trace,
    large: 'large' in found ? await readLargeTrace(db(), found.large, names.products) : null,
    most: MOST_DRAWN,
    direction,
    outside,
    view,
    setTitle: set?.title ?? null,
    at: params.id,
    until: cut.until?.toISOString() ?? null,
    from: cut.fromText ?? null,
    clocks: cut.clocks ?? ('obey' as const),
    beyond: trace ? await readBeyondTime(db(), trace, cut) : NOTHING_BEYOND,
    without: { products: [...(cut.withoutProducts ?? [])], kinds: [...(cut.withoutKinds ?? [])] },
    mayRecall: mayDo(locals.actor!.roles, 'recall'),
    mayProve: mayDo(locals.actor!.roles, 'see.costs'),
    ...names
  };
};

/** A cut that cannot be read is said in words; the page has no problem documents. */
async function cutOf(url: URL, roots: readonly number[]): Promise<AskedCut> {
  try {
    return await readCutFrom(db(), url, roots);
  } catch (problem) {
    if (!(problem instanceof Problem)) throw problem;
    error(problem.status, problem.errors[0]!.message);
  }
}
