import 'fake-indexeddb/auto';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { BookingSheet } from '../bench/booking-sheet.svelte.ts';
import { DockSheet } from './dock-sheet.svelte.ts';
import { forgetHere } from './forget-here.ts';
import { isDockData, isDockPage, noLinePage } from './kept-pages.ts';
import { sendWaiting } from './send-waiting.ts';
import { dockStore } from './store.ts';
import { beginDock, BOOKED, DRAFT, left, SHEET, type Body, type Server } from './testing/server.ts';
import { Waiting, waiting } from './waiting.svelte.ts';

let server: Server;
let typed: string;
let dock: DockSheet<Body>;
const opened = async (keptAt: string | null = null) => {
  dock = new DockSheet<Body>({
    ...{ login: 'ines', sheet: SHEET, document: 'PO-1', href: '/receive/PO-1' },
    ...{ kind: 'receipts', known: '/receive/PO-1/known' },
    restore: (body) => {
      typed = body.rows;
    }
  });
  const sheet = new BookingSheet<Body>({
    kind: 'receipts',
    sheet: SHEET,
    body: () => ({ rows: typed }),
    request: () => ({ rows: typed }),
    kept: { keptAt },
    readonly: false,
    dock
  });
  await sheet.openKeptHere();
  return sheet;
};
const ended: (() => void)[] = [];

beforeEach(async () => {
  const begun = await beginDock();
  server = begun.server;
  ended.push(begun.end);
  typed = 'A-1';
});
afterEach(() => {
  for (const end of ended.splice(0)) end();
  vi.unstubAllGlobals();
});

describe('a sheet of the dock without a line', () => {
  it('is kept on the device, opens with what was typed, and goes to the server with the line', async () => {
    const sheet = await opened();
    server.isLost = true;
    typed = 'A-1 A-2';
    sheet.changed();
    await expect.poll(() => dock.onlyHere).toBe(true);
    // The page is loaded again.
    typed = '';
    const again = await opened();
    expect(typed).toBe('A-1 A-2');
    server.isLost = false;
    again.changed();
    await expect.poll(() => again.keptAt).not.toBeNull();
    expect(await dockStore.sheetOf('ines', SHEET)).toBeUndefined();
    expect(server.sent.find(({ path }) => path === DRAFT)!.body).toMatchObject({
      body: { rows: 'A-1 A-2' }
    });
  });

  it('asks which of two counts where the draft was changed elsewhere meanwhile', async () => {
    const body = { rows: 'typed here' };
    await dockStore.keep({ ...{ login: 'ines', sheet: SHEET, body }, key: 'k', since: 'at nine' });
    const sheet = await opened('at ten');
    expect(typed).toBe('A-1');
    expect(dock.other).toEqual({ body, key: 'k' });
    sheet.takeKept(dock.other!.body, dock.other!.key);
    expect(typed).toBe('typed here');
  });

  it('is another’s where another is signed in', async () => {
    const body = { rows: 'of Tomas' };
    await dockStore.keep({ ...{ login: 'tomas', sheet: SHEET, body }, key: 'k', since: null });
    await opened();
    expect(typed).toBe('A-1');
  });
});

