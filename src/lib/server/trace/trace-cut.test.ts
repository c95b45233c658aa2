import { describe, expect, it } from 'vitest';
import { readCut } from './trace-cut.ts';

const cut = (query: string) => readCut(new URL(`http://earmark.example/trace/1?${query}`));

describe('where a trace is cut', () => {
  it('is read from its address: a day to its end, an instant as it is', () => {
    expect(cut('until=2026-03-01')).toEqual({ until: new Date('2026-03-01T23:59:59.999Z') });
    expect(cut('until=2026-03-01T10:00:00Z')).toEqual({ until: new Date('2026-03-01T10:00:00Z') });
    expect(cut('without=A,%20B,&skip=repack')).toEqual({
      withoutProducts: ['A', 'B'],
      withoutKinds: ['repack']
    });
    expect(cut('')).toEqual({});
  });
  it('is refused, and not left uncut, where it cannot be read', () => {
    for (const bad of ['until=yesterday', 'until=2026-02-30', 'until=5'])
      expect(() => cut(bad)).toThrow('The trace cannot be cut like this');
    expect(() => cut(`without=${Array.from({ length: 51 }, (_, n) => `P${n}`)}`)).toThrow(
      'The trace cannot be cut like this'
    );
  });
});
