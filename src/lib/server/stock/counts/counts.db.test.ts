import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Actor } from '../../kernel/actor.ts';
import { putPlace } from '../../catalogue/partners-places.ts';
import { reconcile } from '../../ledger/reconcile.ts';
import { reverse } from '../../ledger/kinds.ts';
import { refusalsOf } from '../../testing/caught.ts';
import { makeWorld, newKey, type World } from '../../testing/world.ts';
import { traceMark } from '../../trace/trace.ts';
import { move } from '../kinds.ts';
import { readOnHand } from '../on-hand.ts';
import { approveCount, cancelCount } from './approve-count.ts';
import { listCounts, readExactness } from './list-counts.ts';
import { openCount } from './open-count.ts';
import { readCount } from './read-count.ts';
import { writeEntries } from './write-entries.ts';

let world: World;
let other: Actor;
beforeAll(async () => {
  world = await makeWorld();
  const [person] = await world.sql<{ id: number }[]>`
    INSERT INTO person (login, name, roles) VALUES ('eye', 'Second Eye', '{coordinator}')
    RETURNING id
  `;
  other = { ...world.actor, personId: person!.id, login: 'eye', name: 'Second Eye' };
});
afterAll(async () => {
  expect(await reconcile(world.sql)).toMatchObject({ breaks: [] });
  await world.end();
});

let count = 0;
/** A place of its own for each test, and a count of it. */
async function fresh(more: object = {}): Promise<{ place: string; document: string }> {
  const place = `P-${++count}`,
    document = `C-${count}`;
  await putPlace(world.sql, place, { name: place, site: 'S1' });
  await openCount(world.sql, world.actor, { document, places: [place], ...more });
  return { place, document };
}
const enter = (
  document: string,
  lines: Parameters<typeof writeEntries>[3]['lines'],
  done: string[] = []
) => writeEntries(world.sql, world.actor, document, { lines, done });
const approve = async (document: string, more: object = {}, key = newKey(), who = other) =>
  approveCount(world.sql, who, key, document, { reason: 'yearly count', ...more });
const lying = async (place: string) =>
  (await readOnHand(world.sql, { text: place }))
    .filter((row) => row.place === place)
    .map((row) => `${row.number} ${row.quantity}`)
    .sort();

