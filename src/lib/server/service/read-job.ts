import type { JobState } from '../../core/service/job-state.ts';
import type { JobEvent, JobMessage, JobStep } from '../../core/service/job-history.ts';
import type { JobSummary } from '../../core/service/job-summary.ts';
import type { PartWarranty } from '../../core/service/part-warranty.ts';
import { numberKey } from '../../core/numbers/number.ts';
import type { Db } from '../kernel/db/client.ts';
import { readRecalled } from '../ledger/read-recalled.ts';
import { readSalesOf, type SaleRecord } from '../shipping/sales.ts';
import { readDeliveries } from './deliver.ts';
import { readJobRow } from './job-row.ts';
import { listJobsOf } from './list-jobs.ts';
import { sayTracking } from './tracking.ts';
import { readWarranties, type Warranties } from './warranties.ts';

/** A job as its own screen shows it. */
export interface JobRecord {
  number: string;
  tracking: string;
  state: JobState;
  product: string;
  productName: string;
  serial: string;
  /** The number the unit has now: another than it came in under where it was amended since. */
  serialNow: string;
  mark: number | null;
  markState: string | null;
  customer: string;
  customerName: string;
  place: string | null;
  fault: string;
  faultCode: string | null;
  faultName: string | null;
  condition: string;
  accessories: string;
  contact: { name: string; email: string; phone: string };
  promised: string | null;
  charged: boolean | null;
  underWarranty: boolean | null;
  openedAt: string;
  openedBy: string;
  takenInAt: string | null;
  endedAt: string | null;
  exchange: { mark: number; product: string; serial: string } | null;
}

/** What is known of a unit the moment it is named. */
export interface UnitHistory {
  /** The latest first. */
  sales: SaleRecord[];
  warranties: Warranties | null;
  recalled: boolean;
  /** Its other jobs, the latest first. */
  jobs: JobSummary[];
}

export interface WholeJob extends UnitHistory {
  job: JobRecord;
  steps: JobStep[];
  events: JobEvent[];
  photos: { id: number; at: string; by: string }[];
  messages: JobMessage[];
}

/** @throws Problem 404 */
export async function readJob(db: Db, number: string, today: string): Promise<WholeJob> {
  const { id, mark } = await readJobRow(db, number);
  const [job, steps, events, photos, messages, unit] = await Promise.all([
    readRecord(db, id),
    readSteps(db, id),
    readEvents(db, id),
    db<{ id: number; at: string; by: string }[]>`
      SELECT f.id, to_json(f.at) #>> '{}' AS at, n.name AS by
      FROM service_photo f
        JOIN person n ON n.id = f.by
      WHERE f.job_id = ${id}
      ORDER BY f.id
    `,
    readMessages(db, id),
    readUnit(db, mark, today)
  ]);
  const jobs = unit.jobs.filter((one) => one.number !== job.number);
  return { ...unit, jobs, job, steps, events, photos, messages };
}

async function readRecord(db: Db, id: number): Promise<JobRecord> {
  const [row] = await db<[JobRecord]>`
    SELECT j.number, j.tracking, j.state, p.code AS product, p.name AS "productName", j.serial,
      COALESCE(m.number, j.serial) AS "serialNow", j.mark_id AS mark, m.state AS "markState", t.code AS customer, t.name AS "customerName",
      c.code AS place, j.fault, j.fault_code AS "faultCode", f.name AS "faultName", j.condition,
      j.accessories,
      json_build_object(
        'name', j.contact_name, 'email', j.contact_email, 'phone', j.contact_phone
      ) AS contact,
      j.promised_on AS promised, j.charged, j.under_warranty AS "underWarranty",
      to_json(j.opened_at) #>> '{}' AS "openedAt", o.name AS "openedBy",
      to_json(j.taken_in_at) #>> '{}' AS "takenInAt", to_json(j.ended_at) #>> '{}' AS "endedAt",
      CASE
        WHEN x.id IS NOT NULL
          THEN json_build_object('mark', x.id, 'product', xp.code, 'serial', x.number)
      END AS exchange
    FROM service_job j
      JOIN product p ON p.id = j.product_id
      JOIN partner t ON t.id = j.customer_id
      JOIN person o ON o.id = j.opened_by
      LEFT JOIN mark m ON m.id = j.mark_id
      LEFT JOIN place c ON c.id = j.place_id
      LEFT JOIN service_fault f ON f.code = j.fault_code
      LEFT JOIN mark x ON x.id = j.exchange_mark
      LEFT JOIN product xp ON xp.id = x.product_id
    WHERE j.id = ${id}
  `;
  return { ...row, tracking: sayTracking(row.tracking) };
}

