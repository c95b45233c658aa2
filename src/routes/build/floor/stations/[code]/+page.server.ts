import { error } from '@sveltejs/kit';
import type { PageServerLoad } from './$types';
import { mayDo } from '$lib/core/people/rights.ts';
import { tagOf } from '$lib/server/making/station-read.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { readerAt } from '$lib/server/making/tag-reader.ts';
import { readFloor } from '$lib/server/making/floor.ts';

export const load: PageServerLoad = async ({ params, locals }) => {
  const [station] = await db()<{ code: string; name: string; route: string }[]>`
    SELECT s.code, s.name, r.code AS route
    FROM station s
      JOIN route r ON r.id = s.route_id
    WHERE upper(s.code) = upper(${params.code}) AND NOT s.gone
  `;
  if (!station) error(404, `There is no station ${params.code}.`);
  const { units, stations } = await readFloor(db(), station.route);
  const gtins = new Map((await db()<{ code: string; gtin: string | null }[]>`
    SELECT code, gtin
    FROM product
    WHERE code = ANY(${[...new Set(units.map((unit) => unit.product))]})
  `).map((row) => [row.code, row.gtin]));
  return {
    station, stations: stations.map(({ code, name }) => ({ code, name })), reader: readerAt(station.code), mayFloor: mayDo(locals.actor!.roles, 'floor'),
    units: units.slice(0, 200).map((unit) => ({ number: unit.number, epc: gtins.get(unit.product) ? tagOf(gtins.get(unit.product)!, unit.id) : null, state: unit.state, at: stations.find((one) => one.id === unit.station)?.name ?? null }))
  };
};
