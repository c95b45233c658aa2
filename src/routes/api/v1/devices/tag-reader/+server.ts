import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readBody, readQuery } from '$lib/server/http/read-body.ts';
import { TagReaderChange, TagReaderQuery } from '$lib/server/making/schemas.ts';
import { tagOf } from '$lib/server/making/station-read.ts';
import { Problem } from '$lib/server/kernel/problem.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { garbleTag, placeTag, readerAt, takeTag } from '$lib/server/making/tag-reader.ts';

/** The simulated reader of a station. */
export const GET: RequestHandler = ({ url }) =>
  answering(async () => jsonResponse(readerAt(readQuery(url, TagReaderQuery).station)));

export const PUT: RequestHandler = ({ request }) =>
  answering(async () => {
    const { station, plugged, place, epc, take, garble } = await readBody(request, TagReaderChange);
    const reader = readerAt(station);
    if (plugged !== undefined) reader.plugged = plugged;
    if (place !== undefined) {
      const [unit] = await db()<{ id: number; gtin: string | null; product: string }[]>`
        SELECT n.id, p.gtin, p.code AS product
        FROM planned_output n
          JOIN product p ON p.id = n.product_id
        WHERE n.number_key = upper(${place})
        ORDER BY n.id DESC
        LIMIT 1
      `;
      if (!unit)
        throw new Problem(422, 'There is no such unit', [
          {
            code: 'mark.unknown',
            path: 'place',
            number: place,
            message: `${place} is named on no work order, so it has no tag.`
          }
        ]);
      if (unit.gtin === null)
        throw new Problem(422, 'The unit has no tag', [
          {
            code: 'number.malformed',
            path: 'place',
            number: place,
            message: `${unit.product} has no GTIN, so its units’ tags cannot carry a code.`
          }
        ]);
      placeTag(station, tagOf(unit.gtin, unit.id));
    }
    if (epc !== undefined) placeTag(station, epc);
    if (take !== undefined) takeTag(station, take);
    if (garble !== undefined) garbleTag(station, garble);
    return jsonResponse(readerAt(station));
  });
