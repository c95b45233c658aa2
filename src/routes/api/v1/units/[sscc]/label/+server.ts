import type { RequestHandler } from './$types';
import { answering } from '$lib/server/http/answer.ts';
import { notFound } from '$lib/server/kernel/problem.ts';
import { company } from '$lib/server/catalogue/company.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { unitLabelsPdf } from '$lib/server/shipping/papers/unit-label.ts';
import { readUnitPages } from '$lib/server/shipping/units.ts';
import { pdfResponse } from '$lib/server/kernel/tables/write-table.ts';

/** Labels of one carton or pallet, or of several: SSCCs with commas between. */
export const GET: RequestHandler = ({ params }) =>
  answering(async () => {
    const units = await readUnitPages(db(), { ssccs: params.sscc.split(',').slice(0, 200) });
    if (units.length === 0) notFound('carton or pallet', params.sscc);
    return pdfResponse(
      await unitLabelsPdf(units, (await company(db())).name),
      `labels-${units[0]!.sscc}.pdf`
    );
  });
