import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { epcisDocument, type EpcisEvent } from '../../core/exchange/write.ts';
import { Problem } from '../kernel/problem.ts';
import { quality } from '../quality/kinds.ts';
import { receive } from '../receiving/kinds.ts';
import { amend, correct, move } from '../stock/kinds.ts';
import { reverse } from '../ledger/kinds.ts';
import { putProduct } from '../catalogue/products.ts';
import { readLedgerEvents } from './ledger-events.ts';
import { readRecordSheet, RECORD_COLUMNS } from './record-sheet.ts';
import { readCommonSources } from '../trace/common-source.ts';
import { keepAudit, readLooseEnds, readTrend } from '../trace/loose-ends.ts';
import { writeLedger } from './export-ledger.ts';
import { validEpcis } from '../../core/exchange/testing/epcis-schema.ts';
import { refusalsOf } from '../testing/caught.ts';
import { makeWorld, type World } from '../testing/world.ts';
import { captureEvents } from './capture.ts';
import { eventHash } from './event-hash.ts';
import { readOutside } from './outside.ts';
import { queryEvents } from './query.ts';
import { OUR_CONTEXT, tellEvent } from './write-events.ts';

let world: World;
const BASE = 'https://id.earmark.example';
const idOf = async (number: string) =>
  (
    await world.sql<
      { id: number }[]
    >`SELECT id FROM mark WHERE number = ${number} ORDER BY id LIMIT 1`
  )[0]!.id;
const wrong = async (promised: Promise<unknown>) =>
  promised.then(
    () => {
      throw new Error('It was not refused.');
    },
    (error: Error) => {
      if (error instanceof Problem) return error.errors.map((one) => `${one.path}: ${one.message}`);
      throw error;
    }
  );
const CONTEXT = ['https://ref.gs1.org/standards/epcis/2.0.0/epcis-context.jsonld'];
const document = (eventList: object[], more: object = {}) => ({
  '@context': CONTEXT,
  type: 'EPCISDocument',
  schemaVersion: '2.0',
  creationDate: '2026-11-01T00:00:00Z',
  epcisBody: { eventList },
  ...more
});
const written = async () => {
  const ids = (await world.sql<{ id: number }[]>`SELECT id FROM event ORDER BY id`).map(
    (row) => row.id
  );
  const { events, marks } = await readLedgerEvents(world.sql, ids);
  return events.flatMap((event) => tellEvent(event, marks));
};

// The standard's own examples (EPCIS 2.0, section 9.6: object events of shipping and receiving, and
// a transformation), from memory.
const SHIPPED = {
  type: 'ObjectEvent',
  eventTime: '2005-04-03T20:33:31.116-06:00',
  eventTimeZoneOffset: '-06:00',
  epcList: ['urn:epc:id:sgtin:0614141.107346.2017', 'urn:epc:id:sgtin:0614141.107346.2018'],
  action: 'OBSERVE',
  bizStep: 'shipping',
  disposition: 'in_transit',
  readPoint: { id: 'urn:epc:id:sgln:0614141.07346.1234' },
  bizTransactionList: [{ type: 'po', bizTransaction: 'http://transaction.acme.com/po/12345678' }]
};
const TRANSFORMED = {
  type: 'TransformationEvent',
  eventTime: '2013-10-31T14:58:56.591Z',
  eventTimeZoneOffset: '+02:00',
  inputQuantityList: [
    { epcClass: 'urn:epc:class:lgtin:4012345.011111.4444', quantity: 10, uom: 'KGM' },
    { epcClass: 'urn:epc:class:lgtin:0614141.077777.987', quantity: 30 }
  ],
  inputEPCList: ['urn:epc:id:sgtin:4012345.011122.25'],
  outputEPCList: ['urn:epc:id:sgtin:4012345.077889.25', 'urn:epc:id:sgtin:4012345.077889.26'],
  bizStep: 'commissioning',
  disposition: 'in_progress',
  readPoint: { id: 'urn:epc:id:sgln:4012345.00001.0' }
};

