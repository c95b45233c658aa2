import { describe, expect, it } from 'vitest';
import { beyondTime } from './beyond-time.ts';
import type { PartnerEnd } from './traced.ts';

const end = (partner: string, mark: number, event: number): PartnerEnd => ({
  ...{ partner, mark, event, document: `S${event}`, at: '2026-11-01T00:00:00Z' },
  quantity: '1'
});

describe('what is beyond time', () => {
  // A lot topped up in November: A had of it in August, B before and after, C in December.
  const customers = [end('A', 1, 5), end('B', 1, 6), end('B', 1, 9), end('C', 2, 10)];

  it('is a customer all of whose goods were cleared, not one who also had others', () => {
    const found = beyondTime(
      { marks: [1, 2, 3], customers },
      { marks: [1, 2], cleared: [end('A', 1, 5), end('B', 1, 6)] }
    );
    expect(found).toEqual({ marks: [3], partners: ['A'] });
  });
  it('is a customer of marks that are themselves beyond', () => {
    const found = beyondTime({ marks: [1, 2], customers }, { marks: [1], cleared: [] });
    expect(found).toEqual({ marks: [2], partners: ['C'] });
  });
});