describe('a count', () => {
  it('books what was off as one event: missing, more, elsewhere, lost before and never known', async () => {
    const { place, document } = await fresh();
    await world.receive('SER', [{ serial: 'K1' }, { serial: 'K2' }], '2', place);
    await world.receive('SER', [{ serial: 'K3' }], '1', 'RACK');
    await world.receive('LOT', [{ lot: 'KL' }], '8', place);
    const { notes } = await enter(
      document,
      [
        { product: 'SER', place, serial: 'K1' },
        { product: 'SER', place, serial: 'K3' },
        { product: 'SER', place, serial: 'K9' },
        { product: 'LOT', place, lot: 'KL', quantity: '7.5' },
        { product: 'BULK', place, quantity: '4' }
      ],
      [place]
    );
    expect(notes.map((note) => note.message)).toEqual([
      expect.stringContaining('K3 lies at'),
      expect.stringContaining('K9 of SER was never known')
    ]);
    const { answer, fresh: booked } = await approve(document);
    expect(booked).toBe(true);
    expect(await lying(place)).toEqual(['BULK 4', 'K1 1', 'K3 1', 'K9 1', 'KL 7.5']);
    const { event } = JSON.parse(answer) as { event: { id: number; kind: string } };
    expect(event.kind).toBe('count');
    const { count: now } = await readCount(world.sql, document);
    expect(now).toMatchObject({ state: 'approved', event: event.id });
    const [found] = await world.sql<{ id: number }[]>`SELECT id FROM mark WHERE number = 'K9'`;
    const trace = (await traceMark(world.sql, found!.id, 'upstream'))!;
    expect(trace.ends.origins).toMatchObject([{ kind: 'count', document, quantity: '1' }]);
    const [carried] = await world.sql<{ id: number }[]>`SELECT id FROM mark WHERE number = 'K3'`;
    expect((await traceMark(world.sql, carried!.id, 'upstream'))!.ends.origins).toEqual([]);
  });

  it('is taken back like anything that was booked', async () => {
    const { place, document } = await fresh();
    await world.receive('LOT', [{ lot: 'KB' }], '8', place);
    await world.receive('SER', [{ serial: 'KB1' }], '1', 'RACK');
    await enter(document, [
      { product: 'LOT', place, lot: 'KB', quantity: '6' },
      { product: 'SER', place, serial: 'KB1' }
    ]);
    const { event } = JSON.parse((await approve(document)).answer) as { event: { id: number } };
    expect(await lying(place)).toEqual(['KB 6', 'KB1 1']);
    await world.book(reverse, { document, event: event.id, reason: 'wrong rack' });
    expect(await lying(place)).toEqual(['KB 8']);
    expect(await lying('RACK')).toContain('KB1 1');
  });

  it('knows what moved after each entry, and what was not there yet when its place was done', async () => {
    const { place, document } = await fresh();
    await world.receive('LOT', [{ lot: 'KM' }], '10', place);
    await world.receive('SER', [{ serial: 'KM1' }], '1', place);
    await enter(document, [{ product: 'LOT', place, lot: 'KM', quantity: '9' }], [place]);
    const line = { product: 'LOT', from: place, to: 'RACK', lot: 'KM', quantity: '4' };
    await world.book(move, { document: 'M', kind: 'move', lines: [line] });
    await world.receive('SER', [{ serial: 'KM2' }], '1', place);
    await approve(document);
    // 10 less 1 that was missing less 4 that went; KM1 was missing, KM2 came after.
    expect(await lying(place)).toEqual(['KM 5', 'KM2 1']);
  });

  it('takes the last look at a number for what counts, and lets an entry be taken back', async () => {
    const { place, document } = await fresh();
    await world.receive('LOT', [{ lot: 'KR' }], '3', place);
    const lot = { product: 'LOT', place, lot: 'KR' };
    await enter(document, [{ ...lot, quantity: '1' }]);
    await enter(document, [{ ...lot, quantity: null }]);
    expect(await refusalsOf(approve(document))).toEqual(['422 mark.missing places']);
    await enter(document, [{ ...lot, quantity: '3' }]);
    await approve(document);
    expect(await lying(place)).toEqual(['KR 3']);
  });

  it('counts only the products or lots it is asked for, wherever they lie', async () => {
    await putPlace(world.sql, 'PX', { name: 'PX', site: 'S1' });
    await world.receive('SIL', [{ lot: 'KX', serial: 'KX1' }], '1', 'PX');
    await world.receive('SIL', [{ lot: 'KY', serial: 'KY1' }], '1', 'PX');
    const wanted = { document: 'C-LOT', products: ['SIL'], lots: ['KX'] };
    const { head } = await openCount(world.sql, world.actor, wanted);
    expect(head.places.map((place) => place.code)).toEqual(['PX']);
    const line = { product: 'SIL', place: 'PX', serial: 'KY1' };
    expect(await refusalsOf(enter('C-LOT', [line]))).toEqual(['422 mark.unknown lines[0]']);
    await enter('C-LOT', [], ['PX']);
    await approve('C-LOT');
    expect(await lying('PX')).toEqual(['KY1 1']);
  });

  it('says how exact a place is, count by count', async () => {
    const { place, document } = await fresh();
    await world.receive(
      'LOT',
      [{ lot: 'KE1' }, { lot: 'KE2' }].map((one) => ({ ...one, quantity: '1' })),
      '2',
      place
    );
    await enter(document, [{ product: 'LOT', place, lot: 'KE1', quantity: '1' }], [place]);
    await approve(document);
    const counts = await listCounts(world.sql);
    expect(counts.rows.find((row) => row.document === document)).toMatchObject({
      state: 'approved',
      places: 1,
      placesDone: 1,
      entries: 2,
      off: 1
    });
    const { rows } = await readExactness(world.sql);
    expect(rows.find((row) => row.code === place)!.counts).toMatchObject([
      { document, lines: 2, right: 1 }
    ]);
  });
});