beforeAll(async () => {
  world = await makeWorld();
  await putProduct(world.sql, 'SER', {
    name: 'head',
    unit: 'each',
    decimals: 0,
    made: false,
    marking: 'serial',
    gtin: '04012345778892'
  } as never);
  await world.receive('LOT', [{ lot: 'GLUE' }], '10');
  await world.receive('KG', [{ lot: 'RESIN' }], '5.5');
  await world.receive('SER', [{ serial: '25' }, { serial: '26' }]);
  await world.build([
    {
      outputs: [{ product: 'MADE', serial: 'U1', quantity: '1' }],
      inputs: [
        { product: 'LOT', lot: 'GLUE', quantity: '2' },
        { product: 'SER', serial: '25', quantity: '1' }
      ]
    },
    {
      outputs: [{ product: 'MADE', serial: 'U2', quantity: '1' }],
      inputs: [{ product: 'KG', lot: 'RESIN', quantity: '0.25' }]
    }
  ]);
  await world.book(move, {
    document: 'M',
    kind: 'move',
    lines: [{ product: 'LOT', lot: 'GLUE', from: 'DOCK', to: 'RACK', quantity: '3' }]
  });
  await world.book(quality, {
    document: 'H',
    kind: 'hold',
    reason: 'look',
    marks: [{ product: 'KG', lot: 'RESIN' }]
  });
  await world.book(correct, {
    document: 'S',
    kind: 'scrap',
    reason: 'burst',
    lines: [{ product: 'LOT', lot: 'GLUE', place: 'RACK', quantity: '1' }]
  });
  await world.ship([{ product: 'MADE', marks: [{ serial: 'U1' }] }]);
  const [build] = await world.sql<{ id: number }[]>`SELECT id FROM event WHERE kind = 'build'`;
  await world.book(reverse, {
    document: 'RV',
    reason: 'wrong unit',
    event: build!.id,
    units: [{ product: 'MADE', serial: 'U2' }]
  });
});
afterAll(() => world.end());

describe('our ledger as EPCIS', () => {
  it('is valid by the standard’s own schema, every kind of event, with its business step', async () => {
    const events = await written();
    expect(validEpcis(epcisDocument(events, '2026-11-24T00:00:00Z'))).toEqual([]);
    expect(new Set(events.map((event) => event.bizStep))).toEqual(
      new Set(['receiving', 'assembling', 'storing', 'holding', 'destroying', 'shipping'])
    );
    expect(events.find((event) => event.bizStep === 'destroying')).toMatchObject({
      action: 'DELETE',
      disposition: 'destroyed',
      quantityList: [{ quantity: 1 }]
    });
    expect(events.find((event) => event.bizStep === 'holding')).toMatchObject({
      quantityList: [{ epcClass: `${BASE}/product/KG/lot/RESIN` }]
    });
    expect(
      events.filter((event) => event.type === 'TransformationEvent').slice(0, 1)
    ).toMatchObject([
      {
        inputEPCList: ['https://id.gs1.org/01/04012345778892/21/25'],
        inputQuantityList: [{ epcClass: `${BASE}/product/LOT/lot/GLUE`, quantity: 2 }],
        outputEPCList: [`${BASE}/product/MADE/serial/U1`]
      }
    ]);
  });
  it('declares only what a partial reversal took back as wrong: one unit of two', async () => {
    const declared = (await written()).filter((event) => event.errorDeclaration);
    expect(declared).toMatchObject([
      {
        type: 'TransformationEvent',
        outputEPCList: [`${BASE}/product/MADE/serial/U2`],
        errorDeclaration: { reason: 'incorrect_data' }
      }
    ]);
    expect(declared[0]!.errorDeclaration).not.toHaveProperty('correctiveEventIDs');
  });
  it('gives each event the hash identifier of the standard: the same for the same event, whoever wrote it down and when', async () => {
    const [event] = await written();
    const hash = eventHash(event!, OUR_CONTEXT);
    expect(hash).toMatch(/^ni:\/\/\/sha-256;[0-9a-f]{64}\?ver=CBV2\.0$/);
    const shuffled = Object.fromEntries(
      Object.entries({
        ...event!,
        recordTime: '2030-01-01T00:00:00Z',
        eventID: 'urn:uuid:1'
      }).reverse()
    ) as EpcisEvent;
    expect(eventHash(shuffled, OUR_CONTEXT)).toBe(hash);
    expect(eventHash({ ...event!, disposition: 'expired' }, OUR_CONTEXT)).not.toBe(hash);
  });
});

