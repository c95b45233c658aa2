// Makes files of many rows and takes in large documents, one after the other, beside the thread that
// answers requests, with connections of its own (kernel/made-apart.ts).
import { parentPort } from 'node:worker_threads';
import { exportBills } from './catalogue/import-bills.ts';
import { exportProducts } from './catalogue/import-products.ts';
import { captureText } from './exchange/capture.ts';
import { epcisOfEvent } from './exchange/epcis-of-event.ts';
import { writeLedger } from './exchange/export-ledger.ts';
import { answerQuery } from './exchange/query.ts';
import { recordsFile } from './exchange/records/read-records.ts';
import { writeRecordSheet } from './exchange/record-sheet.ts';
import { eventsFile } from './exchange/write-events.ts';
import { connect, type Sql } from './kernel/db/client.ts';
import type { FileAsked, FileMade } from './kernel/made-apart.ts';
import { databaseProblem } from './kernel/database-problem.ts';
import { Problem } from './kernel/problem.ts';
import { unpackRows, type PackedRows } from './kernel/tables/packed-rows.ts';
import { writeTable, type Written } from './kernel/tables/write-table.ts';
import { valueChangesFile, valueFile } from './stock/costs/value-file.ts';
import { deskFile } from './stock/desk/desk-file.ts';

/** A table whose rows come packed: they were read where requests are answered. */
function writePacked(
  _: Sql,
  name: string,
  format: 'csv' | 'xlsx',
  columns: readonly { key: string; says: string }[],
  rows: PackedRows
): Promise<Written> {
  const keys = columns.map((one) => one.key);
  return writeTable(name, format, columns, unpackRows(keys, rows));
}

/** What makes files of many rows, and takes in large ones; asked for through files-apart.ts. */
export const FILES = {
  ledger: writeLedger,
  'record-sheet': writeRecordSheet,
  products: exportProducts,
  bills: exportBills,
  desk: deskFile,
  value: valueFile,
  'value-changes': valueChangesFile,
  'epcis-query': answerQuery,
  'epcis-event': epcisOfEvent,
  'epcis-events': eventsFile,
  records: recordsFile,
  table: writePacked,
  capture: captureText
};

/** What is asked for together, as rows and their sum. */
const CONNECTIONS = 2;

let sql: Sql | null = null;
function connections(): Sql {
  const url = process.env.EARMARK_APP_URL ?? process.env.DATABASE_URL ?? '';
  return (sql ??= connect(url, { max: CONNECTIONS, role: 'earmark_app' }));
}

async function made({ name, args }: FileAsked): Promise<FileMade> {
  const make = FILES[name as keyof typeof FILES] as (db: Sql, ...args: unknown[]) => unknown;
  try {
    return { answer: await make(connections(), ...args) };
  } catch (error) {
    // What the database says of what was asked is said here: its codes do not cross threads.
    const problem = error instanceof Problem ? error : databaseProblem(error);
    if (!problem) return { failed: (error as Error).stack ?? String(error) };
    const { status, title, errors, detail } = problem;
    return { refused: { status, title, errors, ...(detail === undefined ? {} : { detail }) } };
  }
}

/** Bytes go back without being copied, where they are a buffer of their own. */
function bytesOf(said: FileMade): ArrayBuffer[] {
  const body = 'answer' in said && (said.answer as { body?: unknown } | null)?.body;
  if (!(body instanceof Uint8Array) || body.byteLength !== body.buffer.byteLength) return [];
  return [body.buffer as ArrayBuffer];
}

parentPort!.on('message', async (asked: FileAsked) => {
  const said = await made(asked);
  parentPort!.postMessage(said, bytesOf(said));
});
