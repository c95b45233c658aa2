import type { z } from 'zod';
import { numberKey, readNumber, shown } from '../../core/numbers/number.ts';
import { warrantyText } from '../../core/service/warranty.ts';
import type { JobState } from '../../core/service/job-state.ts';
import type { Actor } from '../kernel/actor.ts';
import { today } from '../kernel/clock.ts';
import { within, type Sql, type Tx } from '../kernel/db/client.ts';
import { Problem, type FormError } from '../kernel/problem.ts';
import { requireRight } from '../kernel/rights.ts';
import { addStep, readJobRow, refused, type JobRow } from './job-row.ts';
import { tellTurn } from './messages.ts';
import type { NewServiceJob } from './schemas.ts';
import { takeIn } from './take-in.ts';
import { newTracking } from './tracking.ts';
import { readWarranties, type Warranties } from './warranties.ts';

type Given = z.infer<typeof NewServiceJob>;

/** A job as its opening is answered. */
export interface OpenedJob {
  job: {
    number: string;
    tracking: string;
    state: JobState;
    warranty: { ours: string; supplier?: string };
  };
}

/**
 * Opens a job on a unit: taken in at a place now, or awaited. Sent again under its key it is the
 * same job.
 * @throws Problem 403, 409 where the unit has an open job, 422 with everything that is wrong
 */
export async function openJob(
  sql: Sql,
  actor: Actor,
  key: string,
  given: Given
): Promise<{ opened: OpenedJob; fresh: boolean }> {
  requireRight(actor, 'service');
  return within(sql, async (tx) => {
    await tx`SELECT pg_advisory_xact_lock(hashtextextended(${`service ${actor.personId} ${key}`}, 0))`;
    const [before] = await tx<{ number: string }[]>`
      SELECT number FROM service_job WHERE opened_by = ${actor.personId} AND key = ${key}
    `;
    if (before) {
      const opened = await readJobRow(tx, before.number);
      return { opened: answerOf(opened, await warrantiesOf(tx, opened)), fresh: false };
    }
    const ids = await readNamed(tx, given);
    const number = await insertJob(tx, actor, key, given, ids);
    const job = await readJobRow(tx, number);
    await addStep(tx, actor, job.id, { kind: 'state', state: 'waiting for unit' });
    if (given.place !== undefined)
      await takeIn(tx, actor, `service in ${key}`, job, given.place, given.unit.lot);
    else await tellTurn(tx, job, 'waiting for unit');
    const opened = await readJobRow(tx, number);
    const warranties = await warrantiesOf(tx, opened);
    await decideWarranty(tx, opened, warranties, given);
    return { opened: answerOf(opened, warranties), fresh: true };
  });
}

interface Named {
  product: number;
  serial: string;
  customer: number;
}

async function readNamed(tx: Tx, given: Given): Promise<Named> {
  const errors: FormError[] = [];
  const [product] = await tx<{ id: number; code: string }[]>`
    SELECT id, code FROM product WHERE upper(code) = ${numberKey(given.unit.product)}
  `;
  const [customer] = await tx<{ id: number }[]>`
    SELECT id FROM partner WHERE upper(code) = ${numberKey(given.customer)}
  `;
  const reading = readNumber(given.unit.serial);
  const tell = (code: string, path: string, number: string, message: string): void => {
    errors.push({ code, path, number: shown(number), message });
  };
  if (!product)
    tell(
      'product.unknown',
      'unit.product',
      given.unit.product,
      `There is no product ${shown(given.unit.product)}. Check the code, or set it up first.`
    );
  if (!customer)
    tell(
      'partner.unknown',
      'customer',
      given.customer,
      `There is no partner ${shown(given.customer)}. Check the code, or set them up first.`
    );
  if (!reading.ok)
    tell(
      'number.malformed',
      'unit.serial',
      given.unit.serial,
      `Serial ${shown(given.unit.serial)} cannot be used: ${reading.why}.`
    );
  await checkFaultCode(tx, given.faultCode, tell);
  if (!product || !customer || !reading.ok || errors.length > 0)
    throw new Problem(422, 'The job cannot be opened like this', errors);
  await mustBeTheOnlyOne(tx, product, reading.number);
  return { product: product.id, serial: reading.number, customer: customer.id };
}

