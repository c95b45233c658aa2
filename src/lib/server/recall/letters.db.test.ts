import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { putPartner, readPartner } from '../catalogue/partners-places.ts';
import { goodsReturn, ship } from '../shipping/kinds.ts';
import { caught } from '../testing/caught.ts';
import { makeWorld, newKey, type World } from '../testing/world.ts';
import { listRecalls } from './list-recalls.ts';
import { sendDueReminders } from './due-reminders.ts';
import { readNotice, sendNotices, sendReminders } from './notices.ts';
import { customerLines } from './papers/customer-lines.ts';
import { caseFilePdf } from './papers/recall-file.ts';
import { noticePdf } from './papers/notice.ts';
import { readRecall } from './read-recall.ts';
import { recordAnswers } from './record-answers.ts';
import { decideScope, openRecall, remindAfter } from './write-recall.ts';

const DAY = 86_400_000;
const daysOn = (days: number): Date => new Date(Date.now() + days * DAY);

let world: World, lot: number, number: string;
beforeAll(async () => {
  world = await makeWorld();
  const both = { supplier: false, customer: true };
  await putPartner(world.sql, 'CUS', {
    ...{ ...both, name: 'Customer', address: 'Quay 1\nNorth Town', contact: 'Isolde, goods in' }
  });
  await putPartner(world.sql, 'CUS2', { ...both, name: 'Other Customer' });
  lot = (await world.receive('LOT', [{ lot: 'BAD' }], '10')).marks[0]!.id;
  for (const customer of ['CUS', 'CUS2'])
    await world.book(ship, {
      ...{ document: `SO-${customer}`, customer },
      lines: [{ product: 'LOT', marks: [{ lot: 'BAD', quantity: '4' }] }]
    });
  ({ number } = await openRecall(world.sql, world.actor, newKey(), {
    ...{ title: 'Bad lot', hazard: 'It swells.', request: 'Send it back.', mock: false },
    ...{ marks: [lot], why: '' }
  }));
  await decideScope(world.sql, world.actor, number);
});
afterAll(() => world.end());

const page = async () => (await readRecall(world.sql, number, new Date()))!;
const letters = async () =>
  (await page()).notices.map((one) => `${one.kind} ${one.partner}${one.byItself ? ' !' : ''}`);
const answer = (partner: string, outcome: 'returned' | 'destroyed', quantity: string) =>
  recordAnswers(world.sql, world.actor, number, newKey(), [
    { partner, mark: lot, outcome, quantity, note: 'by telephone' }
  ]);
const unsent: string[] = [];
const due = (now: Date) => sendDueReminders(world.sql, now, (of) => unsent.push(of));
const contentOf = async (at: number) => {
  const { id } = (await page()).notices.at(at)!;
  return (await readNotice(world.sql, number, id))!;
};

describe('the letters of a recall', () => {
  it('carry the address of their customer, as it was then, and who reads them', async () => {
    const key = newKey();
    const send = () => sendNotices(world.sql, world.actor, number, ['CUS'], key);
    expect(await send()).toEqual({ sent: 1 });
    // The answer was lost, and it is sent again: one letter.
    expect(await send()).toEqual({ sent: 1 });
    expect(await letters()).toEqual(['notice CUS']);
    await putPartner(world.sql, 'CUS', { name: 'Customer', supplier: false, customer: true });
    expect(await readPartner(world.sql, 'CUS')).toMatchObject({ contact: 'Isolde, goods in' });
    expect(await contentOf(0)).toMatchObject({
      content: { toAddress: 'Quay 1\nNorth Town', contact: 'Isolde, goods in' }
    });
  });

  it('remind whoever was written to of what is still open, and nobody else', async () => {
    await answer('CUS', 'destroyed', '1');
    await answer('CUS', 'returned', '2');
    expect(await sendReminders(world.sql, world.actor, number, null)).toEqual({ sent: 1 });
    const { content, sentAt } = await contentOf(-1);
    // One is open, and two are on their word: three have not come back.
    expect(content).toMatchObject({ partner: 'CUS', goods: [{ number: 'BAD', quantity: '3' }] });
    expect(Date.parse(content.remindsOf!)).toBeLessThan(Date.parse(sentAt));
    expect(Buffer.from((await noticePdf(content, sentAt)).subarray(0, 5)).toString()).toBe('%PDF-');
    expect(await caught(sendReminders(world.sql, world.actor, number, ['CUS2']))).toMatchObject([
      { code: 'partner.unknown' }
    ]);
  });

  it('go out by themselves when they are due, each once, until all is answered', async () => {
    await sendNotices(world.sql, world.actor, number, ['CUS2']);
    expect(await due(daysOn(2))).toBe(0);
    await fourDaysAgo();
    const together = await Promise.all([1, 2, 3].map(() => due(daysOn(0))));
    expect(together.reduce((sum, one) => sum + one, 0)).toBe(2);
    expect((await letters()).slice(-2)).toEqual(['reminder CUS !', 'reminder CUS2 !']);
    await remindAfter(world.sql, world.actor, number, null);
    expect(await due(daysOn(40))).toBe(0);
    expect(unsent).toEqual([]);
  });

  it('go out for the other cases where those of one cannot be sent', async () => {
    const { number: other } = await openRecall(world.sql, world.actor, newKey(), {
      ...{ title: 'The next', hazard: 'It swells.', request: '', mock: false },
      ...{ marks: [lot], why: '' }
    });
    await decideScope(world.sql, world.actor, other);
    await sendNotices(world.sql, world.actor, other, ['CUS']);
    for (const one of [number, other]) await remindAfter(world.sql, world.actor, one, 3);
    const [first] = await world.owner<[{ id: number }]>`
      SELECT id FROM recall_case WHERE number = ${number}
    `;
    await world.owner.unsafe(
      `ALTER TABLE recall_notice ADD CONSTRAINT broken CHECK (case_id <> ${first.id}) NOT VALID`
    );
    expect(await due(daysOn(10))).toBe(1);
    expect(unsent).toEqual([number]);
    await world.owner`ALTER TABLE recall_notice DROP CONSTRAINT broken`;
    for (const one of [number, other]) await remindAfter(world.sql, world.actor, one, null);
  });
});

