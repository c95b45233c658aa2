import { isDeepStrictEqual } from 'node:util';
import { badCells } from '../kernel/imports/report.ts';
import type { ImportedTable } from '../kernel/imports/import-table.ts';
import { putPlace, readPlace } from './partners-places.ts';
import { Place } from './schemas.ts';

/** A table of places; a site that is not known yet is made. */
export const placeTable: ImportedTable = {
  columns: [
    { key: 'code', says: 'code', required: true, also: ['place', 'place code'] },
    { key: 'name', says: 'name', required: true },
    { key: 'site', says: 'site', required: true },
    { key: 'kind', says: 'kind' }
  ],
  key: 'code',
  rows: 'one',
  keep: async (tx, code, [row]) => {
    const { name, site, kind } = row!.cells;
    const old = await readPlace(tx, code);
    const wanted = Place.safeParse({ name, site, ...(kind ? { kind: kind.toLowerCase() } : {}) });
    if (!wanted.success) throw badCells(wanted.error.issues);
    const { place, created } = await putPlace(tx, code, wanted.data);
    if (created) return 'new';
    return isDeepStrictEqual(place, old) ? 'same' : 'changed';
  }
};