async function checkFaultCode(
  tx: Tx,
  code: string | null | undefined,
  tell: (code: string, path: string, number: string, message: string) => void
): Promise<void> {
  if (!code) return;
  const [fault] = await tx`SELECT FROM service_fault WHERE upper(code) = ${numberKey(code)}`;
  if (fault) return;
  const message = `There is no fault ${shown(code)} in the list. Choose one, or add it in Setup.`;
  tell('fault.unknown', 'faultCode', code, message);
}

/** Two who open a job of one unit at once: the second waits and is told of the first. */
async function mustBeTheOnlyOne(
  tx: Tx,
  product: { id: number; code: string },
  serial: string
): Promise<void> {
  const unit = `unit in service ${product.id} ${numberKey(serial)}`;
  await tx`SELECT pg_advisory_xact_lock(hashtextextended(${unit}, 0))`;
  const [open] = await tx<{ number: string; state: string }[]>`
    SELECT number, state
    FROM service_job
    WHERE product_id = ${product.id} AND upper(serial) = ${numberKey(serial)} AND ended_at IS NULL
  `;
  if (!open) return;
  const message = `${product.code} ${serial} has an open job, ${open.number} (${open.state}). Go on with that one.`;
  throw refused('unit', message, { code: 'job.open', status: 409, number: open.number });
}

async function insertJob(
  tx: Tx,
  actor: Actor,
  key: string,
  given: Given,
  ids: Named
): Promise<string> {
  const [next] = await tx<[{ n: number }]>`SELECT nextval('service_job_count') AS n`;
  const number = `SJ-${String(next.n).padStart(4, '0')}`;
  const row = {
    ...{ number, tracking: newTracking(), key, state: 'waiting for unit' },
    ...{ product_id: ids.product, serial: ids.serial, customer_id: ids.customer },
    mark_id: await findUnit(tx, ids),
    fault: given.fault,
    fault_code: given.faultCode ?? null,
    condition: given.condition,
    accessories: given.accessories,
    contact_name: given.contact?.name ?? '',
    contact_email: given.contact?.email ?? '',
    contact_phone: given.contact?.phone ?? '',
    promised_on: given.promised ?? null,
    charged: given.charged ?? null,
    opened_by: actor.personId
  };
  await tx`INSERT INTO service_job ${tx(row)}`;
  return number;
}

async function findUnit(tx: Tx, { product, serial }: Named): Promise<number | null> {
  const [mark] = await tx<{ id: number }[]>`
    SELECT id
    FROM mark
    WHERE product_id = ${product} AND kind = 'serial' AND number_key = ${numberKey(serial)}
  `;
  return mark?.id ?? null;
}

async function warrantiesOf(tx: Tx, { mark }: JobRow): Promise<Warranties | null> {
  return mark === null ? null : ((await readWarranties(tx, [mark], today())).get(mark) ?? null);
}

/** What is decided of warranty stays; where nothing is said, it is what ours says. */
async function decideWarranty(
  tx: Tx,
  { id }: JobRow,
  warranties: Warranties | null,
  { underWarranty }: Given
): Promise<void> {
  const under = underWarranty ?? warranties?.ours.state === 'running';
  await tx`UPDATE service_job SET under_warranty = ${under} WHERE id = ${id}`;
}

function answerOf({ number, tracking, state }: JobRow, warranties: Warranties | null): OpenedJob {
  const ours = warranties ? warrantyText(warranties.ours) : 'none';
  const supplier = warranties?.supplier ? { supplier: warrantyText(warranties.supplier) } : {};
  return { job: { number, tracking, state, warranty: { ours, ...supplier } } };
}