describe('a captured document', () => {
  it('is kept once however often it is sent, and changes no stock', async () => {
    const before = await world.sql`SELECT mark_id, place_id, quantity FROM stock ORDER BY 1, 2`;
    const sent = document([SHIPPED, TRANSFORMED], { sender: 'urn:epc:id:pgln:4012345.00000' });
    expect(validEpcis(sent)).toEqual([]);
    expect(await captureEvents(world.sql, world.actor, sent)).toMatchObject({
      events: 2,
      fresh: 2,
      known: 0,
      foreign: expect.arrayContaining(['https://id.gs1.org/01/10614141073464/21/2017'])
    });
    expect(await captureEvents(world.sql, world.actor, sent)).toMatchObject({ fresh: 0, known: 2 });
    const both = await Promise.all(
      Array.from({ length: 6 }, () =>
        captureEvents(
          world.sql,
          world.actor,
          document([{ ...SHIPPED, eventTime: '2005-05-05T00:00:00Z' }])
        )
      )
    );
    expect(both.reduce((sum, one) => sum + one.fresh, 0)).toBe(1);
    expect(await world.sql`SELECT mark_id, place_id, quantity FROM stock ORDER BY 1, 2`).toEqual(
      before
    );
  });
  it('joins the trace: what our received serial was made of, as the other firm told it, marked as from outside', async () => {
    const outside = await readOutside(world.sql, [await idOf('25')], 'upstream');
    expect(outside).toMatchObject([
      {
        type: 'TransformationEvent',
        ours: [await idOf('25')],
        names: expect.arrayContaining([
          {
            role: 'input',
            epc: 'https://id.gs1.org/01/04012345111118/10/4444',
            quantity: '10',
            uom: 'KGM'
          }
        ])
      }
    ]);
    expect(await readOutside(world.sql, [await idOf('GLUE')], 'upstream')).toEqual([]);
    expect(await readOutside(world.sql, [await idOf('25')], 'downstream')).toMatchObject([
      { type: 'TransformationEvent' }
    ]);
  });
  it('is refused with everything that is wrong with it: foreign context, broken dates, missing fields; then nothing of it is kept', async () => {
    const [before] = await world.sql`SELECT count(*)::int AS n FROM foreign_event`;
    expect(
      await wrong(
        captureEvents(world.sql, world.actor, {
          ...document([SHIPPED]),
          '@context': 'https://example.com/other.jsonld'
        })
      )
    ).toEqual([
      expect.stringContaining('@context: The document does not name the context of EPCIS 2.0')
    ]);
    const faults = await wrong(
      captureEvents(
        world.sql,
        world.actor,
        document([
          { ...SHIPPED, eventTime: '2005-13-45' },
          { ...SHIPPED, eventTimeZoneOffset: 'CET' },
          { ...SHIPPED, action: 'LOOK' },
          { ...SHIPPED, type: 'Happening' },
          { ...SHIPPED, epcList: ['no uri'] },
          {
            ...TRANSFORMED,
            inputQuantityList: [{ epcClass: 'urn:epc:class:lgtin:1.2.3', quantity: -1 }]
          },
          { ...SHIPPED, epcList: [] },
          {
            type: 'AggregationEvent',
            eventTime: '2020-01-01T00:00:00Z',
            eventTimeZoneOffset: '+00:00',
            action: 'ADD',
            childEPCs: ['urn:x:1']
          }
        ])
      )
    );
    expect(faults.map((one) => one.split(':')[0])).toEqual(
      [0, 1, 2, 3, 4, 5, 6, 7].map((n) => expect.stringContaining(`epcisBody.eventList[${n}]`))
    );
    expect(await wrong(captureEvents(world.sql, world.actor, { some: 'thing' }))).toHaveLength(2);
    expect(
      await wrong(
        captureEvents(world.sql, world.actor, document([SHIPPED], { schemaVersion: '1.2' }))
      )
    ).toEqual([expect.stringContaining('Version 1.2')]);
    expect(await world.sql`SELECT count(*)::int AS n FROM foreign_event`).toEqual([before]);
    await expect(
      captureEvents(world.sql, { ...world.actor, roles: ['auditor'] }, document([SHIPPED]))
    ).rejects.toMatchObject({ status: 403 });
  });
});

