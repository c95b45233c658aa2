import { expiryOf } from '../kernel/db/what-counts.ts';
import type { LabelMark, LabelSize, LabelSymbol } from '../../core/labels/label.ts';
import { sayFacts, type FactValues } from '../../core/catalogue/facts.ts';
import type { Actor } from '../kernel/actor.ts';
import { Problem } from '../kernel/problem.ts';
import type { Db, Sql } from '../kernel/db/client.ts';
import { judgeLabels, labelsPdf } from './papers/labels.ts';

export interface LabelRequest {
  marks: number[];
  symbol: LabelSymbol;
  size: LabelSize;
  copies: number;
  target: 'pdf' | 'printer';
}
export interface LabelJob {
  id: number;
  printedAt: string;
  who: string;
  target: 'pdf' | 'printer';
  symbol: LabelSymbol;
  size: LabelSize;
  copies: number;
  labels: (LabelMark & { /** How often it was printed before this job. */ before: number })[];
}

/** Most labels of one job; more are printed in parts. */
export const MOST_LABELS = 2000;
/** Most marks of an event whose labels are printed, part by part. */
const MOST_MARKS = 50_000;

/**
 * The lots and serials an event brought, in the order of their numbers: what it is likely to want
 * labels for.
 */
export async function marksToLabel(db: Db, event: number): Promise<number[]> {
  const rows = await db<{ id: number }[]>`
    SELECT DISTINCT m.id, m.number_key
    FROM movement v
      JOIN mark m ON m.id = v.mark_id
    WHERE v.event_id = ${event} AND v.quantity > 0 AND m.kind <> 'bulk'
    ORDER BY m.number_key
    LIMIT ${MOST_MARKS}
  `;
  return rows.map((row) => row.id);
}

/** How many of these marks have been printed before. */
export async function countPrinted(db: Db, ids: readonly number[]): Promise<number> {
  const [row] = await db<[{ count: number }]>`
    SELECT count(DISTINCT mark_id)::int AS count
    FROM label_print
    WHERE mark_id = ANY(${ids as number[]})
  `;
  return row.count;
}

/**
 * What the labels of these marks tell, in the order of the ids; what has no number has no label.
 */
export async function readLabelMarks(db: Db, ids: readonly number[]): Promise<LabelJob['labels']> {
  const rows = await db<(Omit<LabelJob['labels'][number], 'facts'> & { facts: FactValues })[]>`
    SELECT m.id, m.kind, m.number, l.number AS lot, p.code AS product, p.name, p.gtin,
      ${expiryOf(db)} AS expires, m.supplier_number AS "supplierNumber",
      m.facts, (SELECT count(*)::int FROM label_print x WHERE x.mark_id = m.id) AS before
    FROM unnest(${ids as number[]}::bigint[]) WITH ORDINALITY AS w (id, at)
      JOIN mark m ON m.id = w.id
      JOIN product p ON p.id = m.product_id
      LEFT JOIN mark l ON l.id = m.lot_id
    WHERE m.kind <> 'bulk'
    ORDER BY w.at
  `;
  return rows.map((row) => ({ ...row, facts: sayFacts(row.facts) }));
}

/**
 * Prints labels: to a PDF, or to the label printer, whose stand-in keeps every job in its spool to
 * be looked at. What was printed is kept as it was, so that a later amendment does not change it; a
 * mark printed again is known as a reprint.
 * @throws Problem 422 where there is nothing to print or a scanner could not read it
 */
export async function printLabels(
  sql: Sql,
  actor: Actor,
  request: LabelRequest
): Promise<{
  job: number;
  labels: number;
  reprints: number;
  plain: { number: string; why: string }[];
}> {
  const ids = [...new Set(request.marks)];
  if (ids.length > MOST_LABELS)
    throw refused(
      `${ids.length} labels were asked for; ${MOST_LABELS} are the most of one job. Print them in parts.`
    );
  const labels = await readLabelMarks(sql, ids);
  if (labels.length === 0)
    throw refused('None of these marks has a number to print. Goods without number have no label.');
  const judged = await judgeLabels(labels, request.symbol, request.size);
  const bad = judged.findIndex((one) => one.unreadable !== null);
  if (bad >= 0)
    throw refused(
      `The label of ${labels[bad]!.number} could not be read at ${request.size} mm: ${judged[bad]!.unreadable}. Choose a larger size or another symbol.`
    );
  return {
    job: await keepJob(sql, actor, request, labels),
    labels: labels.length,
    reprints: labels.filter((label) => label.before > 0).length,
    plain: labels.flatMap(({ number }, at) => {
      const why = judged[at]!.plain;
      return why === null ? [] : [{ number, why }];
    })
  };
}

/** Keeps what was printed, as it was. @returns the job's id */
async function keepJob(
  sql: Sql,
  actor: Actor,
  { target, symbol, size, copies }: LabelRequest,
  labels: LabelJob['labels']
): Promise<number> {
  return (await sql.begin(async (tx) => {
    const [job] = await tx<[{ id: number }]>`
      INSERT INTO label_job (printed_by, target, symbol, size, copies, labels)
      VALUES (
        ${actor.personId}, ${target}, ${symbol}, ${size}, ${copies}, ${tx.json(labels as never)}
      )
      RETURNING id
    `;
    await tx`
      INSERT INTO label_print (job_id, mark_id)
      SELECT ${job.id}::bigint, *
      FROM unnest(${labels.map((label) => label.id)}::bigint[])
    `;
    return job.id;
  })) as number;
}

const refused = (message: string): Problem =>
  new Problem(422, 'The labels cannot be printed', [
    { code: 'request.malformed', path: '', message }
  ]);

/** The latest jobs, without their labels but for the first few. */
export async function listLabelJobs(
  db: Db,
  limit = 40
): Promise<(Omit<LabelJob, 'labels'> & { count: number; reprints: number; first: string[] })[]> {
  const rows = await db<
    (Omit<LabelJob, 'labels' | 'printedAt'> & {
      at: Date;
      count: number;
      reprints: number;
      first: string[];
    })[]
  >`
    SELECT j.id, j.printed_at AS at, n.name AS who, j.target, j.symbol, j.size, j.copies,
      jsonb_array_length(j.labels) AS count,
      (
        SELECT count(*)::int FROM jsonb_array_elements(j.labels) l WHERE (l ->> 'before')::int > 0
      ) AS reprints,
      ARRAY(
        SELECT l ->> 'number'
        FROM jsonb_array_elements(j.labels) WITH ORDINALITY AS x (l, at)
        ORDER BY at
        LIMIT 3
      ) AS first
    FROM label_job j
      JOIN person n ON n.id = j.printed_by
    ORDER BY j.id DESC
    LIMIT ${limit}
  `;
  return rows.map(({ at, ...row }) => ({ ...row, printedAt: at.toISOString() }));
}

export async function readLabelJob(db: Db, id: number): Promise<LabelJob | null> {
  const [row] = await db<(Omit<LabelJob, 'printedAt'> & { at: Date })[]>`
    SELECT j.id, j.printed_at AS at, n.name AS who, j.target, j.symbol, j.size, j.copies, j.labels
    FROM label_job j
      JOIN person n ON n.id = j.printed_by
    WHERE j.id = ${id}
  `;
  if (!row) return null;
  const { at, ...job } = row;
  return { ...job, printedAt: at.toISOString() };
}

export const jobPdf = (job: LabelJob): Promise<Uint8Array> =>
  labelsPdf(job.labels, job.symbol, job.size, job.copies);
