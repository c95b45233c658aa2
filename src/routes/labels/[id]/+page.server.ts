import { error } from '@sveltejs/kit';
import type { PageServerLoad } from './$types';
import { db } from '$lib/server/kernel/db/client.ts';
import { readLabelJob } from '$lib/server/stock/label-jobs.ts';
import { labelSvg } from '$lib/server/stock/papers/labels.ts';
import { rowId } from '$lib/server/kernel/row-id.ts';

/** Pictures drawn on one page; the PDF has them all. */
const DRAWN = 60;

export const load: PageServerLoad = async ({ params }) => {
  const id = rowId(params.id);
  const job = id !== null ? await readLabelJob(db(), id) : null;
  if (!job) error(404, 'There is no such label job.');
  const { labels, ...head } = job;
  return {
    job: { ...head, count: labels.length },
    drawn: labels.slice(0, DRAWN).map((label) => ({
      id: label.id,
      number: label.number,
      before: label.before,
      svg: labelSvg(label, job.symbol, job.size)
    }))
  };
};
