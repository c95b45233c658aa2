import { isDeepStrictEqual } from 'node:util';
import { badCells } from '../kernel/imports/report.ts';
import { languageNamed } from '../../core/papers/language.ts';
import { saysYes, type ImportedTable } from '../kernel/imports/import-table.ts';
import { putPartner, readPartner } from './partners-places.ts';
import { Partner } from './schemas.ts';

/** A table of partners. What a column says goes; a column left out leaves what is there. */
export const partnerTable: ImportedTable = {
  columns: [
    { key: 'code', says: 'code', required: true, also: ['partner', 'partner code'] },
    { key: 'name', says: 'name', required: true },
    { key: 'supplier', says: 'supplier', also: ['is supplier'] },
    { key: 'customer', says: 'customer', also: ['is customer'] },
    { key: 'gln', says: 'GLN' },
    { key: 'address', says: 'address' },
    { key: 'contact', says: 'contact' },
    { key: 'language', says: 'language' }
  ],
  key: 'code',
  rows: 'one',
  keep: async (tx, code, [row]) => {
    const { cells } = row!;
    const old = await readPartner(tx, code);
    const wanted = Partner.safeParse({
      name: cells.name,
      supplier: saysYes(cells.supplier, old?.supplier ?? false),
      customer: saysYes(cells.customer, old?.customer ?? false),
      gln: cells.gln === undefined ? (old?.gln ?? null) : cells.gln || null,
      ...(cells.address === undefined ? {} : { address: cells.address }),
      ...(cells.contact === undefined ? {} : { contact: cells.contact }),
      ...(cells.language ? { language: languageNamed(cells.language) } : {})
    });
    if (!wanted.success) throw badCells(wanted.error.issues);
    const { partner, created } = await putPartner(tx, code, wanted.data);
    if (created) return 'new';
    return isDeepStrictEqual(partner, old) ? 'same' : 'changed';
  }
};
