import { describe, expect, it } from 'vitest';
import { instantAsked } from './instant-asked.ts';

const NOW = new Date('2026-11-30T17:00:00Z');
const BACKUPS = [
  { endedAt: Date.parse('2026-11-10T02:00:00Z') },
  { endedAt: Date.parse('2026-11-30T02:00:00Z') }
];
const asked = (text: string | undefined) => instantAsked(text, BACKUPS, NOW);

describe('the instant a database is brought back to', () => {
  it('is all there is where none is named', () => {
    expect(asked(undefined)).toBeNull();
  });

  it.each([
    ['2026-11-20 14:00', new Date(2026, 10, 20, 14)],
    ['2026-11-20T14:00:30', new Date(2026, 10, 20, 14, 0, 30)],
    ['2026-11-20 14:00 Z', new Date('2026-11-20T14:00:00Z')],
    ['2026-11-20 14:00+02:00', new Date('2026-11-20T12:00:00Z')]
  ])('%s', (text, instant) => {
    expect(asked(text)).toEqual(instant);
  });

  it.each([
    ['yesterday', 'must be a day and a time'],
    ['2026-11-20', 'must be a day and a time'],
    ['2026-02-30 14:00', 'must be a day and a time'],
    ['2026-13-40 14:00', 'must be a day and a time'],
    ['2026-12-01 14:00Z', 'still to come'],
    ['2026-11-10 01:59Z', 'nothing is known from before it']
  ])('not %s', (text, says) => {
    expect(() => asked(text)).toThrow(says);
  });

  it('cannot be reached without a backup', () => {
    expect(() => instantAsked(undefined, [], NOW)).toThrow('No backup was taken yet');
  });
});
