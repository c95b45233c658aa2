import { daysLater } from '../src/lib/core/calendar/day.ts';
import type { Actor } from '../src/lib/server/kernel/actor.ts';
import type { Sql } from '../src/lib/server/kernel/db/client.ts';
import { book } from '../src/lib/server/ledger/book.ts';
import { readRecalled } from '../src/lib/server/ledger/read-recalled.ts';
import { quality } from '../src/lib/server/quality/kinds.ts';
import { noteOnJob, turnJob } from '../src/lib/server/service/change-job.ts';
import { answerClaim, claimPart, sendClaim } from '../src/lib/server/service/claims.ts';
import { fitInJob } from '../src/lib/server/service/fit-job.ts';
import { openJob } from '../src/lib/server/service/open-job.ts';
import { NewServiceJob } from '../src/lib/server/service/schemas.ts';
import { sendBack } from '../src/lib/server/service/send-back.ts';
import { keepSettings, putFault, readSettings } from '../src/lib/server/service/settings.ts';
import { readAsBuilt } from '../src/lib/server/trace/as-built.ts';

const BENCH = 'DN-BENCH';

/** A jacket somebody has, with its inflator and the head in it. */
interface Jacket {
  serial: string;
  customer: string;
  inflator: string;
  head: string;
}

/** What a story is told with. */
interface Telling {
  sql: Sql;
  elis: Actor;
  marit: Actor;
  today: string;
  /** Keys of the bookings, each once. */
  key: () => string;
}

/**
 * Service in the demo: a weak head under warranty, swapped and claimed; a claim refused; a jacket
 * reconditioned to stock; an exchange; and the same fault thrice, of heads of one delivery.
 */
export async function seedService(
  sql: Sql,
  actors: ReadonlyMap<string, Actor>,
  now: Date
): Promise<void> {
  let count = 0;
  const telling: Telling = {
    sql,
    elis: actors.get('elis')!,
    marit: actors.get('marit')!,
    today: now.toISOString().slice(0, 10),
    key: () => `demo service ${++count}`
  };
  await setUp(sql, actors.get('wilf')!);
  const jackets = await readJackets(sql);
  await refusedClaim(telling, jackets[0]!);
  await weakHead(telling, jackets[1]!);
  await reconditioned(telling, jackets[2]!);
  await exchanged(telling, jackets[3]!);
  await sameFaultThrice(telling, jackets.slice(4, 7));
}

async function setUp(sql: Sql, wilf: Actor): Promise<void> {
  for (const [code, name] of [
    ['WEAK-HEAD', 'firing head weak or dead'],
    ['LEAK', 'bladder leaks'],
    ['SELF-FIRED', 'inflated by itself'],
    ['WORN', 'worn or torn']
  ] as const)
    await putFault(sql, wilf, code, name);
  await keepSettings(sql, wilf, {
    ...(await readSettings(sql)),
    tracking: true,
    unitPages: true,
    howToSend:
      'Let it down, dry it, and send it with this page’s address to Depot North, Kelp Quay 3, Brackwater. Take the cylinder out first.'
  });
}

/** Jackets customers have that stand in no recall, the latest sold last. */
async function readJackets(sql: Sql): Promise<Jacket[]> {
  const sold = await sql<{ id: number; serial: string; customer: string }[]>`
    SELECT m.id, m.number AS serial, t.code AS customer
    FROM sold s
      JOIN mark m ON m.id = s.mark_id
      JOIN product p ON p.id = m.product_id AND p.code = 'TN150'
      JOIN event e ON e.id = s.event_id
      JOIN partner t ON t.id = e.partner_id
    WHERE s.quantity > 0
    ORDER BY m.id DESC
  `;
  const recalled = await readRecalled(
    sql,
    sold.map((one) => one.id)
  );
  const jackets: Jacket[] = [];
  for (const { id, serial, customer } of sold) {
    if (recalled.has(id)) continue;
    const parts = (await readAsBuilt(sql, id, { as: 'is' }))!.lines;
    const numberOf = (product: string) =>
      parts.find((line) => line.product === product)?.mark?.number;
    const [inflator, head] = [numberOf('INF'), numberOf('HEAD-A')];
    if (inflator && head) jackets.push({ serial, customer, inflator, head });
  }
  return jackets;
}

