import type { PageServerLoad } from './$types';
import { RECORD_KINDS, RECORDS } from '$lib/core/exchange/records.ts';
import { mayDo } from '$lib/core/people/rights.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { listPlaces } from '$lib/server/catalogue/read-catalogue.ts';
import { listStations } from '$lib/server/making/stations.ts';
import { recentMarks } from '$lib/server/stock/recent-marks.ts';
import { readHeld } from '$lib/server/stock/held.ts';

export const load: PageServerLoad = async ({ locals }) => {
  const stations = await listStations(db());
  const { roles } = locals.actor!;
  return {
    records: RECORD_KINDS.map((kind) => ({ kind, ...RECORDS[kind] }))
      .filter(({ right }) => mayDo(roles, right))
      .map(({ kind, title }) => ({ kind, title })),
    held: await readHeld(db()),
    recent: await recentMarks(db()),
    spots: [
      ...(await listPlaces(db())).map((one) => ({
        code: one.code,
        name: `${one.siteName}, ${one.name}`
      })),
      ...stations.map((one) => ({ code: one.code, name: `station ${one.name}` }))
    ]
  };
};
