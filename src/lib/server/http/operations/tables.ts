import { IMPORTS } from '../../imports.ts';
import { ExportQuery, ImportQuery, TemplateQuery } from '../../exchange/schemas.ts';
import { anything, type Operation } from './operation.ts';

/** Records from tables, and tables of records. */
export const TABLES_OPERATIONS: readonly Operation[] = [
  {
    method: 'post',
    path: '/imports/{kind}',
    summary: `Records from a CSV or XLSX file, the body (kind: ${Object.keys(IMPORTS).join(', ')}): a report row by row, and with mode=write the writing; opening stock is booked, an event for each day`,
    query: ImportQuery,
    answer: anything
  },
  {
    method: 'get',
    path: '/imports/{kind}',
    summary: 'An empty table of that kind with its headings, to be filled',
    query: TemplateQuery,
    answer: anything
  },
  {
    method: 'get',
    path: '/exports/{kind}',
    summary:
      'A table as CSV or XLSX (kind: products, bills, where product names one bill; record-sheet and ledger for a period or a lot or serial, the ledger with as=epcis as EPCIS 2.0)',
    query: ExportQuery,
    answer: anything
  }
];
