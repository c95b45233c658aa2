import 'fake-indexeddb/auto';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { BookingSheet } from '../bench/booking-sheet.svelte.ts';
import { DockActs } from './acts.svelte.ts';
import { DockSheet } from './dock-sheet.svelte.ts';
import { dockStore } from './store.ts';
import { beginDock, left, type Body, type Server } from './testing/server.ts';
import { waiting } from './waiting.svelte.ts';

let server: Server;
let end: () => void;
let typed: string;
let dock: DockSheet<Body>;

beforeEach(async () => {
  ({ server, end } = await beginDock());
  typed = 'A-1';
});
afterEach(() => {
  end();
  vi.unstubAllGlobals();
});

describe('a sheet that goes on without what it left', () => {
  const begun = async () => {
    dock = new DockSheet<Body>({
      ...{ login: 'ines', sheet: 'move', document: 'MOVE', href: '/move', isApart: true },
      ...{ kind: 'receipts', known: '/move/known' },
      restore: (body) => {
        typed = body.rows;
      }
    });
    const sheet = new BookingSheet<Body>({
      ...{ kind: 'receipts', sheet: 'move', kept: { keptAt: null }, readonly: false, dock },
      body: () => ({ rows: typed }),
      request: () => ({ rows: typed })
    });
    await sheet.openKeptHere();
    return sheet;
  };
  const leave = async (sheet: BookingSheet<Body>, rows: string) => {
    typed = rows;
    await sheet.leaveHere();
  };
  const receipts = () =>
    server.sent.flatMap(({ path, body }) => (path === '/api/v1/receipts' ? [body] : []));

  it('leaves several, each under its own key, and they are booked in their order', async () => {
    const sheet = await begun();
    server.isLost = true;
    await leave(sheet, 'A-1');
    await leave(sheet, 'A-2');
    expect(dock.waits).toBeNull();
    expect(waiting.mine.length).toBe(2);
    server.isLost = false;
    await waiting.sendAll();
    expect(receipts()).toEqual([{ rows: 'A-1' }, { rows: 'A-2' }]);
    expect(server.booked.size).toBe(2);
    expect(waiting.mine).toEqual([]);
  });

  it('keeps its own draft whatever becomes of what it left', async () => {
    const sheet = await begun();
    server.isLost = true;
    await leave(sheet, 'A-1');
    typed = 'A-2';
    sheet.changed();
    await expect.poll(() => dock.onlyHere).toBe(true);
    server.isLost = false;
    server.refusal = { status: 422, message: 'A-1 lies elsewhere.' };
    await waiting.sendAll();
    expect(server.sent.filter(({ method }) => method !== 'POST' && method !== 'GET')).toEqual([]);
    expect(await dockStore.sheetOf('ines', 'move')).toMatchObject({ body: { rows: 'A-2' } });
    const [refused] = dock.refused;
    expect(refused).toMatchObject({ body: { rows: 'A-1' }, refused: ['A-1 lies elsewhere.'] });
    await waiting.takeBack(refused!.key);
    expect(dock.refused).toEqual([]);
  });

  it('is not told what another sheet left', async () => {
    await begun();
    await dockStore.putWaiting(left({ isApart: true, sheet: 'put-away', refused: ['no'] }));
    await waiting.ofSheet('move');
    expect(waiting.mine.length).toBe(1);
    expect(dock.refused).toEqual([]);
  });
});

describe('acts one by one', () => {
  const PICKS = '/api/v1/receipts';
  const acts = () =>
    new DockActs<{ pick: number }>({
      ...{ login: 'ines', sheet: 'pick SO-1', document: 'SO-1' },
      ...{ href: '/ship/SO-1/pick', known: '/ship/SO-1/known' }
    });

  it('wait in their order, and nothing overtakes them', async () => {
    const picking = acts();
    server.isLost = true;
    const refused = await picking.ask(PICKS, { scan: 'A' }, 'k-a');
    expect(refused).toMatchObject({ ok: false, refusal: { status: 0 } });
    await picking.leave(PICKS, { scan: 'A' }, 'k-a', { pick: 1 });
    await picking.leave(PICKS, { scan: 'B' }, 'k-b', { pick: 2 });
    expect(picking.effects).toEqual([{ pick: 1 }, { pick: 2 }]);
    expect(await picking.ask(PICKS, { scan: 'C' }, 'k-c')).toMatchObject({ ok: false });
    server.isLost = false;
    expect(await picking.ask(PICKS, { scan: 'C' }, 'k-c')).toMatchObject({ ok: true });
    expect([...server.booked]).toEqual(['k-a', 'k-b', 'k-c']);
    expect(picking.effects).toEqual([]);
  });

  it('are not asked about where nobody is known to answer', async () => {
    waiting.isLost = true;
    const refused = await acts().ask(PICKS, { scan: 'A' }, 'k-a');
    waiting.isLost = false;
    expect(refused).toMatchObject({ ok: false, refusal: { status: 0 } });
    expect(server.sent.filter(({ path }) => path === PICKS)).toEqual([]);
  });

  it('keep their order where the clock of the device is put back between them', async () => {
    const picking = acts();
    server.isLost = true;
    vi.useFakeTimers({ toFake: ['Date'], now: new Date('2026-12-01T12:00:00Z') });
    await picking.leave(PICKS, { scan: 'A' }, 'k-a', { pick: 1 });
    vi.setSystemTime(new Date('2026-12-01T10:00:00Z'));
    await picking.leave(PICKS, { scan: 'B' }, 'k-b', { pick: 2 });
    await picking.leave(PICKS, { scan: 'C' }, 'k-c', { pick: 3 });
    vi.useRealTimers();
    server.isLost = false;
    await waiting.sendAll();
    expect([...server.booked]).toEqual(['k-a', 'k-b', 'k-c']);
  });

  it('are told where they did not hold, and given up', async () => {
    const picking = acts();
    await picking.leave(PICKS, { scan: 'A' }, 'k-a', { pick: 1 });
    server.refusal = { status: 422, message: 'A is held.' };
    await waiting.sendAll();
    expect(picking.waits).toEqual([]);
    expect(picking.refused.map(({ refused }) => refused)).toEqual([['A is held.']]);
    await waiting.takeBack('k-a');
    expect(picking.refused).toEqual([]);
  });
});