describe('a case and its customers', () => {
  it('waits for who was written to, until what they had is told', async () => {
    const listed = async () =>
      (await listRecalls(world.sql)).rows.find((row) => row.number === number);
    expect(await listed()).toMatchObject({ customers: 2, waiting: 2, part: 0.125 });
    await answer('CUS2', 'destroyed', '4');
    await answer('CUS', 'destroyed', '1');
    expect(await listed()).toMatchObject({ waiting: 0, part: 0.75 });
  });

  it('lets nobody account for what came back and for the same again', async () => {
    const other = (await world.receive('LOT', [{ lot: 'BACK' }], '4')).marks[0]!.id;
    await world.book(ship, {
      ...{ document: 'SO-BACK', customer: 'CUS' },
      lines: [{ product: 'LOT', marks: [{ lot: 'BACK', quantity: '4' }] }]
    });
    const { number: of } = await openRecall(world.sql, world.actor, newKey(), {
      ...{ title: 'Another', hazard: 'x', request: '', mock: false, marks: [other], why: '' }
    });
    await decideScope(world.sql, world.actor, of);
    await world.book(goodsReturn, {
      ...{ document: 'RT', place: 'DOCK' },
      lines: [{ product: 'LOT', lot: 'BACK', quantity: '2' }]
    });
    const destroyed = (quantity: string) =>
      recordAnswers(world.sql, world.actor, of, newKey(), [
        { partner: 'CUS', mark: other, outcome: 'destroyed', quantity, note: '' }
      ]);
    expect((await caught(destroyed('3')))[0]!.message).toBe(
      'CUS had 4 of BACK, and this would account for 5, 2 of it back here. Take some off.'
    );
    await destroyed('2');
    expect((await readRecall(world.sql, of, new Date()))!.standing).toMatchObject({ part: 1 });
  });

  it('stands in its file lot by lot, with every answer and note', async () => {
    const now = await page();
    const lines = now.customers.flatMap((one) => customerLines(now, one).map(({ text }) => text));
    expect(lines).toEqual(
      expect.arrayContaining([
        'Quay 1, North Town, Isolde, goods in',
        expect.stringMatching(/^notice of .* · reminder of .* · reminder of /),
        expect.stringMatching(
          /answered .*: returned 2 each: “by telephone” \(taken by Test Person\)/
        )
      ])
    );
    expect(Buffer.from((await caseFilePdf(now)).subarray(0, 5)).toString()).toBe('%PDF-');
  });
});

/** Puts the letters back in time, as the owner of the tables. */
async function fourDaysAgo(): Promise<void> {
  await world.owner.begin(async (tx) => {
    await tx`ALTER TABLE recall_notice DISABLE TRIGGER append_only`;
    await tx`UPDATE recall_notice SET sent_at = sent_at - interval '4 days'`;
    await tx`ALTER TABLE recall_notice ENABLE TRIGGER append_only`;
  });
}
