import type { PageServerLoad } from './$types';
import { mayDo } from '$lib/core/people/rights.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { LABEL_SIZES, LABEL_SYMBOLS, type LabelSize } from '$lib/core/labels/label.ts';
import { rowId } from '$lib/server/kernel/row-id.ts';
import {
  countPrinted,
  listLabelJobs,
  marksToLabel,
  MOST_LABELS,
  readLabelMarks
} from '$lib/server/stock/label-jobs.ts';
import { labelSvg } from '$lib/server/stock/papers/labels.ts';

/** Marks that are listed to choose from; all are printed unless they are taken out. */
const SHOWN = 400;

/**
 * Labels to print for an event or a mark, with a picture of the first; and what was printed lately.
 */
export const load: PageServerLoad = async ({ url, locals }) => {
  const event = rowId(url.searchParams.get('event')),
    mark = rowId(url.searchParams.get('mark'));
  const ids = event !== null ? await marksToLabel(db(), event) : mark !== null ? [mark] : [];
  const labels = ids.length > 0 ? await readLabelMarks(db(), ids.slice(0, SHOWN)) : [];
  const previews = labels[0]
    ? Object.fromEntries(
        LABEL_SYMBOLS.flatMap((symbol) =>
          (Object.keys(LABEL_SIZES) as LabelSize[]).map((size) => [
            `${symbol} ${size}`,
            labelSvg(labels[0]!, symbol, size)
          ])
        )
      )
    : {};
  return {
    ids,
    labels,
    printed: await countPrinted(db(), ids),
    part: MOST_LABELS,
    previews,
    jobs: await listLabelJobs(db()),
    event,
    mayPrint: mayDo(locals.actor!.roles, 'print')
  };
};
