import { actorOf } from './actor.ts';
import type { Bench } from './bench.ts';
import { prove } from './proving.ts';
import { randomBytes } from 'node:crypto';
import { plainPlan } from '../src/lib/core/catalogue/plan.ts';
import { book, check } from '../src/lib/server/ledger/book.ts';
import { receive } from '../src/lib/server/receiving/kinds.ts';
import { allotNumbers, putScheme } from '../src/lib/server/catalogue/numbering.ts';
import { putPlan } from '../src/lib/server/catalogue/plans.ts';
import { proposeMany } from './choosing.ts';
import { buildMany, explodeMany } from './building.ts';
import { compare, type Measured } from './measure.ts';
import { publicPage } from './public-page.ts';
import { fitMany } from './fitting.ts';
import { sealBeside, verifyAll } from './sealing.ts';
import { approveMany, countMany, moveMany, openMany } from './store.ts';
import { valueOfMany } from './value.ts';
import { contend, shipMany } from './shipping.ts';
import { bytes, commonSource, figures, growth, json, packAnew, start } from './tracing.ts';

const RECEIPT = 10_000;
/**
 * Turns of a case that takes tens of milliseconds: what else the machine does weighs more on it.
 */
const SHORT = 41;

const BENCH_PLAN = {
  ...plainPlan('serial', { shelfLifeDays: 365 }),
  facts: [
    {
      name: 'gross weight',
      kind: 'number' as const,
      unit: 'g',
      least: '100',
      most: '200',
      choices: [],
      required: true
    },
    {
      name: 'certificate',
      kind: 'text' as const,
      unit: '',
      least: null,
      most: null,
      choices: [],
      required: true
    }
  ]
};
const serialsOf = (side: string, turn: number, count: number) => {
  const run = randomBytes(3).toString('hex').toUpperCase();
  return Array.from({ length: count }, (_, i) => `${side}-${turn}-${run}-${i}`);
};

/** The part that is received: marked by a plan with two facts and an expiry. */
async function markedPart({ app, world }: Bench): Promise<void> {
  await putPlan(app, actorOf(world), 'BENCH', { name: 'bench', ...BENCH_PLAN });
  await app`
    UPDATE product
    SET plan_id = (SELECT id FROM marking_plan WHERE code = 'BENCH')
    WHERE id = ${world.product}
  `;
}

const receiptOf = (document: string, serials: readonly string[]) => ({
  document,
  supplier: 'X',
  lines: [
    {
      product: 'PART',
      place: 'P',
      quantity: String(serials.length),
      marks: serials.map((serial) => ({
        serial,
        expires: '2030-06-30',
        facts: { 'gross weight': '133.5', certificate: 'MC-7103' }
      }))
    }
  ]
});

/**
 * A receipt of 10,000 serials with dates and facts, decided and booked, against the bare insertion
 * of the same event, marks, movements and stock.
 */
async function receiveMany(bench: Bench): Promise<Measured> {
  const { app, owner, world } = bench;
  await markedPart(bench);
  const facts = JSON.stringify({
    'gross weight': { value: '133.5', unit: 'g' },
    certificate: { value: 'MC-7103' }
  });
  return compare(
    'receive-10k',
    RECEIPT,
    (turn) =>
      book(
        app,
        receive,
        actorOf(world),
        `bench ${turn} ${randomBytes(4).toString('hex')}`,
        receiptOf(`GR-${turn}`, serialsOf('OURS', turn, RECEIPT))
      ),
    (turn) => {
      const numbers = serialsOf('BARE', turn, RECEIPT);
      return owner.begin(async (tx) => {
        // The bare side keeps stock itself, so the trigger that does it for the application is not
        // charged to it.
        await tx`ALTER TABLE movement DISABLE TRIGGER apply_movements`;
        const [event] = await tx<{ id: number }[]>`
          INSERT INTO event (kind, document, happened_at, booked_by)
          VALUES ('receive', ${`BARE-${turn}`}, now(), ${world.person})
          RETURNING id
        `;
        const ids = (
          await tx<{ id: number }[]>`
            INSERT INTO mark (product_id, kind, number, expires_on, facts, birth_event)
            SELECT ${world.product}, 'serial', n, '2030-06-30'::date, f::jsonb, ${event!.id}
            FROM unnest(${numbers}::text[], ${numbers.map(() => facts)}::text[]) AS t (n, f)
            RETURNING id
          `
        ).map((row) => row.id);
        await tx`
          INSERT INTO movement (event_id, mark_id, place_id, quantity)
          SELECT ${event!.id}, m, ${world.place}, 1
          FROM unnest(${ids}::bigint[]) m
        `;
        await tx`
          INSERT INTO stock (mark_id, place_id, mark_kind, product_id, quantity)
          SELECT m, ${world.place}, 'serial', ${world.product}, 1
          FROM unnest(${ids}::bigint[]) m
        `;
        await tx`ALTER TABLE movement ENABLE TRIGGER apply_movements`;
      });
    }
  );
}

