import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readBody, readQuery } from '$lib/server/http/read-body.ts';
import { TagReaderChange, TagReaderQuery } from '$lib/server/making/schemas.ts';
import { tagOfUnit } from '$lib/server/making/tag-of-unit.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import {
  garbleTag,
  placeTag,
  plugReader,
  readerAt,
  takeTag
} from '$lib/server/making/tag-reader.ts';

/** The simulated reader of a station. */
export const GET: RequestHandler = ({ url }) =>
  answering(async () => jsonResponse(await readerAt(db(), readQuery(url, TagReaderQuery).station)));

export const PUT: RequestHandler = ({ request }) =>
  answering(async () => {
    const { station, plugged, place, epc, take, garble } = await readBody(request, TagReaderChange);
    if (plugged !== undefined) await plugReader(db(), station, plugged);
    if (place !== undefined) await placeTag(db(), station, await tagOfUnit(db(), place));
    if (epc !== undefined) await placeTag(db(), station, epc);
    if (take !== undefined) await takeTag(db(), station, take);
    if (garble !== undefined) await garbleTag(db(), station, garble);
    return jsonResponse(await readerAt(db(), station));
  });