const readSteps = (db: Db, job: number): Promise<JobStep[]> => db<JobStep[]>`
  SELECT s.id, to_json(s.at) #>> '{}' AS at, n.name AS by, s.kind, s.state, s.note, s.minutes
  FROM service_step s
    JOIN person n ON n.id = s.by
  WHERE s.job_id = ${job}
  ORDER BY s.id
`;

const readEvents = (db: Db, job: number): Promise<JobEvent[]> => db<JobEvent[]>`
  SELECT e.id, e.kind, to_json(e.happened_at) #>> '{}' AS at, n.name AS who,
    EXISTS (SELECT FROM event b WHERE b.reverses_id = e.id) AS "takenBack"
  FROM service_event x
    JOIN event e ON e.id = x.event_id
    JOIN person n ON n.id = e.booked_by
  WHERE x.job_id = ${job}
  ORDER BY e.id
`;

async function readMessages(db: Db, job: number): Promise<JobMessage[]> {
  const [rows, deliveries] = await Promise.all([
    db<{ id: number; at: string; address: string; subject: string; body: string }[]>`
      SELECT id, to_json(at) #>> '{}' AS at, address, subject, body
      FROM service_message
      WHERE job_id = ${job}
      ORDER BY id
    `,
    readDeliveries(db, job)
  ]);
  return rows.map(({ id, ...row }) => ({
    ...row,
    ...(deliveries.get(id) ?? { sent: false, refused: null })
  }));
}

/** What is known of a unit: nothing of one nobody here knows. */
export async function readUnit(db: Db, mark: number | null, today: string): Promise<UnitHistory> {
  if (mark === null) return { sales: [], warranties: null, recalled: false, jobs: [] };
  const [sales, warranties, recalled, jobs] = await Promise.all([
    readSalesOf(db, mark),
    readWarranties(db, [mark], today),
    readRecalled(db, [mark]),
    listJobsOf(db, mark)
  ]);
  return { sales, warranties: warranties.get(mark) ?? null, recalled: recalled.has(mark), jobs };
}

/** Warranties and claims of parts, by their marks. */
export async function readPartWarranties(
  db: Db,
  marks: readonly number[],
  today: string
): Promise<Map<number, PartWarranty>> {
  const [warranties, claims] = await Promise.all([
    readWarranties(db, marks, today),
    db<{ mark: number; number: string; outcome: string | null }[]>`
      SELECT x.mark_id AS mark, c.number, x.outcome
      FROM claim_part x
        JOIN claim c ON c.id = x.claim_id
      WHERE x.mark_id = ANY(${marks as number[]})
    `
  ]);
  const claimOf = new Map(claims.map((row) => [row.mark, row]));
  return new Map(
    marks.map((mark) => [
      mark,
      {
        mark,
        supplier: warranties.get(mark)?.supplier ?? null,
        claim: claimOf.get(mark) ?? null
      }
    ])
  );
}

/** The unit a scan means: by its serial, of the product where it names one. */
export async function findUnits(
  db: Db,
  serial: string,
  product: string | undefined
): Promise<
  { mark: number; product: string; name: string; serial: string; place: string | null }[]
> {
  return db<
    { mark: number; product: string; name: string; serial: string; place: string | null }[]
  >`
    SELECT m.id AS mark, p.code AS product, p.name, m.number AS serial,
      (
        SELECT c.code
        FROM stock s
          JOIN place c ON c.id = s.place_id
        WHERE s.mark_id = m.id AND s.quantity > 0
        LIMIT 1
      ) AS place
    FROM mark m
      JOIN product p ON p.id = m.product_id
    WHERE m.kind = 'serial'
      AND m.number_key = ${numberKey(serial)}
      ${product === undefined ? db`` : db`AND upper(p.code) = ${numberKey(product)}`}
    ORDER BY p.code
    LIMIT 20
  `;
}
