import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { writeLedger } from './exchange/export-ledger.ts';
import { captureEvents } from './exchange/capture.ts';
import { captureApart, epcisQueryApart, ledgerApart, tableApart } from './files-apart.ts';
import { receive } from './receiving/kinds.ts';
import { refusalsOf } from './testing/caught.ts';
import { makeWorld, type World } from './testing/world.ts';

let world: World;
beforeAll(async () => {
  world = await makeWorld();
  // The thread opens connections of its own, as the application does.
  process.env.EARMARK_APP_URL = world.appUrl;
  const line = { product: 'SER', place: 'DOCK', quantity: '1', marks: [{ serial: 'FA-1' }] };
  await world.book(receive, { document: 'R-FA', supplier: 'SUP', lines: [line] });
});
afterAll(() => world.end());

const text = (body: Uint8Array): string =>
  new TextDecoder('utf-8', { ignoreBOM: true }).decode(body);

describe('files that are made in a thread', () => {
  it('are what they would be here', async () => {
    const apart = await ledgerApart({}, 'csv', true);
    const here = await writeLedger(world.sql, {}, 'csv', true);
    expect(text(apart.body)).toBe(text(here.body));
    expect(apart).toMatchObject({ name: 'ledger.csv', type: here.type });
    const { body, next } = await epcisQueryApart({ perPage: 30 });
    expect([JSON.parse(text(body)).type, next]).toEqual(['EPCISQueryDocument', null]);
  });

  it('refuse as they would here', async () => {
    const asked = epcisQueryApart({ perPage: 30, nextPageToken: 'none of ours' });
    expect(await refusalsOf(asked)).toEqual(['400 request.malformed nextPageToken']);
  });

  it('take in a document as it would be here: whole or not at all, once however often it is sent', async () => {
    const event = (n: number) => ({
      ...{ type: 'ObjectEvent', action: 'ADD', bizStep: 'commissioning' },
      ...{ eventTime: '2026-02-03T04:05:06Z', eventTimeZoneOffset: '+01:00' },
      epcList: [`https://id.gs1.org/01/04012345111118/21/CA${n}`]
    });
    const document = (eventList: object[]) => ({
      '@context': 'https://ref.gs1.org/standards/epcis/2.0.0/epcis-context.jsonld',
      ...{ type: 'EPCISDocument', schemaVersion: '2.0', creationDate: '2026-02-03T04:05:06Z' },
      epcisBody: { eventList }
    });
    const events = Array.from({ length: 300 }, (_, n) => event(n));
    const sent = JSON.stringify(document(events));
    const wrong = JSON.stringify(document([...events, { ...event(300), eventTime: 'no time' }]));
    expect(await refusalsOf(captureApart(world.actor, wrong))).toEqual([
      '422 request.malformed epcisBody.eventList[300].eventTime'
    ]);
    expect(await captureApart(world.actor, sent)).toMatchObject({ fresh: 300, known: 0 });
    expect(await captureEvents(world.sql, world.actor, document(events))).toMatchObject({
      ...{ events: 300, fresh: 0, known: 300 }
    });
    expect(await refusalsOf(captureApart(world.actor, `${sent},`))).toEqual([
      '400 request.malformed '
    ]);
    const reader = { ...world.actor, roles: ['auditor' as const] };
    expect((await refusalsOf(captureApart(reader, sent)))[0]).toMatch(/^403/);
  });

  it('take rows that are there already', async () => {
    const columns = [
      { key: 'a', says: 'first' },
      { key: 'b', says: 'second' }
    ];
    const rows = [{ a: '007', b: '=1+1' }, { a: 'ü, x' }] as Record<string, string>[];
    const { body, name } = await tableApart('some', 'csv', columns, rows);
    expect(name).toBe('some.csv');
    expect(text(body)).toBe('\uFEFFfirst,second\r\n007,\'=1+1\r\n"ü, x",\r\n');
  });
});