async function opened(
  { sql, elis, today, key }: Telling,
  { serial, customer }: Jacket,
  more: object
): Promise<string> {
  const asked = NewServiceJob.parse({
    unit: { product: 'TN150', serial },
    ...{ customer, place: BENCH, promised: daysLater(today, 10) },
    ...more
  });
  return (await openJob(sql, elis, key(), asked)).opened.job.number;
}

/** The inflator comes out, its head is changed for one off the shelf, and it goes back in. */
async function swapHead(
  { sql, elis, key }: Telling,
  number: string,
  { serial, inflator, head }: Jacket
): Promise<void> {
  const [spare] = await sql<{ serial: string; place: string }[]>`
    SELECT m.number AS serial, c.code AS place
    FROM mark m
      JOIN product p ON p.id = m.product_id AND p.code = 'HEAD-A'
      JOIN stock s ON s.mark_id = m.id AND s.quantity > 0
      JOIN place c ON c.id = s.place_id AND c.code = 'SV-BOX'
    WHERE m.state = 'usable'
    ORDER BY m.id
    LIMIT 1
  `;
  const part = { product: 'INF', serial: inflator };
  const jacket = { product: 'TN150', serial };
  const old = { product: 'HEAD-A', serial: head, to: BENCH, state: 'held' as const };
  const fresh = { product: 'HEAD-A', serial: spare!.serial, from: spare!.place };
  for (const unit of [
    { ...jacket, remove: [{ ...part, to: BENCH }] },
    { ...part, remove: [old], fit: [fresh] },
    { ...jacket, fit: [{ ...part, from: BENCH }] }
  ])
    await fitInJob(sql, elis, key(), number, {
      place: BENCH,
      reason: 'Head weak on the gauge.',
      units: [unit]
    });
}

const claimed = (
  { sql, elis, key }: Telling,
  number: string,
  { head }: Jacket,
  reason: string
): Promise<{ number: string }> =>
  claimPart(sql, elis, key(), number, {
    ...{ product: 'HEAD-A', serial: head, supplier: 'PELLWORM', reason, goodwill: false }
  });

/** A head that had been under water: Pellworm refuses it. */
async function refusedClaim(telling: Telling, jacket: Jacket): Promise<void> {
  const { sql, elis, key } = telling;
  const number = await opened(telling, jacket, {
    fault: 'Did not fire in the pool.',
    faultCode: 'WEAK-HEAD',
    condition: 'Salt in the housing.'
  });
  await noteOnJob(sql, elis, key(), number, {
    kind: 'finding',
    note: 'Head corroded; water has stood in it.',
    minutes: 25
  });
  await swapHead(telling, number, jacket);
  const claim = await claimed(telling, number, jacket, 'Does not fire.');
  await sendClaim(sql, elis, claim.number, '');
  await answerClaim(sql, elis, claim.number, {
    reference: 'PW-C/2207',
    parts: [
      {
        ...{ product: 'HEAD-A', serial: jacket.head, outcome: 'refused' },
        note: 'Stood in water: not their fault.'
      }
    ]
  });
  await sendBack(sql, elis, key(), number, { reference: 'HAUL 41102' });
}

