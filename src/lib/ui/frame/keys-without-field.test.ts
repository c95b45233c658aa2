import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { KeysWithoutField, SCANNER_PAUSE_MS } from './keys-without-field.ts';

let said: string[];
let keys: KeysWithoutField;
beforeEach(() => {
  vi.useFakeTimers();
  said = [];
  keys = new KeysWithoutField(
    (text) => said.push(`scan ${text}`),
    (pressed) => said.push(`keys ${pressed.join(' ')}`)
  );
});
afterEach(() => vi.useRealTimers());

/** Keys one after the other, as far apart; which of them were held back. */
const press = (pressed: readonly string[], apart: number): boolean[] =>
  pressed.map((key) => {
    const held = keys.press(key);
    vi.advanceTimersByTime(apart);
    return held;
  });

describe('keys that go to no field', () => {
  it('are a scan where they come as a scanner sends them, and none of them acts', () => {
    expect(press([...'gs1'], 5)).toEqual([true, true, true]);
    expect(said).toEqual(['scan gs1']);
  });

  it('of a scan are told as soon as it is clear: the rest is typed where the focus is then', () => {
    press([...'BOB'], SCANNER_PAUSE_MS - 1);
    expect(said).toEqual(['scan BOB']);
    vi.advanceTimersByTime(1000);
    expect(said).toHaveLength(1);
  });

  it('are keys where somebody presses them', () => {
    press(['g', 's'], SCANNER_PAUSE_MS + 20);
    expect(said).toEqual(['keys g', 'keys s']);
  });

  it('are keys too where two fingers are as quick as a scanner', () => {
    press(['g'], 10);
    press(['s'], SCANNER_PAUSE_MS);
    expect(said).toEqual(['keys g s']);
  });

  it('act before another that ends them: Enter goes where the keys have led', () => {
    expect(press(['j', 'Enter'], 1)).toEqual([true, false]);
    expect(said).toEqual(['keys j']);
  });

  it('are not parted by a shift, and begin with no stroke, question or space', () => {
    expect(press(['Shift', 'B', 'Shift', 'O', 'B'], 5)).toEqual([false, true, false, true, true]);
    expect(press(['/', '?', ' '], 5)).toEqual([false, false, false]);
    expect(said).toEqual(['scan BOB']);
    press(['a', '/', 'b'], 5);
    expect(said.at(-1)).toBe('scan a/b');
  });

  it('that name no character let go of what is held', () => {
    press(['x', 'Escape'], 5);
    expect(said).toEqual(['keys x']);
    keys.release();
    expect(said).toHaveLength(1);
  });
});
