import { sayDay } from '../../core/calendar/say-day.ts';
import type { Db } from '../kernel/db/client.ts';
import { readTracking } from '../service/tracking.ts';
import type { Hit } from './hit.ts';

/**
 * What a number means that is no mark's and no order's: a part delivery by its own number
 * (`SO-3317/2`), a certificate, a service job or a claim, or goods that other firms told of.
 * @param key the number, folded
 */
export async function findPapers(db: Db, key: string): Promise<Hit[]> {
  const [deliveries, certificates, service, outside] = await Promise.all([
    findDeliveries(db, key),
    findCertificates(db, key),
    findService(db, key),
    findOutside(db, key)
  ]);
  return [...deliveries, ...certificates, ...service, ...outside];
}

async function findDeliveries(db: Db, key: string): Promise<Hit[]> {
  const order = /^(.+)\/\d+$/.exec(key)?.[1];
  if (order === undefined) return [];
  const rows = await db<{ id: number; kind: string; paper: string; day: string }[]>`
    SELECT e.id, e.kind, paper_number(e.id) AS paper, e.happened_at::date AS day
    FROM trade_order o
      JOIN event e ON e.order_id = o.id AND e.kind IN ('ship', 'receive')
    WHERE upper(o.number) = ${order} AND upper(paper_number(e.id)) = ${key}
  `;
  return rows.map(({ id, kind, paper, day }) => ({
    type: kind === 'ship' ? 'delivery' : 'receipt',
    title: paper,
    under: `${kind === 'ship' ? 'shipped' : 'received'} ${sayDay(day)}`,
    href: `/events/${id}`,
    exact: true
  }));
}

async function findCertificates(db: Db, key: string): Promise<Hit[]> {
  const number = /^(?:CERTIFICATE[ -]?)?(\d{1,15})$/.exec(key)?.[1];
  if (number === undefined) return [];
  const rows = await db<{ number: number; day: string; marks: number }[]>`
    SELECT c.number, c.issued_at::date AS day,
      (SELECT count(*)::int FROM certificate_mark m WHERE m.number = c.number) AS marks
    FROM certificate c
    WHERE c.number = ${number}
  `;
  return rows.map((row) => ({
    type: 'certificate',
    title: `Certificate ${row.number}`,
    under: `${row.marks} ${row.marks === 1 ? 'lot or serial' : 'lots and serials'}, issued ${sayDay(row.day)}`,
    href: `/api/v1/certificates/${row.number}`,
    exact: true
  }));
}

/** A job by its number or its tracking number, a claim by ours or the supplier’s. */
async function findService(db: Db, key: string): Promise<Hit[]> {
  const [jobs, claims] = await Promise.all([
    db<{ number: string; product: string; serial: string; state: string }[]>`
      SELECT j.number, p.code AS product, j.serial, j.state
      FROM service_job j
        JOIN product p ON p.id = j.product_id
      WHERE upper(j.number) = ${key} OR j.tracking = ${readTracking(key)}
      LIMIT 5
    `,
    db<{ number: string; name: string }[]>`
      SELECT c.number, t.name
      FROM claim c
        JOIN partner t ON t.id = c.supplier_id
      WHERE upper(c.number) = ${key} OR upper(c.reference) = ${key}
      LIMIT 5
    `
  ]);
  return [
    ...jobs.map(({ number, product, serial, state }) => ({
      type: 'job',
      title: number,
      under: `service of ${product} ${serial} · ${state}`,
      href: `/service/${encodeURIComponent(number)}`,
      exact: true
    })),
    ...claims.map(({ number, name }) => ({
      type: 'claim',
      title: number,
      under: `on ${name}`,
      href: `/service/claims?q=${encodeURIComponent(number)}`,
      exact: true
    }))
  ];
}

/** What other firms told of, where it is no mark of ours. */
async function findOutside(db: Db, key: string): Promise<Hit[]> {
  const rows = await db<{ epc: string; events: number }[]>`
    SELECT f.epc, count(DISTINCT f.foreign_id)::int AS events
    FROM foreign_epc f
    WHERE f.number_key = ${key} OR f.epc = ${key}
    GROUP BY f.epc
    ORDER BY f.epc
    LIMIT 5
  `;
  return rows.map(({ epc, events }) => ({
    type: 'elsewhere',
    title: key,
    under: `told of by others in ${events} ${events === 1 ? 'event' : 'events'} · ${epc}`,
    href: `/outside?epc=${encodeURIComponent(epc)}`,
    exact: true
  }));
}
