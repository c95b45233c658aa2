import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readBody, readQuery } from '$lib/server/http/read-body.ts';
import { TagReaderChange, TagReaderQuery } from '$lib/server/making/schemas.ts';
import { tagOfUnit } from '$lib/server/making/tag-of-unit.ts';
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
    if (place !== undefined) placeTag(station, await tagOfUnit(db(), place));
    if (epc !== undefined) placeTag(station, epc);
    if (take !== undefined) takeTag(station, take);
    if (garble !== undefined) garbleTag(station, garble);
    return jsonResponse(readerAt(station));
  });
