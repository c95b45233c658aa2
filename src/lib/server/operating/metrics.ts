import { collectDefaultMetrics, Gauge, Histogram, Registry } from 'prom-client';
import { troublesOf } from '../../core/operating/troubles.ts';
import { db } from '../kernel/db/client.ts';
import { metricsOfAll, shareRegistry } from './metrics-of-all.ts';
import { readStanding } from './standing.ts';

/** What each process that serves counts for itself. */
const counted = new Registry();
collectDefaultMetrics({ register: counted, prefix: 'earmark_' });
/** How the machine stands, whichever process looks. */
const standingNow = new Registry();
shareRegistry(counted);

const requests = new Histogram({
  name: 'earmark_request_seconds',
  help: 'How long requests took to answer, by route, method and status.',
  labelNames: ['route', 'method', 'status'] as const,
  buckets: [0.01, 0.03, 0.1, 0.3, 1, 3, 10, 30],
  registers: [counted]
});

const gauge = (name: string, help: string): Gauge =>
  new Gauge({ name: `earmark_${name}`, help, registers: [standingNow] });

const diskFree = gauge('disk_free_bytes', 'Room left on the disk of the data folder.');
const diskWhole = gauge('disk_bytes', 'Size of the disk of the data folder.');
const clockAhead = gauge(
  'clock_ahead_seconds',
  'How far the database’s clock is before the application’s.'
);
const sealWaits = gauge(
  'seal_waits_seconds',
  'How long the oldest of the latest thousand events waits to be sealed.'
);
const indexReady = gauge('index_ready', 'Whether traces are answered from the index.');
const mailsGivenUp = gauge('mails_given_up', 'Messages to customers given up within a week.');
const lastEvent = gauge('last_event', 'Id of the last event of the ledger.');
const ordersWait = gauge('orders_waiting', 'Orders that are neither complete nor closed.');
const backedUpAgo = gauge('backup_age_seconds', 'How long ago the last backup was taken.');
const checkedAgo = gauge(
  'backup_check_age_seconds',
  'How long ago a backup was last brought back beside and proved.'
);
const troubles = gauge('troubles', 'How many troubles Today tells who looks after the machine.');

/** An age that is not known is left out, and is not told as none. */
function setAge(of: Gauge, ms: number | null | undefined): void {
  if (ms === null || ms === undefined) of.remove();
  else of.set(ms / 1000);
}

/** Keeps how long a request took. @param route its id, never its address: there are too many */
export const observeRequest = (
  route: string | null,
  method: string,
  status: number,
  seconds: number
): void => requests.observe({ route: route ?? 'none', method, status }, seconds);

/** Everything that is measured, in the text form Prometheus reads. */
export async function metrics(): Promise<{ type: string; text: string }> {
  const standing = await readStanding(db());
  const [row] = await db()<[{ event: number | null; orders: number }]>`
    SELECT (SELECT max(id) FROM event) AS event,
      (SELECT count(*)::int FROM waiting_order) AS orders
  `;
  if (standing.disk) {
    diskFree.set(standing.disk.free);
    diskWhole.set(standing.disk.whole);
  }
  clockAhead.set(standing.clockAheadMs / 1000);
  sealWaits.set((standing.sealWaitsMs ?? 0) / 1000);
  indexReady.set(standing.index?.state === 'ready' ? 1 : 0);
  mailsGivenUp.set(standing.mailsGivenUp);
  setAge(backedUpAgo, standing.backups?.backedUpMsAgo);
  setAge(checkedAgo, standing.backups?.checkedMsAgo);
  lastEvent.set(row.event ?? 0);
  ordersWait.set(row.orders);
  troubles.set(troublesOf(standing).length);
  const texts = [await standingNow.metrics(), await metricsOfAll(counted)];
  return { type: counted.contentType, text: texts.join('\n') };
}
