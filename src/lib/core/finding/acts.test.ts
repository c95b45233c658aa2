import { describe, expect, it } from 'vitest';
import { rolesWith } from '../people/rights.ts';
import { ACTS, readActs } from './acts.ts';

const asked = (text: string) =>
  readActs(text).map(({ act, of }) => [act.says, of, act.href(of || 'X')]);

describe('an act that is typed', () => {
  it.each([
    ['count C1', 'Count', 'C1', '/count?place=C1'],
    ['Count rack C1', 'Count', 'C1', '/count?place=C1'],
    ['count the place rack C1', 'Count', 'C1', '/count?place=C1'],
    ['move everything at QW-C1', 'Move everything at', 'QW-C1', '/move?place=QW-C1'],
    ['recall BOB-2511', 'Recall', 'BOB-2511', '/recall/new?mark=BOB-2511'],
    ['recall lot BOB-2511', 'Recall', 'BOB-2511', '/recall/new?mark=BOB-2511'],
    ['ship SO-1/2', 'Ship', 'SO-1/2', '/ship/SO-1%2F2']
  ])('%s', (text, says, of, href) => expect(asked(text)).toContainEqual([says, of, href]));

  it('opens a screen by the beginnings of its words', () => {
    expect(asked('new sal').map(([says]) => says)).toEqual(['New sales order']);
    expect(asked('loose')).toEqual([['Loose ends', '', '/loose-ends']]);
    expect(asked('new').length).toBeGreaterThan(3);
  });
  it('is none where a number only begins like one', () => {
    expect(asked('co-2511')).toEqual([]);
    expect(asked('coun C1')).toEqual([]);
    expect(asked('counter 7')).toEqual([]);
    expect(asked('r')).toEqual([]);
    expect(asked('')).toEqual([]);
  });
  it('asks a right that somebody has', () => {
    for (const act of ACTS) expect(rolesWith(act.right), act.says).not.toEqual([]);
  });
});
