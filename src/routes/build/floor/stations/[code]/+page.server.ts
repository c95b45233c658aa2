import { error } from '@sveltejs/kit';
import type { PageServerLoad } from './$types';
import { mayDo } from '$lib/core/people/rights.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { readerAt } from '$lib/server/making/tag-reader.ts';
import { findStation, tagsOf } from '$lib/server/making/stations.ts';
import { readFloor } from '$lib/server/making/floor.ts';

/** Most units a station's page lists. */
const MOST = 200;

export const load: PageServerLoad = async ({ params, locals }) => {
  const station = await findStation(db(), params.code);
  if (!station) error(404, `There is no station ${params.code}.`);
  const { units, stations } = await readFloor(db(), station.route);
  const shown = units.slice(0, MOST);
  const tags = await tagsOf(db(), shown);
  return {
    station,
    stations: stations.map(({ code, name }) => ({ code, name })),
    reader: await readerAt(db(), station.code),
    mayFloor: mayDo(locals.actor!.roles, 'floor'),
    units: shown.map((unit) => ({
      number: unit.number,
      epc: tags.get(unit.id) ?? null,
      state: unit.state,
      at: stations.find((one) => one.id === unit.station)?.name ?? null
    }))
  };
};