describe('a query', () => {
  const all = async (query: object, perPage = 3) => {
    const events: EpcisEvent[] = [];
    let next: string | null = null;
    do {
      const page: Awaited<ReturnType<typeof queryEvents>> = await queryEvents(world.sql, {
        ...query,
        perPage,
        ...(next ? { nextPageToken: next } : {})
      });
      expect(page.events.length).toBeLessThanOrEqual(perPage);
      events.push(...page.events);
      next = page.next;
    } while (next);
    return events;
  };
  it('gives every event once, in time order, ours and from outside, page by page', async () => {
    const [one, ten] = [await all({}, 1), await all({}, 100)];
    expect(one.map((event) => JSON.stringify(event))).toEqual(
      ten.map((event) => JSON.stringify(event))
    );
    // What takes an event back stands where it was taken back, with the time of the event itself.
    const times = ten
      .filter((event) => !event.errorDeclaration)
      .map((event) => Date.parse(event.eventTime));
    expect(times).toEqual([...times].sort((a, b) => a - b));
    expect(ten.filter((event) => event['earmark:outside'])).toHaveLength(3);
    expect(
      validEpcis({
        '@context': [...CONTEXT, OUR_CONTEXT],
        type: 'EPCISQueryDocument',
        schemaVersion: '2.0',
        creationDate: '2026-11-24T00:00:00Z',
        epcisBody: {
          queryResults: { queryName: 'SimpleEventQuery', resultsBody: { eventList: ten } }
        }
      })
    ).toEqual([]);
  });
  it('finds by EPC, class, business step, type, time and place', async () => {
    expect(
      (await all({ MATCH_anyEPC: 'urn:epc:id:sgtin:4012345.077889.25' })).map(
        (event) => event.bizStep
      )
    ).toEqual(['commissioning', 'receiving', 'assembling']);
    expect(
      await all({ MATCH_anyEPCClass: `${BASE}/product/KG/lot/RESIN`, EQ_bizStep: 'holding' })
    ).toHaveLength(1);
    expect(
      (await all({ EQ_bizStep: 'shipping', eventType: 'ObjectEvent' }))
        .map((event) => event.eventTime.slice(0, 4))
        .sort()
    ).toEqual(['2005', '2005', String(new Date().getFullYear())]);
    expect(await all({ LT_eventTime: '2010-01-01T00:00:00Z' })).toHaveLength(2);
    expect(
      (await all({ EQ_readPoint: `${BASE}/place/RACK`, EQ_action: 'OBSERVE' })).map(
        (event) => event.bizStep
      )
    ).toEqual(['storing']);
    expect(await all({ MATCH_anyEPC: 'urn:epc:id:sgtin:9999999.000000.1' })).toEqual([]);
    await expect(
      queryEvents(world.sql, { perPage: 5, nextPageToken: 'nonsense' })
    ).rejects.toMatchObject({ status: 400 });
  });
});