describe('a count refuses', () => {
  it('to be approved by who counted, in the code and by the database itself', async () => {
    const { place, document } = await fresh();
    await enter(document, [{ product: 'BULK', place, quantity: '1' }]);
    expect(await refusalsOf(approve(document, {}, newKey(), world.actor))).toEqual([
      '422 approval.missing document'
    ]);
    const force = world.sql`
      UPDATE stock_count
      SET approved_at = now(), approved_by = ${world.actor.personId}, reason = 'mine'
      WHERE document = ${document}
    `;
    await expect(force).rejects.toMatchObject({ constraint_name: 'approved_by_another' });
  });

  it('a second count of one place, also by two at the same moment', async () => {
    const { place } = await fresh();
    const again = { document: 'C-TWICE', places: [place] };
    expect(await refusalsOf(openCount(world.sql, world.actor, again))).toEqual([
      '409 count.closed places'
    ]);
    await putPlace(world.sql, 'RACE', { name: 'race', site: 'S1' });
    const both = await Promise.allSettled(
      ['C-R1', 'C-R2'].map((document) =>
        openCount(world.sql, world.actor, { document, places: ['RACE'] })
      )
    );
    const [refused, ...more] = both.flatMap((one) => (one.status === 'rejected' ? [one] : []));
    expect(more).toEqual([]);
    expect(refused!.reason).toMatchObject({
      status: 409,
      title: 'A place is being counted already'
    });
    const same = await Promise.all(
      [1, 2, 3].map(() =>
        openCount(world.sql, world.actor, { document: 'C-SAME', places: ['LINE'] })
      )
    );
    expect(same.map((one) => one.fresh).sort()).toEqual([false, false, true]);
  });

  it('entries once it has ended, by the database too; and cancelled it books nothing', async () => {
    const { place, document } = await fresh();
    await world.receive('LOT', [{ lot: 'KC' }], '2', place);
    await enter(document, [{ product: 'LOT', place, lot: 'KC', quantity: '1' }]);
    await cancelCount(world.sql, other, document);
    const line = { product: 'LOT', place, lot: 'KC', quantity: '2' };
    expect(await refusalsOf(enter(document, [line]))).toEqual(['422 count.closed document']);
    expect(await refusalsOf(approve(document))).toEqual(['422 count.closed document']);
    const force = world.sql`
      INSERT INTO count_entry
        (count_id, place_id, product_id, kind, number, counted, seen, counted_by)
      SELECT count_id, place_id, product_id, kind, number, 5, seen, counted_by
      FROM count_entry
      WHERE number = 'KC'
      LIMIT 1
    `;
    await expect(force).rejects.toMatchObject({ constraint_name: 'counting_is_open' });
    expect(await lying(place)).toEqual(['KC 2']);
    // The place is free to be counted again.
    await openCount(world.sql, world.actor, { document: 'C-AGAIN', places: [place] });
  });

  it('what is not of it, and what is no quantity, all at once', async () => {
    const { place, document } = await fresh();
    const lines = [
      { product: 'SER', place: 'RACK', serial: 'X' },
      { product: 'NONE', place, quantity: '1' },
      { product: 'SER', place, serial: 'X', quantity: '2' },
      { product: 'LOT', place, lot: 'X' },
      { product: 'BULK', place, quantity: '-1' }
    ];
    expect(await refusalsOf(enter(document, lines))).toEqual([
      '422 place.unknown lines[0].place',
      '422 product.unknown lines[1].product',
      '422 quantity.mismatch lines[2]',
      '422 quantity.mismatch lines[3]',
      '422 quantity.mismatch lines[4]'
    ]);
  });

  it('a place that was emptied in mid-count, until it is counted again', async () => {
    const { place, document } = await fresh();
    await world.receive('LOT', [{ lot: 'KZ' }], '5', place);
    const lot = { product: 'LOT', place, lot: 'KZ' };
    await enter(document, [{ ...lot, quantity: '2' }]);
    const line = { product: 'LOT', from: place, to: 'RACK', lot: 'KZ', quantity: '5' };
    await world.book(move, { document: 'M', kind: 'move', lines: [line] });
    expect(await refusalsOf(approve(document))).toEqual(['422 stock.short lines[0]']);
    await enter(document, [{ ...lot, quantity: '0' }]);
    await approve(document);
    expect(await lying(place)).toEqual([]);
  });

  it('to be approved twice: sent again it answers the same, under another key it has ended', async () => {
    const { place, document } = await fresh();
    await enter(document, [{ product: 'BULK', place, quantity: '6' }]);
    const key = newKey();
    const first = await approve(document, {}, key);
    const again = await approve(document, {}, key);
    expect(again).toEqual({ answer: first.answer, fresh: false });
    expect(await refusalsOf(approve(document))).toEqual(['422 count.closed document']);
    expect(await lying(place)).toEqual(['BULK 6']);
  });

  it('to be approved by two at once', async () => {
    const { place, document } = await fresh();
    await enter(document, [{ product: 'BULK', place, quantity: '7' }]);
    const both = await Promise.allSettled([approve(document), approve(document)]);
    expect(both.map((one) => one.status).sort()).toEqual(['fulfilled', 'rejected']);
    expect(await lying(place)).toEqual(['BULK 7']);
  });
});