describe('a booking left on the device', () => {
  it('waits for the line and is booked once under the key it got at the dock', async () => {
    const sheet = await opened();
    server.isLost = true;
    expect(await sheet.book()).toBeNull();
    expect(sheet.refusal?.status).toBe(0);
    await sheet.leaveHere();
    const key = dock.waits!.key;
    expect(server.booked.size).toBe(0);
    server.isLost = false;
    // The answer to the first sending is lost on the way.
    server.losesAnswer = true;
    await waiting.sendAll();
    expect(dock.waits?.key).toBe(key);
    server.losesAnswer = false;
    await waiting.sendAll();
    expect(server.booked).toEqual(new Set([key]));
    expect(sheet.booked).toEqual(BOOKED);
    expect(dock.waits).toBeNull();
    expect(await dockStore.waiting()).toEqual([]);
    expect(await dockStore.sheetOf('ines', SHEET)).toBeUndefined();
  });

  it('is sent by whatever page is open, after a reload too', async () => {
    const { login, sheet, body, key, since } = left();
    await dockStore.keep({ login, sheet, body, key, since });
    await dockStore.putWaiting(left());
    const later = new Waiting();
    ended.push(later.begin('ines'));
    await expect.poll(() => [...server.booked]).toEqual(['k-1']);
    await expect.poll(() => later.list).toEqual([]);
    expect(await dockStore.sheetOf('ines', SHEET)).toBeUndefined();
  });

  it('is not sent for somebody else', async () => {
    await dockStore.putWaiting(left({ login: 'tomas' }));
    await waiting.ofSheet(SHEET);
    await waiting.sendAll();
    expect(server.booked.size).toBe(0);
    expect(waiting.list.length).toBe(1);
    expect(waiting.mine).toEqual([]);
  });

  it('that is refused comes back to its sheet with what was typed, and says why', async () => {
    await dockStore.putWaiting(left());
    server.refusal = { status: 422, message: 'A-1 is known already.' };
    await waiting.ofSheet(SHEET);
    await waiting.sendAll();
    expect(waiting.mine[0]!.refused).toEqual(['A-1 is known already.']);
    expect(server.sent.find(({ method }) => method === 'PUT')).toMatchObject({
      path: DRAFT,
      body: { body: { rows: 'A-1', key: 'k-1' } }
    });
    await waiting.sendAll();
    expect(server.sent.filter(({ path }) => path === '/api/v1/receipts').length).toBe(1);
    await opened();
    expect(waiting.mine).toEqual([]);
  });

  it('that is refused while its sheet is shown is judged there at once, with what was typed', async () => {
    const sheet = await opened();
    server.isLost = true;
    await sheet.book();
    await sheet.leaveHere();
    server.isLost = false;
    server.refusal = { status: 422, message: 'A-1 is known already.' };
    const judged = vi.spyOn(sheet, 'judgeSoon');
    await waiting.sendAll();
    expect(dock.waits).toBeNull();
    expect(judged).toHaveBeenCalledOnce();
    expect(typed).toBe('A-1');
  });

  it('can be changed again before it is sent', async () => {
    const sheet = await opened();
    server.isLost = true;
    await sheet.leaveHere();
    await dock.changeAgain();
    server.isLost = false;
    await waiting.sendAll();
    expect(server.booked.size).toBe(0);
    expect(dock.waits).toBeNull();
  });

  it('that was taken back in another tab is not sent by this one', async () => {
    await dockStore.putWaiting(left());
    server.isLost = true;
    await waiting.ofSheet(SHEET);
    await new Waiting().takeBack('k-1');
    server.isLost = false;
    await waiting.sendAll();
    expect(server.booked.size).toBe(0);
  });

  it('is asked again where the line goes before what was typed is back on the server', async () => {
    await dockStore.putWaiting(left());
    server.refusal = { status: 422, message: 'no' };
    server.losesDrafts = true;
    await waiting.ofSheet(SHEET);
    await waiting.sendAll();
    expect(waiting.mine[0]!.refused).toBeNull();
    server.losesDrafts = false;
    await waiting.sendAll();
    expect(waiting.mine[0]!.refused).toEqual(['no']);
  });

  it('leaves no draft behind that would come after it', async () => {
    const sheet = await opened();
    server.isLost = true;
    sheet.changed();
    await sheet.leaveHere();
    server.isLost = false;
    vi.useFakeTimers();
    await vi.advanceTimersByTimeAsync(60_000);
    vi.useRealTimers();
    await waiting.sendAll();
    expect(server.sent.filter(({ method }) => method === 'PUT')).toEqual([]);
    expect(server.sent.filter(({ method }) => method === 'DELETE').length).toBe(1);
  });

  it.each([0, 401, 423, 429, 500, 503])('waits on where the answer is %i', async (status) => {
    const refusal = { status, title: 'No', errors: [] };
    const became = await sendWaiting(left(), async () => ({ ok: false, refusal }));
    expect(became).toEqual({ what: 'waits' });
  });
});

it('nothing is left on the device when somebody signs out', async () => {
  const { login, sheet, body, key, since } = left();
  await dockStore.keep({ login, sheet, body, key, since });
  await dockStore.putWaiting(left());
  await dockStore.keepKnown('/receive/PO-1/known', 'known');
  await forgetHere();
  expect(await dockStore.sheetOf('ines', SHEET)).toBeUndefined();
  expect(await dockStore.waiting()).toEqual([]);
  expect(await dockStore.known('/receive/PO-1/known')).toBeUndefined();
});

describe('what a device keeps', () => {
  it('is pages of the dock and nothing else', () => {
    const kept = ['/receive', '/receive/PO-1', '/receive/A%2FB', '/ship/SO-1', '/ship/SO-1/pick'];
    expect([...kept, '/ship/SO-1/pack', '/move', '/put-away'].every(isDockPage)).toBe(true);
    const others = ['/', '/receive/PO-1/known', '/value', '/receiver', '/ship/backorders'];
    expect([...others, '/ship/SO-1/choose', '/move/known'].some(isDockPage)).toBe(false);
    expect(isDockData('/receive/PO-1/__data.json')).toBe(true);
    expect(isDockData('/value/__data.json')).toBe(false);
  });

  it('is named where another page was asked for, and not on a locked device', () => {
    const page = noLinePage(['/put-away', '/receive/PO%3C1', '/ship/SO-1/pick'], false);
    expect(page).toContain('>Put away</a>');
    expect(page).toContain('>SO-1, pick</a>');
    expect(page).toContain('<a href="/receive/PO%3C1">PO&#60;1</a>');
    expect(noLinePage(['/receive/PO-1'], true)).not.toContain('PO-1');
  });
});
