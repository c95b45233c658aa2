import type { RequestHandler } from './$types';
import { answering } from '$lib/server/http/answer.ts';
import { notFound } from '$lib/server/kernel/problem.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { jobPdf, readLabelJob } from '$lib/server/stock/label-jobs.ts';
import { pdfResponse } from '$lib/server/kernel/tables/write-table.ts';
import { rowId } from '$lib/server/kernel/row-id.ts';

/** A job's labels as they were printed, as PDF. */
export const GET: RequestHandler = ({ params }) =>
  answering(async () => {
    const id = rowId(params.id);
    const job = id !== null ? await readLabelJob(db(), id) : null;
    if (!job) notFound('label job', params.id);
    return pdfResponse(await jobPdf(job), `labels-${job.id}.pdf`);
  });