/**
 * The verdict on a pasted column of 10,000 serials, one of which is on hand already, against one
 * indexed look-up of the same numbers.
 */
async function checkMany({ app, world }: Bench): Promise<Measured> {
  const numbers = serialsOf('COLUMN', 0, RECEIPT - 1).concat('UNIT-0-1');
  const [unit] = await app<{ id: number }[]>`SELECT id FROM product WHERE code = 'UNIT'`;
  const receipt = {
    document: 'GR-CHECK',
    supplier: 'X',
    lines: [
      {
        product: 'UNIT',
        place: 'P',
        quantity: String(RECEIPT),
        marks: numbers.map((serial) => ({ serial }))
      }
    ]
  };
  return compare(
    'check-10k',
    RECEIPT,
    async () => {
      if ((await check(app, receive, actorOf(world), receipt)).faults.length !== 1)
        throw new Error('The verdict is not the one it should be.');
    },
    async () => {
      await app`
        SELECT m.id, m.product_id, m.kind, m.number, m.lot_id, m.state, m.expires_on,
          m.supplier_number
        FROM unnest(${numbers}::text[]) AS w (number)
          JOIN mark m ON m.product_id = ${unit!.id}
            AND m.kind = 'serial'
            AND m.number_key = upper(w.number)
      `;
    },
    SHORT
  );
}

const CLIENTS = 8;

/**
 * 10,000 numbers allotted from one scheme by 8 clients at once, against one client; no number comes
 * twice.
 */
async function allotMany({ app, world }: Bench): Promise<Measured> {
  await putScheme(app, 'BENCH', {
    name: 'bench',
    reset: 'never',
    segments: [
      { kind: 'text', text: 'B-' },
      { kind: 'counter', width: 9, letters: false },
      { kind: 'check', method: 'mod37-36' }
    ]
  });
  await app`
    UPDATE product
    SET serial_scheme_id = (SELECT id FROM numbering_scheme WHERE code = 'BENCH')
    WHERE id = ${world.product}
  `;
  const seen = new Set<string>();
  const allot = async (count: number) => {
    for (const number of (
      await allotNumbers(
        app,
        actorOf(world),
        randomBytes(8).toString('hex'),
        { product: 'PART', kind: 'serial', count },
        new Date()
      )
    ).numbers) {
      if (seen.has(number)) throw new Error(`${number} was given twice.`);
      seen.add(number);
    }
  };
  return compare(
    'allot-10k',
    RECEIPT,
    () => Promise.all(Array.from({ length: CLIENTS }, () => allot(RECEIPT / CLIENTS))),
    () => allot(RECEIPT),
    SHORT
  );
}

export const CASES: Record<string, (bench: Bench) => Promise<Measured>> = {
  'index-packed': packAnew,
  'trace-1k': (bench) => figures(bench, 'trace-1k', bench.world.small),
  'trace-50k': (bench) => figures(bench, 'trace-50k', bench.world.hub),
  'trace-json-50k': json,
  'trace-growth': growth,
  'index-start': start,
  'index-bytes': bytes,
  'common-source-1m': commonSource,
  reconcile: prove,
  verify: verifyAll,
  'seal-beside': sealBeside,
  'receive-10k': receiveMany,
  'check-10k': checkMany,
  'allot-10k': allotMany,
  'build-1k': buildMany,
  'explode-10k': explodeMany,
  'propose-1k': proposeMany,
  'ship-10k': shipMany,
  'contend-32': contend,
  'opening-10k': openMany,
  'value-1m': valueOfMany,
  'move-10k': moveMany,
  'count-10k': countMany,
  'approve-10k': approveMany,
  'fit-1k': fitMany,
  'public-500': publicPage
};