/** The story of the ferry: under warranty, swapped, ready to go back, its head claimed. */
async function weakHead(telling: Telling, jacket: Jacket): Promise<void> {
  const { sql, elis, key, today } = telling;
  const number = await opened(telling, jacket, {
    ...{ customer: 'SKARROW', fault: 'Fires late; the mate says four seconds.' },
    faultCode: 'WEAK-HEAD',
    accessories: 'crotch strap, whistle',
    contact: { name: 'Runa Tideholm', email: 'runa@skarrow.example', phone: '' },
    promised: daysLater(today, 3)
  });
  await turnJob(sql, elis, number, { state: 'in work', note: '' });
  await noteOnJob(sql, elis, key(), number, {
    kind: 'finding',
    note: 'Spring of the head below its mark; everything else as new.',
    minutes: 15
  });
  await swapHead(telling, number, jacket);
  await noteOnJob(sql, elis, key(), number, {
    kind: 'act',
    note: 'Head changed, fired twice, rearmed.',
    minutes: 40
  });
  const claim = await claimed(telling, number, jacket, 'Spring below its mark after eight months.');
  await sendClaim(sql, elis, claim.number, '');
  await turnJob(sql, elis, number, { state: 'ready', note: '' });
}

/** Bought back, looked over, and usable stock again under its own number. */
async function reconditioned(telling: Telling, jacket: Jacket): Promise<void> {
  const { sql, elis, marit, key } = telling;
  const number = await opened(telling, jacket, {
    ...{ fault: 'Returned with the boat it was sold with.', faultCode: 'WORN' }
  });
  await noteOnJob(sql, elis, key(), number, {
    kind: 'act',
    note: 'Cleaned, webbing renewed, leak test tight.',
    minutes: 90
  });
  await turnJob(sql, elis, number, { state: 'ended', note: 'Bought back; goes to stock.' });
  await book(sql, quality, marit, key(), {
    document: number,
    kind: 'release',
    reason: 'Reconditioned and tested.',
    marks: [{ product: 'TN150', serial: jacket.serial }]
  });
}

/** Another jacket goes out the same day; the old one stays. */
async function exchanged(telling: Telling, jacket: Jacket): Promise<void> {
  const { sql, elis, key } = telling;
  const number = await opened(telling, jacket, {
    ...{ customer: 'MARROW', fault: 'Torn at the collar on a launch.', faultCode: 'WORN' },
    charged: true
  });
  const [spare] = await sql<{ serial: string }[]>`
    SELECT m.number AS serial
    FROM mark m
      JOIN product p ON p.id = m.product_id AND p.code = 'TN150'
      JOIN stock s ON s.mark_id = m.id AND s.quantity > 0
    WHERE m.state = 'usable'
      AND NOT EXISTS (SELECT FROM reservation r WHERE r.mark_id = m.id)
      AND NOT EXISTS (SELECT FROM unit_content c WHERE c.mark_id = m.id AND c.quantity > 0)
    ORDER BY m.id
    LIMIT 1
  `;
  await sendBack(sql, elis, key(), number, {
    exchange: { product: 'TN150', serial: spare!.serial }
  });
}

/** Three jackets with the same words on their tickets; what they share is for quality to find. */
async function sameFaultThrice(telling: Telling, jackets: readonly Jacket[]): Promise<void> {
  const { sql, elis, today } = telling;
  const states = ['to look at', 'waiting for parts', 'waiting for customer'] as const;
  for (const [at, jacket] of jackets.entries()) {
    const number = await opened(telling, jacket, {
      ...{ fault: 'Weak on the gauge at the yearly service.', faultCode: 'WEAK-HEAD' },
      promised: daysLater(today, [-1, 6, 9][at]!)
    });
    if (at > 0) await turnJob(sql, elis, number, { state: states[at]!, note: '' });
  }
  const waits = { unit: { product: 'TN275', serial: 'TX-9001' }, customer: 'PILOTS' };
  await openJob(
    sql,
    elis,
    telling.key(),
    NewServiceJob.parse({
      ...waits,
      fault: 'Announced by telephone: bladder loses air overnight.',
      faultCode: 'LEAK',
      promised: daysLater(today, 14)
    })
  );
}
