import type { PageServerLoad } from './$types';
import { daysLater } from '$lib/core/calendar/day.ts';
import { listPlaces } from '$lib/server/catalogue/read-catalogue.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { lastPlace } from '$lib/server/service/list-jobs.ts';
import { listFaults } from '$lib/server/service/settings.ts';

export const load: PageServerLoad = async ({ parent, url }) => {
  const [{ today }, places, faults, latest] = await Promise.all([
    parent(),
    listPlaces(db()),
    listFaults(db()),
    lastPlace(db())
  ]);
  return {
    serial: url.searchParams.get('serial') ?? '',
    promised: daysLater(today, 14),
    /** Where the last one was taken in: the next comes there too. */
    place: latest ?? places[0]?.code ?? '',
    places: places.map(({ code, name, siteName }) => ({ code, name: `${siteName}, ${name}` })),
    faults
  };
};
