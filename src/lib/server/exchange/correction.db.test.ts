import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { epcisDocument, type EpcisEvent } from '../../core/exchange/write.ts';
import { validEpcis } from '../../core/exchange/testing/epcis-schema.ts';
import { reverse } from '../ledger/kinds.ts';
import { ship } from '../shipping/kinds.ts';
import { move } from '../stock/kinds.ts';
import { makeWorld, type World } from '../testing/world.ts';
import { readLedgerEvents } from './ledger-events.ts';
import { tellEvent } from './write-events.ts';

let world: World;
beforeAll(async () => {
  world = await makeWorld();
});
afterAll(() => world.end());

/** What the last events tell: as many as are asked for. */
async function told(last: number): Promise<EpcisEvent[]> {
  const ids = (
    await world.sql<{ id: number }[]>`SELECT id FROM event ORDER BY id DESC LIMIT ${last}`
  ).map((row) => row.id);
  const { events, marks } = await readLedgerEvents(world.sql, ids);
  const all = [...events].sort((a, b) => a.id - b.id).flatMap((one) => tellEvent(one, marks));
  expect(validEpcis(epcisDocument(all, '2026-11-24T00:00:00Z'))).toEqual([]);
  return all;
}
const takeBack = (event: number, serial: string) =>
  world.book(reverse, {
    ...{ document: 'BACK', event, reason: 'miscounted' },
    units: [{ product: 'SER', serial }]
  } as never);
const serialsOf = (event: EpcisEvent): string[] =>
  (event.epcList as string[]).map((epc) => epc.split('/').at(-1)!);
const correctives = (event: EpcisEvent): string[] | undefined =>
  (event.errorDeclaration as { correctiveEventIDs?: string[] } | undefined)?.correctiveEventIDs;

// EPCIS 2.0, section 7.4.1.4: an event that was wrong is told again with an error declaration, which
// names the events that stand in its place.
describe('a reversal of a part', () => {
  it('declares the event wrong and names the one that is right, each time anew, until nothing is left', async () => {
    const { event } = await world.receive('SER', [
      { serial: 'A' },
      { serial: 'B' },
      { serial: 'C' }
    ]);
    const [received] = await told(1);
    await takeBack(event.id, 'B');
    const [wrong, right] = await told(1);
    expect(wrong!.eventID).toBe(received!.eventID);
    expect(serialsOf(right!)).toEqual(['A', 'C']);
    expect(correctives(wrong!)).toEqual([right!.eventID]);
    expect(right).not.toHaveProperty('errorDeclaration');

    await takeBack(event.id, 'A');
    const [then, now] = await told(1);
    expect(then!.eventID).toBe(right!.eventID);
    expect(serialsOf(now!)).toEqual(['C']);
    expect(correctives(then!)).toEqual([now!.eventID]);

    await takeBack(event.id, 'C');
    const [last, ...none] = await told(1);
    expect(last!.eventID).toBe(now!.eventID);
    expect(correctives(last!)).toBeUndefined();
    expect(none).toEqual([]);
  });

  it('that is all of it leaves nothing in its place', async () => {
    await world.receive('LOT', [{ lot: 'L1', quantity: '10' }], '10');
    const { event } = await world.ship([{ product: 'LOT', marks: [{ lot: 'L1', quantity: '4' }] }]);
    await world.book(reverse, {
      ...{ document: 'BACK', event: event.id, reason: 'another order' },
      units: [{ product: 'LOT', lot: 'L1' }]
    } as never);
    const [wrong, ...none] = await told(1);
    expect(wrong).toMatchObject({
      bizStep: 'shipping',
      quantityList: [{ quantity: 4 }],
      errorDeclaration: { reason: 'incorrect_data' }
    });
    expect(none).toEqual([]);
  });
});

describe('a shipment from two places', () => {
  it('tells what left at each read point', async () => {
    await world.receive('SER', [{ serial: 'X' }, { serial: 'Y' }]);
    await world.book(move, {
      ...{ document: 'M', kind: 'move' },
      lines: [{ product: 'SER', serial: 'Y', from: 'DOCK', to: 'RACK' }]
    });
    await world.book(ship, {
      ...{ document: 'S-TWO', customer: 'CUS' },
      lines: [{ product: 'SER', marks: [{ serial: 'X' }, { serial: 'Y' }] }]
    });
    const events = await told(1);
    expect(
      events.map((event) => [(event.readPoint as { id: string }).id, ...serialsOf(event)])
    ).toEqual([
      [expect.stringMatching(/DOCK$/), 'X'],
      [expect.stringMatching(/RACK$/), 'Y']
    ]);
  });
});
