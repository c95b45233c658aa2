import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readQuery } from '$lib/server/http/read-body.ts';
import { today } from '$lib/server/kernel/clock.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { findUnits, readUnit } from '$lib/server/service/read-job.ts';
import { ServiceUnitQuery } from '$lib/server/service/schemas.ts';

/** What is known of the units a serial may mean. */
export const GET: RequestHandler = ({ url }) =>
  answering(async () => {
    const { serial, product } = readQuery(url, ServiceUnitQuery);
    const units = await findUnits(db(), serial, product);
    const told = units.map(async (unit) => ({
      ...unit,
      ...(await readUnit(db(), unit.mark, today()))
    }));
    return jsonResponse({ units: await Promise.all(told) });
  });
