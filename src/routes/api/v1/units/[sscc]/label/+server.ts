import type { RequestHandler } from './$types';
import { answering } from '$lib/server/api/answer';
import { notFound } from '$lib/server/booking/problem';
import { company } from '$lib/server/catalogue/company';
import { db } from '$lib/server/db/client';
import { unitLabelsPdf } from '$lib/server/documents/unit-label';
import { readUnitPages } from '$lib/server/reading/units';
import { fileResponse } from '$lib/server/tables/write-table';

/** Labels of one carton or pallet, or of several: SSCCs with commas between. */
export const GET: RequestHandler = ({ params }) =>
  answering(async () => {
    const units = await readUnitPages(db(), { ssccs: params.sscc.split(',').slice(0, 200) });
    if (units.length === 0) notFound('carton or pallet', params.sscc);
    return fileResponse(
      {
        body: await unitLabelsPdf(units, (await company(db())).name),
        type: 'application/pdf',
        name: `labels-${units[0]!.sscc}.pdf`
      },
      true
    );
  });
