import { isDeepStrictEqual } from 'node:util';
import { codeKey } from '../../core/ledger/snapshot.ts';
import type { Actor } from '../kernel/actor.ts';
import { badCells } from '../kernel/imports/report.ts';
import {
  orNull,
  partsOf,
  saysYes,
  type ImportedTable,
  type Kept
} from '../kernel/imports/import-table.ts';
import type { TableRow } from '../kernel/tables/read-table.ts';
import { Spec } from './schemas.ts';
import { putSpec, readSpecs, specOf } from './specs.ts';

/** A table of specs: a row for each characteristic; a customer’s own limits name the customer. */
export const specTable = (actor: Actor): ImportedTable => ({
  columns: [
    { key: 'product', says: 'product', required: true, also: ['product code'] },
    { key: 'customer', says: 'customer' },
    { key: 'name', says: 'characteristic', required: true, also: ['name'] },
    { key: 'kind', says: 'kind' },
    { key: 'unit', says: 'unit' },
    { key: 'least', says: 'least', also: ['min', 'minimum'] },
    { key: 'most', says: 'most', also: ['max', 'maximum'] },
    { key: 'choices', says: 'choices' },
    { key: 'good', says: 'good answers', also: ['good'] },
    { key: 'required', says: 'required' },
    { key: 'holdOnFail', says: 'hold on fail' },
    { key: 'retestDays', says: 'retest days' },
    { key: 'sampling', says: 'sampling' }
  ],
  key: 'product',
  rows: 'many',
  keep: async (tx, product, rows) => {
    const known = await readSpecs(tx, [product]);
    const verdicts = new Set<Kept>();
    for (const [customer, of] of byCustomer(rows)) {
      const wanted = Spec.safeParse(specIn(of));
      if (!wanted.success) throw badCells(wanted.error.issues);
      const old = specOf(known, product, customer);
      if (old && isDeepStrictEqual(old.spec, wanted.data)) continue;
      await putSpec(tx, actor, product, customer, wanted.data);
      verdicts.add(old ? 'changed' : 'new');
    }
    if (verdicts.size === 0) return 'same';
    return verdicts.has('changed') ? 'changed' : 'new';
  }
});

function byCustomer(rows: readonly TableRow[]): [string | null, TableRow[]][] {
  const of = new Map<string, [string | null, TableRow[]]>();
  for (const row of rows) {
    const customer = orNull(row.cells.customer);
    const key = codeKey(customer ?? '');
    const there = of.get(key);
    if (there) there[1].push(row);
    else of.set(key, [customer, [row]]);
  }
  return [...of.values()];
}

/** What counts for all of a spec stands in the first of its rows that says it. */
function specIn(rows: readonly TableRow[]): Record<string, unknown> {
  const first = (key: string) => rows.map(({ cells }) => cells[key]).find((cell) => cell);
  const retestDays = first('retestDays');
  return {
    limits: rows.map(({ cells }) => ({
      name: cells.name,
      kind: (cells.kind || 'number').toLowerCase(),
      unit: cells.unit ?? '',
      least: orNull(cells.least),
      most: orNull(cells.most),
      good: partsOf(cells.good),
      choices: partsOf(cells.choices),
      required: saysYes(cells.required || undefined, true)
    })),
    holdOnFail: saysYes(first('holdOnFail'), false),
    retestDays: retestDays ? Number(retestDays) : null,
    sampling: first('sampling') ?? ''
  };
}
