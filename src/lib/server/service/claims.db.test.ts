import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { daysLater, monthsLater } from '../../core/calendar/day.ts';
import { putPartner } from '../catalogue/partners-places.ts';
import { today } from '../kernel/clock.ts';
import { reconcile } from '../ledger/reconcile.ts';
import { receive } from '../receiving/kinds.ts';
import { refusalsOf } from '../testing/caught.ts';
import { makeWorld, newKey, onHandByStock, type World } from '../testing/world.ts';
import { ship } from '../shipping/kinds.ts';
import { answerClaim, claimPart, sendClaim } from './claims.ts';
import { openJob } from './open-job.ts';
import { claimLetterPdf } from './papers/claim-letter.ts';
import { receiptPdf } from './papers/receipt.ts';
import { addPhoto, readPhoto } from './photos.ts';
import { readPublicUnit, readTrackedJob } from './public-pages.ts';
import { readClaim, readClaims } from './read-claims.ts';
import { NewClaimPart, NewServiceJob } from './schemas.ts';
import { keepSettings, putFault, readSettings } from './settings.ts';

// GTIN of the GS1 Digital Link standard's own examples.
const GTIN = '09506000134352';
/** One white dot: the smallest PNG there is. */
const PNG = Buffer.from(
  'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mP8z8BQDwAEhQGAhKmMIQAAAABJRU5ErkJggg==',
  'base64'
);
let world: World;
let n = 0;
let [unit, head, number] = ['', '', ''];
let tracking = '';
beforeAll(async () => {
  world = await makeWorld();
  await putPartner(world.sql, 'OTHER', { name: 'another', supplier: true, customer: false });
  await world.sql`UPDATE product SET warranty_months = 24 WHERE code IN ('MADE', 'SIL')`;
  await world.sql`UPDATE product SET gtin = ${GTIN} WHERE code = 'MADE'`;
});
afterAll(async () => {
  expect((await reconcile(world.sql)).breaks).toEqual([]);
  await world.end();
});
beforeEach(async () => {
  n++;
  [unit, head] = [`K${n}`, `P${n}`];
  await world.receive('SIL', [{ lot: 'HEADS', serial: head }]);
  await world.build([
    { outputs: [{ product: 'MADE', serial: unit, quantity: '1' }], inputs: [] }
  ] as never);
  const lines = [{ product: 'MADE', marks: [{ serial: unit }] }];
  await world.book(ship, { document: `S-${unit}`, customer: 'CUS', lines });
  const asked = NewServiceJob.parse({
    ...{ unit: { product: 'MADE', serial: unit }, customer: 'CUS', place: 'RACK', fault: 'weak' }
  });
  const { opened } = await openJob(world.sql, world.actor, newKey(), asked);
  ({ number, tracking } = opened.job);
});

const claim = (more: object = {}, key = newKey()) =>
  claimPart(
    world.sql,
    world.actor,
    key,
    number,
    NewClaimPart.parse({
      ...{ product: 'SIL', serial: head, supplier: 'SUP', reason: 'spring is tired' },
      ...more
    })
  );
const sent = (claimed: string) => sendClaim(world.sql, world.actor, claimed, '');
const answered = (claimed: string, part: object) =>
  answerClaim(world.sql, world.actor, claimed, {
    reference: 'RMA-77',
    parts: [{ product: 'SIL', serial: head, outcome: 'credited', note: '', ...part }]
  } as never);

