import { beforeEach, describe, expect, it } from 'vitest';
import type { Lying } from '../../core/stock/lying.ts';
import type { FindLying, FoundLying } from './find-lying.ts';
import { MovingList } from './moving-list.svelte.ts';
import type { Part } from './moving.ts';

const lot: Lying = {
  ...{ mark: 1, kind: 'lot', number: 'L1', lot: null, product: 'KG', name: 'resin', unit: 'kg' },
  ...{ state: 'usable', from: 'A', fromName: 'S, a', quantity: '10' }
};
const serial: Lying = {
  ...lot,
  ...{ mark: 2, kind: 'serial', number: 'S1', product: 'SER', quantity: '1' }
};
const CARTON = '095200010000000010';

/** What lies there, with or without a line; and how often it was asked. */
class Store {
  known: readonly Lying[] = [lot, serial];
  there: readonly Lying[] = [lot, serial];
  isLost = false;
  isGone = false;

  readonly find: FindLying = async (asked) => {
    if (this.isGone) return { wrong: 'Earmark cannot be reached.' };
    const all = this.isLost ? this.known : this.there;
    const rows = all.filter((row) =>
      'place' in asked ? row.from === asked.place : asked.numbers.includes(row.number!)
    );
    return { rows, total: rows.length, isOfDevice: this.isLost } satisfies FoundLying;
  };
}

let store: Store;
let changes: number;
const opened = (kind: 'move' | 'put away' = 'move', begin: readonly Part[] = []) =>
  new MovingList({
    ...{ kind, begin, kept: null, places: () => ['A', 'B', 'C'], today: () => '2026-12-02' },
    find: store.find,
    changed: () => changes++
  });
const shown = ({ parts }: MovingList): string[] =>
  parts.map(({ row, to, going }) => `${row.number} ${row.from}>${to}${going ? '' : ' stays'}`);

beforeEach(() => {
  store = new Store();
  changes = 0;
});

describe('a list of what is moved', () => {
  it('takes numbers first and then their place, in one paste as scan by scan', async () => {
    const list = opened();
    await list.take('L1\nS1\nb');
    expect(shown(list).sort()).toEqual(['L1 A>B', 'S1 A>B']);
    expect(list.said).toBe('They go to B.');
  });

  it('loses none of many scans, however fast', async () => {
    const list = opened();
    await Promise.all(['L1', 'B', 'S1', 'C'].map((scan) => list.take(scan)));
    expect(shown(list).sort()).toEqual(['L1 A>B', 'S1 A>C']);
  });

  it('offers a place whole where nothing waits for one', async () => {
    const list = opened();
    await list.take('A');
    expect(list.offered).toBe('A');
    await list.takeAllAt('A');
    expect(shown(list)).toHaveLength(2);
    expect(list.offered).toBeNull();
  });

  it('sends cartons where the goods beside them go', async () => {
    const list = opened();
    await list.take(`${CARTON}\nL1`);
    await list.take('B');
    expect(list.units).toEqual([{ sscc: CARTON, to: 'B' }]);
    expect(shown(list)).toEqual(['L1 A>B']);
  });

  it('puts away only what was scanned, once anything is', async () => {
    const begin = [lot, serial].map((row) => ({ row, to: 'B', quantity: '1', going: true }));
    const list = opened('put away', begin);
    await list.take('S1');
    await list.take('C');
    expect(shown(list)).toEqual(['L1 A>B stays', 'S1 A>C']);
  });

  it('says what lies nowhere', async () => {
    const list = opened();
    await list.take('X9');
    expect(list.wrong).toBe('X9 lies nowhere here. Check the number.');
    expect(list.later).toEqual([]);
  });
});

describe('without a line', () => {
  beforeEach(() => {
    store.isLost = true;
    store.known = [lot];
  });

  it('goes on with what the device knows, and keeps what it does not', async () => {
    const list = opened();
    await list.take('L1\nS1\nB');
    expect(shown(list)).toEqual(['L1 A>B']);
    expect(list.later).toEqual(['S1']);
    expect(list.wrong).toBe('');
    expect(changes).toBeGreaterThan(0);
  });

  it('looks for that when the line is back, and asks for its place', async () => {
    const list = opened();
    await list.take('S1\nX9');
    store.isLost = false;
    await list.lookLater();
    expect(shown(list)).toEqual(['S1 A>']);
    expect(list.later).toEqual([]);
    expect(list.wrong).toBe('X9 lies nowhere here. Check the number.');
  });

  it('keeps it as long as nobody answers', async () => {
    const list = opened();
    await list.take('S1');
    await list.lookLater();
    store.isGone = true;
    await list.lookLater();
    expect(list.later).toEqual(['S1']);
    list.dropLater('S1');
    expect(list.later).toEqual([]);
  });

  it('takes up what was refused beside what is on the list, and nothing twice', async () => {
    const list = opened();
    await list.take('L1');
    const again = { row: lot, to: 'C', quantity: '4', going: true };
    list.takeUpAgain({ parts: [again], units: [{ sscc: CARTON, to: 'C' }], document: 'M' });
    expect(shown(list)).toEqual(['L1 A>C']);
    expect(list.units).toHaveLength(1);
  });
});
