import type { PageServerLoad } from './$types';
import { db } from '$lib/server/kernel/db/client.ts';
import { listPlaces, readNames } from '$lib/server/catalogue/read-catalogue.ts';
import { listStations } from '$lib/server/making/stations.ts';
import { recentMarks } from '$lib/server/stock/recent-marks.ts';
import { readHeld } from '$lib/server/stock/held.ts';

export const load: PageServerLoad = async () => {
  const stations = await listStations(db());
  return {
    held: await readHeld(db()),
    recent: await recentMarks(db()),
    spots: [
      ...(await listPlaces(db())).map((one) => ({
        code: one.code,
        name: `${one.siteName}, ${one.name}`
      })),
      ...stations.map((one) => ({ code: one.code, name: `station ${one.name}` }))
    ],
    ...(await readNames(db()))
  };
};
