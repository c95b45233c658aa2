import type { PageServerLoad } from './$types';
import { daysLater } from '$lib/core/calendar/day.ts';
import { listPartners, listPlaces, readNames } from '$lib/server/catalogue/read-catalogue.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { lastPlace } from '$lib/server/service/list-jobs.ts';
import { listFaults } from '$lib/server/service/settings.ts';

export const load: PageServerLoad = async ({ parent, url }) => {
  const [{ today }, partners, places, { products }, faults, latest] = await Promise.all([
    parent(),
    listPartners(db()),
    listPlaces(db()),
    readNames(db()),
    listFaults(db()),
    lastPlace(db())
  ]);
  return {
    serial: url.searchParams.get('serial') ?? '',
    promised: daysLater(today, 14),
    /** Where the last one was taken in: the next comes there too. */
    place: latest ?? places[0]?.code ?? '',
    customers: partners.filter((one) => one.customer).map(({ code, name }) => ({ code, name })),
    places: places.map(({ code, name, siteName }) => ({ code, name: `${siteName}, ${name}` })),
    products: Object.entries(products)
      .map(([code, { name, marking }]) => ({ code, name, marking }))
      .filter((one) => one.marking.startsWith('serial'))
      .sort((a, b) => a.code.localeCompare(b.code)),
    faults
  };
};
