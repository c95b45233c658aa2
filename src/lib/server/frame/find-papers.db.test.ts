import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { putPartner } from '../catalogue/partners-places.ts';
import { captureEvents } from '../exchange/capture.ts';
import { readToldElsewhere } from '../exchange/told-elsewhere.ts';
import { reverse } from '../ledger/kinds.ts';
import { readOrder } from '../orders/read-orders.ts';
import { putOrder } from '../orders/write-order.ts';
import { ship } from '../shipping/kinds.ts';
import { readDeliveryNote } from '../shipping/read-delivery-note.ts';
import { makeWorld, type World } from '../testing/world.ts';
import { find } from './find.ts';

const TODAY = '2026-11-29';
const EPC = 'https://id.gs1.org/01/09521321000018/21/THEIRS-9';

let world: World;
const shipped: number[] = [];
beforeAll(async () => {
  world = await makeWorld();
  await world.receive('LOT', [{ lot: 'P1' }], '10');
  await putOrder(world.sql, world.actor, 'sales', 'SO-PART', {
    ...{ partner: 'CUS', due: '2027-01-01', note: '' },
    lines: [{ product: 'LOT', quantity: '10' }]
  } as never);
  for (const quantity of ['2', '3'])
    shipped.push(
      (
        await world.book(ship, {
          ...{ document: 'SO-PART', customer: 'CUS' },
          lines: [{ product: 'LOT', marks: [{ lot: 'P1', quantity }] }]
        })
      ).event.id
    );
  await putPartner(world.sql, 'GASWORKS', {
    ...{ name: 'Gasworks', supplier: true, customer: false, gln: '9521321000001' }
  });
  await captureEvents(world.sql, world.actor, {
    '@context': ['https://ref.gs1.org/standards/epcis/2.0.0/epcis-context.jsonld'],
    ...{ type: 'EPCISDocument', schemaVersion: '2.0', creationDate: '2026-11-01T00:00:00Z' },
    sender: 'urn:epc:id:pgln:9521321.00000',
    epcisBody: {
      eventList: [
        {
          ...{ type: 'ObjectEvent', action: 'OBSERVE', bizStep: 'shipping', epcList: [EPC] },
          ...{ eventTime: '2026-10-01T10:00:00Z', eventTimeZoneOffset: '+00:00' }
        }
      ]
    }
  });
});
afterAll(() => world.end());

const found = async (text: string) =>
  (await find(world.sql, text, { today: TODAY })).map(
    (hit) => `${hit.type} ${hit.title} ${hit.href}`
  );

describe('part deliveries of an order', () => {
  it('have numbers of their own, which stay when an earlier one is taken back', async () => {
    const papers = () =>
      Promise.all(shipped.map(async (id) => (await readDeliveryNote(world.sql, id))!.document));
    expect(await papers()).toEqual(['SO-PART/1', 'SO-PART/2']);
    await world.book(reverse, {
      ...{ document: 'BACK', event: shipped[0], reason: 'wrong lot' }
    } as never);
    expect(await papers()).toEqual(['SO-PART/1', 'SO-PART/2']);
    expect(await found('so-part/2')).toEqual([`delivery SO-PART/2 /events/${shipped[1]}`]);
    expect(await found('SO-PART/3')).toEqual([]);
  });

  it('stand on the page of the order, with their lots, and say what was taken back', async () => {
    const order = (await readOrder(world.sql, 'sales', 'SO-PART'))!;
    expect(order.eventCount).toBe(3);
    expect(order.events.map((one) => `${one.kind} ${one.paper} ${one.takenBack}`)).toEqual([
      'reversal BACK false',
      'ship SO-PART/2 false',
      'ship SO-PART/1 true'
    ]);
    expect(order.events[1]).toMatchObject({ marks: 1, first: [{ number: 'P1' }] });
  });
});

describe('numbers of others', () => {
  it('are found by themselves, and lead to what was told of them, by whom', async () => {
    expect(await found('theirs-9')).toEqual([
      `elsewhere THEIRS-9 /outside?epc=${encodeURIComponent(EPC)}`
    ]);
    const told = await readToldElsewhere(world.sql, EPC);
    expect(told).toMatchObject({
      total: 1,
      rows: [
        { sender: 'Gasworks', bizStep: 'shipping', names: [{ role: 'epc', epc: EPC, mark: null }] }
      ]
    });
  });

  it('are found by a URN of the same unit too', async () => {
    const told = await readToldElsewhere(world.sql, 'urn:epc:id:sgtin:9521321.000001.THEIRS-9');
    expect(told.total).toBe(1);
  });
});

describe('a certificate', () => {
  it('is found by its number', async () => {
    const [row] = await world.sql<[{ number: number }]>`
      INSERT INTO certificate (content, issued_by)
      VALUES ('{}', ${world.actor.personId})
      RETURNING number
    `;
    const hit = `certificate Certificate ${row.number} /api/v1/certificates/${row.number}`;
    expect(await found(String(row.number))).toEqual([hit]);
    expect(await found(`certificate ${row.number}`)).toEqual([hit]);
  });
});