describe('a claim on a supplier', () => {
  it('collects parts of one supplier until it is sent, and is answered part by part', async () => {
    const first = await claim();
    const second = `${head}b`;
    await world.receive('SIL', [{ lot: 'HEADS', serial: second }]);
    expect((await claim({ serial: second })).number).toBe(first.number);
    expect(await readClaim(world.sql, first.number)).toMatchObject({
      state: 'collected',
      parts: [{ serial: head, job: number, warrantyUntil: expect.stringMatching(/^\d{4}/) }, {}]
    });
    expect(await refusalsOf(answered(first.number, {}))).toEqual(['422 claim.sent number']);
    await sent(first.number);
    // What was claimed leaves for its supplier, held or not.
    expect((await onHandByStock(world.sql)).filter((line) => line.includes(head))).toEqual([]);
    expect(await refusalsOf(sent(first.number))).toEqual(['409 claim.sent number']);
    await answered(first.number, {});
    expect((await readClaim(world.sql, first.number))!.state).toBe('sent');
    const more = { serial: second, outcome: 'replaced', replacedBy: 'NEW-1' };
    await answered(first.number, more);
    expect(await readClaim(world.sql, first.number)).toMatchObject({
      state: 'answered',
      parts: [{ outcome: 'credited' }, { outcome: 'replaced', replacedBy: 'NEW-1' }]
    });
    // What comes now goes into another.
    await world.receive('SIL', [{ lot: 'HEADS', serial: `${head}c` }]);
    const next = await claim({ serial: `${head}c` });
    expect(next.number).not.toBe(first.number);
    await sent(next.number);
    for (const q of [first.number, 'rma-77', second])
      expect((await readClaims(world.sql, q)).map((one) => one.number)).toContain(first.number);
    const letter = await claimLetterPdf(world.sql, first.number);
    expect(Buffer.from(letter.slice(0, 5)).toString()).toBe('%PDF-');
  });

  it('is refused twice, of another supplier, of a number nobody knows, or a part not in it', async () => {
    const key = newKey();
    const first = await claim({}, key);
    expect(await claim({}, key)).toEqual({ number: first.number, fresh: false });
    expect(await refusalsOf(claim())).toEqual(['409 claim.twice serial']);
    expect(await refusalsOf(claim({ serial: 'NONE' }))).toEqual(['422 mark.unknown serial']);
    await world.receive('SIL', [{ lot: 'HEADS', serial: `${head}d` }]);
    expect(await refusalsOf(claim({ serial: `${head}d`, supplier: 'OTHER' }))).toEqual([
      '422 partner.unknown supplier'
    ]);
    await sent(first.number);
    const wrong = answered(first.number, { serial: `${head}d` });
    expect(await refusalsOf(wrong)).toEqual(['422 mark.unknown parts[0]']);
  });

  it('of a part whose warranty ended yesterday is asked as goodwill or not at all', async () => {
    const received = async (serial: string, day: string): Promise<void> => {
      const marks = [{ lot: 'HEADS', serial }];
      const lines = [{ product: 'SIL', place: 'DOCK', quantity: '1', marks }];
      const at = `${day}T12:00:00Z`;
      await world.book(receive, { document: `R-${serial}`, supplier: 'SUP', at, lines } as never);
    };
    // The last day that still counts: on a leap day it is the day after.
    const then = monthsLater(today(), -24);
    const bought = monthsLater(then, 24) < today() ? daysLater(then, 1) : then;
    await received(`${head}-today`, bought);
    await received(`${head}-over`, daysLater(bought, -1));
    const { number: kept } = await claim({ serial: `${head}-today` });
    expect(await refusalsOf(claim({ serial: `${head}-over` }))).toEqual([
      '422 warranty.over serial'
    ]);
    await claim({ serial: `${head}-over`, goodwill: true });
    expect((await readClaim(world.sql, kept))!.parts.map((part) => part.goodwill)).toEqual([
      false,
      true
    ]);
    await sent(kept);
  });
});

describe('what anybody may see', () => {
  const settings = async (more: object) => {
    const coordinator = { ...world.actor, roles: ['coordinator' as const] };
    await keepSettings(world.sql, coordinator, { ...(await readSettings(world.sql)), ...more });
  };

  it('is nothing until the company switches it on, and then a job’s state and no more', async () => {
    expect(await readTrackedJob(world.sql, tracking)).toBeNull();
    await settings({ tracking: true });
    const seen = (await readTrackedJob(world.sql, tracking))!;
    expect(Object.keys(seen).sort()).toEqual([
      'from',
      'number',
      'product',
      'promised',
      'says',
      'since',
      'state'
    ]);
    // Typed as it is read out, small, with hyphens.
    const typed = tracking.toLowerCase().replace(/(.{5})(?=.)/g, '$1-');
    expect(await readTrackedJob(world.sql, typed)).toEqual(seen);
    for (const guess of ['', number, `${tracking}0`, '0'.repeat(20), "' OR 1=1 --"])
      expect(await readTrackedJob(world.sql, guess), guess).toBeNull();
    await settings({ tracking: false });
  });

  it('of a unit is what the company chose, by its own Digital Link alone', async () => {
    expect(await readPublicUnit(world.sql, GTIN, `21/${unit}`)).toBeNull();
    await settings({ unitPages: true, shows: ['warranty'], howToSend: 'By post.' });
    expect(await readPublicUnit(world.sql, GTIN, `21/${unit}`)).toMatchObject({
      ...{ serial: unit, made: null, recalled: null, howToSend: 'By post.' },
      warranty: expect.stringMatching(/^until/)
    });
    for (const [gtin, rest] of [
      [GTIN, '21/NONE'],
      ['09506000134369', `21/${unit}`],
      [GTIN, `10/${unit}`],
      ['00000000000000', `21/${unit}`]
    ] as const)
      expect(await readPublicUnit(world.sql, gtin, rest), gtin + rest).toBeNull();
    await settings({ unitPages: false });
  });
});

describe('a job', () => {
  it('keeps photographs, and nothing that only says it is one', async () => {
    const photo = (bytes: Uint8Array) => addPhoto(world.sql, world.actor, number, bytes);
    const id = await photo(PNG);
    const kept = await readPhoto(world.sql, number, String(id));
    expect(Buffer.from(kept.bytes).equals(PNG)).toBe(true);
    expect(await refusalsOf(photo(Buffer.from('<script>')))).toEqual([
      '422 request.malformed photo'
    ]);
    expect(await refusalsOf(photo(Buffer.alloc(40_000_000)))).toEqual([
      '422 request.malformed photo'
    ]);
    expect(await refusalsOf(readPhoto(world.sql, number, '1e9'))).toEqual([
      '404 photograph.unknown code'
    ]);
  });

  it('has a receipt for its customer, and a fault from the list', async () => {
    const coordinator = { ...world.actor, roles: ['coordinator' as const] };
    expect(await putFault(world.sql, coordinator, 'weak', 'weak head')).toEqual({
      code: 'WEAK',
      name: 'weak head'
    });
    const paper = await receiptPdf(world.sql, number, 'https://earmark.example');
    expect(Buffer.from(paper.slice(0, 5)).toString()).toBe('%PDF-');
  });
});
