import { beforeEach, describe, expect, test, vi } from 'vitest';
import type { Reply } from '../frame/api.ts';
import { InPlace } from './in-place.svelte.ts';

const refreshed = vi.hoisted(() => ({ by: (): void => {}, times: 0 }));
vi.mock('../frame/refresh.ts', () => ({
  refresh: async () => {
    refreshed.times++;
    refreshed.by();
  }
}));
vi.mock('$app/navigation', () => ({ beforeNavigate: () => {} }));

const KEPT: Reply<unknown> = { ok: true, status: 200, body: {} };
const refusedWith = (code: string): Reply<unknown> => ({
  ok: false,
  refusal: { status: 422, title: '', errors: [{ code, path: 'name', message: 'no' }] }
});

/** A record with a name, as it stands on the server and is read here. */
let record: { name: string };
let sent: object[];
let answer: () => Reply<unknown>;
let place: InPlace<{ name: string }>;
beforeEach(() => {
  record = { name: 'before' };
  sent = [];
  answer = () => KEPT;
  refreshed.by = () => {};
  refreshed.times = 0;
  place = new InPlace(
    () => ({ ...record }),
    async (form) => {
      sent.push({ ...form });
      return answer();
    }
  );
});

describe('a stretch that is changed where it stands', () => {
  test('is opened with what stands there, and read again once it was kept', async () => {
    place.change();
    expect(place.form).toEqual({ name: 'before' });
    expect(place.changed).toBe(false);
    place.form!.name = 'mine';
    expect(place.changed).toBe(true);
    expect(await place.keep()).toBe(true);
    expect([place.form, place.justKept, refreshed.times]).toEqual([null, true, 1]);
    expect(sent).toEqual([{ name: 'mine' }]);
  });

  test('keeps what was typed where it is refused', async () => {
    answer = () => refusedWith('number.malformed');
    place.change();
    place.form!.name = 'wrong';
    expect(await place.keep()).toBe(false);
    expect(place.form).toEqual({ name: 'wrong' });
    expect([place.busy, place.overtaken, refreshed.times]).toEqual([false, false, 0]);
  });

  test('is not sent where another was read meanwhile, and sent once that was seen', async () => {
    place.change();
    place.form!.name = 'mine';
    record.name = 'theirs';
    expect(await place.keep()).toBe(false);
    expect([place.overtaken, sent.length]).toEqual([true, 0]);
    expect(await place.keep()).toBe(true);
    expect(sent).toEqual([{ name: 'mine' }]);
  });

  test('is read anew where the server has another, and then sent', async () => {
    answer = () => refusedWith('record.changed');
    refreshed.by = () => (record.name = 'theirs');
    place.change();
    place.form!.name = 'mine';
    expect(await place.keep()).toBe(false);
    expect([place.overtaken, refreshed.times, place.form!.name]).toEqual([true, 1, 'mine']);
    answer = () => KEPT;
    expect(await place.keep()).toBe(true);
  });

  test('is sent once however often it is kept', async () => {
    let go = (): void => {};
    const waiting = new Promise<void>((done) => (go = done));
    const slow = new InPlace(
      () => ({ name: '' }),
      async (form) => {
        sent.push(form);
        await waiting;
        return KEPT;
      }
    );
    slow.change();
    const both = [slow.keep(), slow.keep()];
    go();
    expect(await Promise.all(both)).toEqual([true, false]);
    expect(sent).toHaveLength(1);
  });

  test('is left at once where nothing was typed, and else only after asking', () => {
    const asked = vi.fn(() => false);
    vi.stubGlobal('confirm', asked);
    place.change();
    expect(place.leave()).toBe(true);
    expect(asked).not.toHaveBeenCalled();
    place.change();
    place.form!.name = 'half typed';
    expect(place.leave()).toBe(false);
    expect(place.form).toEqual({ name: 'half typed' });
    asked.mockReturnValue(true);
    expect(place.leave()).toBe(true);
    expect(place.form).toBeNull();
    vi.unstubAllGlobals();
  });
});
