import type { RequestHandler } from './$types';
import { answering } from '$lib/server/api/answer';
import { notFound } from '$lib/server/booking/problem';
import { db } from '$lib/server/db/client';
import { jobPdf, readLabelJob } from '$lib/server/documents/label-jobs';
import { fileResponse } from '$lib/server/tables/write-table';
import { rowId } from '$lib/server/row-id';

/** A job's labels as they were printed, as PDF. */
export const GET: RequestHandler = ({ params }) =>
  answering(async () => {
    const id = rowId(params.id);
    const job = id !== null ? await readLabelJob(db(), id) : null;
    if (!job) notFound('label job', params.id);
    return fileResponse(
      { body: await jobPdf(job), type: 'application/pdf', name: `labels-${job.id}.pdf` },
      true
    );
  });
