import { describe, expect, it } from 'vitest';
import { makeSscc, readSscc, saySscc } from './sscc.ts';

describe('the number of a carton or pallet', () => {
  // GS1 General Specifications, check digit calculation: 37610425002123456 → 9 (recomputed).
  it('ends in the check digit of the standard’s own example', () => {
    expect(makeSscc('7610425', 3_002_123_456)).toBe('376104250021234569');
    expect(readSscc('376104250021234569')).toBe('376104250021234569');
  });
  it('has eighteen digits for every length of prefix, and carries over into the extension digit', () => {
    for (const prefix of ['952000', '9520001', '95200012', '952000123456'])
      for (const serial of [0, 1, 9999]) expect(makeSscc(prefix, serial)).toMatch(/^\d{18}$/);
    expect(makeSscc('952000123456', 10_000)[0]).toBe('1');
    expect(() => makeSscc('952000123456', 100_000)).toThrow('no more than 100000 SSCCs');
  });
  it('is read as it stands, behind (00), and behind a symbology prefix; a wrong digit is none', () => {
    for (const scan of [
      '(00)376104250021234569',
      '00376104250021234569',
      ']C100376104250021234569',
      ' 376104250021234569 '
    ])
      expect(readSscc(scan)).toBe('376104250021234569');
    for (const scan of ['376104250021234568', '37610425002123456', 'SO-1', ''])
      expect(readSscc(scan)).toBeNull();
    expect(saySscc('376104250021234569')).toBe('(00)376104250021234569');
  });
});
