import { groupBy } from '../../core/group-by.ts';
import { sayOrigin, type OriginEnd } from '../../core/trace/traced.ts';
import type { Db } from '../kernel/db/client.ts';
import { mapInStretches } from '../kernel/let-others-in.ts';
import { readNames } from '../catalogue/read-catalogue.ts';
import type { MarkRecord } from '../../core/ledger/mark-record.ts';
import type { TraceDrawing } from '../../core/trace/trace-answer.ts';

const COLUMNS = [
  ['level', 'level'],
  ['product', 'product'],
  ['name', 'name'],
  ['kind', 'kind'],
  ['number', 'number'],
  ['lot', 'lot'],
  ['theirs', 'supplier number'],
  ['expires', 'expires'],
  ['state', 'state'],
  ['onHand', 'on hand'],
  ['unit', 'unit'],
  ['content', 'content'],
  ['customers', 'customers'],
  ['here', 'here'],
  ['scrapped', 'scrapped'],
  ['suppliers', 'suppliers'],
  ['origins', 'other origin'],
  ['cleared', 'cleared by time']
] as const;
const NOTHING: Record<string, string> = Object.fromEntries(COLUMNS.map(([key]) => [key, '']));

/**
 * A trace as a table: a row for each mark, with where it is and came from; behind them what time
 * cleared, said so.
 */
export async function traceTable(
  db: Db,
  trace: TraceDrawing
): Promise<{ columns: { key: string; says: string }[]; rows: Record<string, string>[] }> {
  const { products, partners } = await readNames(db);
  const of = <T extends { mark: number }>(rows: readonly T[]) => {
    const map = groupBy(rows, (row) => row.mark);
    return (mark: number) => map.get(mark) ?? [];
  };
  const customers = of(trace.ends.customers),
    here = of(trace.ends.onHand),
    scrapped = of(trace.ends.scrapped),
    suppliers = of(trace.ends.suppliers),
    origins = of(trace.ends.origins),
    before = of(trace.cleared.customers);
  const said = (rows: readonly { partner: string; document: string; quantity: string }[]) =>
    rows
      .map((row) => `${partners[row.partner] ?? row.partner}, ${row.document}: ${row.quantity}`)
      .join('; ');
  const found = await mapInStretches(trace.marks, reached),
    gone = await mapInStretches(trace.cleared.marks, cleared);
  return { columns: COLUMNS.map(([key, says]) => ({ key, says })), rows: [...found, ...gone] };

  function reached(mark: TraceDrawing['marks'][number]): Record<string, string> {
    return {
      ...named(mark),
      level: String(mark.level),
      content: mark.content ?? '',
      customers: said(customers(mark.id)),
      here: here(mark.id)
        .map((row) => `${row.place}: ${row.quantity}`)
        .join('; '),
      scrapped: scrapped(mark.id)
        .map((row) => `${row.document}: ${row.quantity}`)
        .join('; '),
      suppliers: said(suppliers(mark.id)),
      origins: saidOrigins(origins(mark.id)),
      cleared: said(before(mark.id))
    };
  }

  function cleared(mark: MarkRecord): Record<string, string> {
    return { ...named(mark), cleared: said(before(mark.id)) || 'yes' };
  }

  function named(mark: MarkRecord): Record<string, string> {
    return {
      ...NOTHING,
      product: mark.product,
      name: products[mark.product]?.name ?? '',
      kind: mark.kind,
      number: mark.number ?? '',
      lot: mark.lot ?? '',
      theirs: mark.supplierNumber ?? '',
      expires: mark.expires ?? '',
      state: mark.state,
      onHand: mark.onHand,
      unit: products[mark.product]?.unit ?? ''
    };
  }
}

const saidOrigins = (rows: readonly OriginEnd[]): string =>
  rows.map((row) => `${sayOrigin(row.kind)}, ${row.document}: ${row.quantity}`).join('; ');
