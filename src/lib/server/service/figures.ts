import {
  fieldMonths,
  monthsSince,
  repeatsOf,
  turnaroundOf,
  type FieldMonth,
  type ServedJob,
  type Sold,
  type Turnaround
} from '../../core/service/field-figures.ts';
import type { FaultGroup } from '../../core/service/fault-group.ts';
import { HOME_ZONE } from '../../core/calendar/day.ts';
import { numberKey } from '../../core/numbers/number.ts';
import { groupBy } from '../../core/group-by.ts';
import type { Db, Sql } from '../kernel/db/client.ts';
import { keptAnswer, type Kept } from '../kernel/kept-answer.ts';

/** What figures are asked of. */
export interface FiguresAsked {
  product?: string | undefined;
  /** Of jobs taken in from and until these days. */
  from?: string | undefined;
  to?: string | undefined;
}

export interface ServiceFigures {
  turnaround: Turnaround;
  jobs: number;
  repeats: { number: string; serial: string }[];
  faults: FaultGroup[];
  products: FaultGroup[];
  lots: FaultGroup[];
  suppliers: FaultGroup[];
  /** By months since dispatch. */
  field: FieldMonth[];
}

interface JobRow extends ServedJob {
  number: string;
  serial: string;
  product: string;
  fault: string | null;
  sold: string | null;
}

/** Most groups of one kind that are listed, the largest first. */
const MOST_GROUPS = 12;

/** The same, kept where working it out takes long. */
export const keptFigures = (
  sql: Sql,
  asked: FiguresAsked,
  today: string
): Promise<Kept<ServiceFigures>> => {
  const name = `service figures ${JSON.stringify([asked.product, asked.from, asked.to])}`;
  return keptAnswer(sql, name, () => readFigures(sql, asked, today));
};

/** Turnaround, repeats, and what fails: by fault, product, the lots and suppliers in it, and age. */
export async function readFigures(
  db: Db,
  asked: FiguresAsked,
  today: string
): Promise<ServiceFigures> {
  const jobs = await readJobs(db, asked);
  const [parts, sold] = await Promise.all([readParts(db, jobs), readSold(db, asked.product)]);
  const ages = jobs.flatMap(({ sold: day, takenIn }) =>
    day === null ? [] : [monthsSince(day, takenIn)]
  );
  const lots = parts.filter((part) => part.lot !== null);
  const bought = parts.filter((part) => part.supplier !== null);
  return {
    turnaround: turnaroundOf(jobs),
    jobs: jobs.length,
    repeats: repeatsOf(jobs).map(({ number, serial }) => ({ number, serial })),
    faults: grouped(jobs, (job) => job.fault ?? 'not said'),
    products: grouped(jobs, (job) => job.product),
    lots: grouped(lots, (part) => part.lot!),
    suppliers: grouped(bought, (part) => part.supplier!),
    field: fieldMonths(sold, ages, today)
  };
}

function grouped<Row extends { serial: string }>(
  rows: readonly Row[],
  by: (row: Row) => string
): FaultGroup[] {
  return [...groupBy(rows, by)]
    .map(([says, of]) => {
      const serials = [...new Set(of.map((row) => row.serial))];
      return { says, jobs: of.length, serials };
    })
    .sort((a, b) => b.jobs - a.jobs || a.says.localeCompare(b.says))
    .slice(0, MOST_GROUPS);
}

const dayIn = (db: Db, instant: ReturnType<Db>) => db`(${instant} AT TIME ZONE ${HOME_ZONE})::date`;

function readJobs(db: Db, { product, from, to }: FiguresAsked): Promise<JobRow[]> {
  return db<JobRow[]>`
    SELECT j.number, j.serial, p.code AS product, f.name AS fault, j.mark_id AS unit,
      ${dayIn(db, db`j.taken_in_at`)} AS "takenIn", ${dayIn(db, db`j.left_at`)} AS left,
      (
        SELECT max(e.happened_at)::date
        FROM sold s
          JOIN event e ON e.id = s.event_id
        WHERE s.mark_id = j.mark_id
          AND e.happened_at < j.taken_in_at
          AND NOT EXISTS (SELECT FROM service_event x WHERE x.event_id = e.id)
      ) AS sold
    FROM service_job j
      JOIN product p ON p.id = j.product_id
      LEFT JOIN service_fault f ON f.code = j.fault_code
    WHERE j.taken_in_at IS NOT NULL
      ${product ? db`AND upper(p.code) = ${numberKey(product)}` : db``}
      ${from ? db`AND ${dayIn(db, db`j.taken_in_at`)} >= ${from}` : db``}
      ${to ? db`AND ${dayIn(db, db`j.taken_in_at`)} <= ${to}` : db``}
    ORDER BY j.id
  `;
}

interface PartRow {
  serial: string;
  lot: string | null;
  supplier: string | null;
}

/** What came out of the units on their jobs: by the lot or delivery of the part, and its supplier. */
async function readParts(db: Db, jobs: readonly JobRow[]): Promise<PartRow[]> {
  return db<PartRow[]>`
    SELECT j.serial,
      CASE
        WHEN l.number IS NOT NULL THEN p.code || ' ' || l.number
        WHEN r.document IS NOT NULL THEN p.code || ' of ' || r.document
      END AS lot,
      r.name AS supplier
    FROM service_job j
      JOIN service_event x ON x.job_id = j.id
      JOIN removal v ON v.event_id = x.event_id
      JOIN mark m ON m.id = v.component_id
      JOIN product p ON p.id = m.product_id AND NOT p.made
      LEFT JOIN mark l ON l.id = m.lot_id
      LEFT JOIN LATERAL (
        SELECT e.document, t.name
        FROM movement w
          JOIN event e ON e.id = w.event_id AND e.kind = 'receive'
          JOIN partner t ON t.id = e.partner_id
        WHERE w.mark_id IN (m.id, l.id)
        ORDER BY e.id
        LIMIT 1
      ) r ON true
    WHERE j.number = ANY(${jobs.map((job) => job.number)})
  `;
}

/** Units of a product, or of all that were ever in service, by the day they left. */
async function readSold(db: Db, product: string | undefined): Promise<Sold[]> {
  return db<Sold[]>`
    SELECT e.happened_at::date AS day, count(*)::int AS count
    FROM sold s
      JOIN mark m ON m.id = s.mark_id AND m.kind = 'serial'
      JOIN product p ON p.id = m.product_id
      JOIN event e ON e.id = s.event_id
    WHERE NOT EXISTS (SELECT FROM service_event x WHERE x.event_id = e.id)
      AND ${
        product
          ? db`upper(p.code) = ${numberKey(product)}`
          : db`p.id IN (SELECT product_id FROM service_job WHERE taken_in_at IS NOT NULL)`
      }
    GROUP BY 1
  `;
}