describe('records to hand out', () => {
  // Key data elements of 21 CFR part 1 subpart S, sections 1.1340, 1.1345 and 1.1350, from memory.
  it('have the key data elements of receiving, transformation and shipping', async () => {
    expect(RECORD_COLUMNS.map((column) => column.says)).toEqual(
      expect.arrayContaining([
        'traceability lot code',
        'quantity',
        'unit of measure',
        'product description',
        'location',
        'date',
        'immediate previous source',
        'immediate subsequent recipient',
        'traceability lot code source',
        'reference document type',
        'reference document number'
      ])
    );
    const rows = await readRecordSheet(world.sql, {});
    expect(rows.find((row) => row.event === 'receiving' && row.code === 'GLUE')).toMatchObject({
      quantity: '10',
      unit: 'each',
      source: 'Supplier',
      codeSource: 'Supplier',
      location: expect.stringContaining('dock')
    });
    expect(
      rows.find((row) => row.event === 'transformation, made' && row.code === 'U1')
    ).toMatchObject({ quantity: '1', codeSource: 'Our company', with: 'GLUE, 25' });
    // Each unit leads to its own parts by the number of their transformation.
    const made = rows.find((row) => row.event === 'transformation, made' && row.code === 'U1')!;
    expect(
      rows
        .filter((row) => row.tie === made.tie && row.event === 'transformation, used')
        .map((row) => `${row.code} ${row.quantity} into ${row.with}`)
    ).toEqual(['GLUE 2 into U1', '25 1 into U1']);
    expect(rows.find((row) => row.event === 'shipping')).toMatchObject({
      code: 'U1',
      recipient: 'Customer'
    });
    expect(
      (await readRecordSheet(world.sql, { number: 'glue' })).every((row) => row.record !== '2')
    ).toBe(true);
    expect(await readRecordSheet(world.sql, { to: '2001-01-01' })).toEqual([]);
  });
  it('are the ledger with what it changed, old and new, what it went on in spite of, and its papers', async () => {
    await world.book(receive, {
      ...{ document: 'PO-C', supplier: 'SUP', reference: 'DN-77' },
      lines: [
        { product: 'LOT', place: 'DOCK', quantity: '2', unitCost: '1.25', marks: [{ lot: 'C-2' }] }
      ]
    } as never);
    await world.book(amend, {
      ...{ document: 'A', reason: 'label read again' },
      lines: [{ product: 'LOT', lot: 'C-2', to: { expires: '2031-01-01' } }]
    } as never);
    const { body } = await writeLedger(world.sql, { number: 'C-2' }, 'csv', true);
    const [head, ...lines] = new TextDecoder()
      .decode(body)
      .replace(/^\uFEFF/, '')
      .split('\r\n')
      .filter(Boolean)
      .map((line) => line.split(/[,;]/).map((cell) => cell.replaceAll('"', '')));
    const rows = lines.map((line) =>
      Object.fromEntries(line.map((cell, at) => [head![at]!, cell]))
    );
    expect(rows).toMatchObject([
      { row: 'moved', 'their paper': 'DN-77', quantity: '2', 'unit cost': '1.25' },
      {
        ...{ row: 'changed', number: 'C-2', changed: 'expires_on', 'old value': '' },
        ...{ 'new value': '2031-01-01', reason: 'label read again' }
      }
    ]);
  });
  it('are the ledger as table and as EPCIS', async () => {
    const csv = new TextDecoder().decode((await writeLedger(world.sql, {}, 'csv', true)).body);
    expect(csv.split('\r\n').length).toBeGreaterThan(14);
    expect(
      validEpcis(
        JSON.parse(
          new TextDecoder().decode(
            (await writeLedger(world.sql, { number: 'U1' }, 'epcis', true)).body
          )
        )
      )
    ).toEqual([]);
  });
});

describe('a common source', () => {
  it('is the planted lot, through several levels; without one, nothing stands out', async () => {
    await world.receive(
      'LOT',
      [
        { lot: 'ILL', quantity: '20' },
        { lot: 'WELL', quantity: '200' }
      ],
      '220'
    );
    await world.receive('KG', [{ lot: 'COMMON' }], '100');
    const unit = (n: number, lot: string) => ({
      outputs: [{ product: 'MADE', serial: `C${n}`, quantity: '1' }],
      inputs: [
        { product: 'LOT', lot, quantity: '1' },
        { product: 'KG', lot: 'COMMON', quantity: '0.1' }
      ]
    });
    await world.build(Array.from({ length: 60 }, (_, n) => unit(n, n < 8 ? 'ILL' : 'WELL')));
    const ids = await Promise.all(Array.from({ length: 6 }, (_, n) => idOf(`C${n}`)));
    const found = await readCommonSources(world.sql, ids, 'product');
    expect(found).toMatchObject({ troubled: 6, population: 62 });
    expect(found.sources[0]).toMatchObject({
      says: 'ILL of LOT',
      standsOut: true,
      coverage: 1,
      troubled: 6,
      population: 8
    });
    expect(found.sources.find((one) => one.says === 'COMMON of KG')).toMatchObject({
      standsOut: false
    });
    const mixed = await readCommonSources(
      world.sql,
      await Promise.all(['C1', 'C20', 'C40'].map(idOf)),
      'product'
    );
    expect(mixed.standsOut).toBe(0);
    expect(
      (
        await readCommonSources(
          world.sql,
          ids,
          await Promise.all(['C0', 'C1', 'C50', 'C51'].map(idOf))
        )
      ).population
    ).toBe(8);
    expect(await wrong(readCommonSources(world.sql, ids.slice(0, 1), 'product'))).toEqual([
      expect.stringContaining('at least two')
    ]);
  });
});

