import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { writeLedger } from './exchange/export-ledger.ts';
import { epcisQueryApart, ledgerApart, tableApart } from './files-apart.ts';
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