describe('the standing audit', () => {
  it('finds breaks of each kind, with where they are mended, and keeps the day’s count', async () => {
    const day = new Date().toISOString().slice(0, 10);
    expect((await readLooseEnds(world.sql, day)).counts['balance open']).toBe(0);
    // A unit made of nothing named, shipped; a lot past its date; a movement that no transformation
    // says, written past the application.
    await world.build([
      { outputs: [{ product: 'MADE', serial: 'BARE', quantity: '1' }], inputs: [] }
    ]);
    await world.ship([{ product: 'MADE', marks: [{ serial: 'BARE' }] }]);
    await world.receive('LOT', [{ lot: 'OLD', expires: '2020-01-01' }], '3');
    await world.sql.begin(async (tx) => {
      const [event] = await tx<{ id: number }[]>`
        INSERT INTO event (kind, document, happened_at, booked_by)
        VALUES ('build', 'BROKEN', now(), ${world.actor.personId})
        RETURNING id
      `;
      await tx`
        INSERT INTO movement (event_id, mark_id, place_id, quantity)
        SELECT ${event!.id}, m.id, s.place_id, -1
        FROM mark m
          JOIN stock s ON s.mark_id = m.id AND s.quantity > 0
        WHERE m.number = 'WELL'
      `;
    });
    const audit = await keepAudit(world.sql, day);
    const of = (kind: string) =>
      audit.ends.filter((end) => end.kind === kind).map((end) => `${end.title}: ${end.says}`);
    expect(of('origin unknown')).toEqual(['BARE of MADE: 1 each shipped']);
    expect(of('expired on hand')).toEqual(['OLD of LOT: 3 each still here']);
    expect(of('balance open')).toEqual(['WELL of LOT: -1 each moved that no transformation says']);
    expect(audit.ends.every((end) => end.href.startsWith('/') && end.mend !== '')).toBe(true);
    expect(await readTrend(world.sql)).toEqual([{ day, count: audit.ends.length }]);
    await keepAudit(world.sql, day);
    expect(await readTrend(world.sql)).toHaveLength(1);
  });
});

describe('an event’s own id', () => {
  it('is its sender’s: an id another used first keeps nothing out, and other content under it is refused', async () => {
    const named = { ...SHIPPED, eventTime: '2006-06-06T00:00:00Z', eventID: 'urn:uuid:squatted' };
    const sent = (sender: string, event: object) =>
      captureEvents(world.sql, world.actor, document([event], { sender } as never));
    const squatter = 'urn:epc:id:pgln:4000001.00000';
    const maker = 'urn:epc:id:pgln:4000002.00000';
    expect(await sent(squatter, { ...named, action: 'ADD' })).toMatchObject({ fresh: 1 });
    expect(await sent(maker, named)).toMatchObject({ fresh: 1, known: 0 });
    const again = { ...named, recordTime: '2031-01-01T00:00:00Z' };
    expect(await sent(maker, again)).toMatchObject({ fresh: 0, known: 1 });
    const other = sent(maker, { ...named, eventTime: '2007-07-07T00:00:00Z' });
    expect(await refusalsOf(other)).toEqual(['409 key.used epcisBody.eventList[0].eventID']);
    const twice = document([named, { ...named, eventTime: '2008-08-08T00:00:00Z' }], {
      sender: 'urn:epc:id:pgln:4000003.00000'
    } as never);
    const both = captureEvents(world.sql, world.actor, twice);
    expect(await refusalsOf(both)).toEqual(['409 key.used epcisBody.eventList[1].eventID']);
  });
});
