import { describe, expect, it } from 'vitest';
import { glnOf } from './gln-of.ts';

describe('the GLN of a party or place', () => {
  // EPC Tag Data Standard, running examples (from memory): urn:epc:id:sgln:0614141.12345.400 is GLN
  // 0614141123452 with extension 400; the check digit is recomputed.
  it.each([
    ['urn:epc:id:sgln:0614141.12345.400', '0614141123452'],
    ['urn:epc:id:pgln:9521321.00000', '9521321000001'],
    ['https://id.gs1.org/417/9521321000001', '9521321000001'],
    ['https://id.gs1.org/414/0614141123452/254/400', '0614141123452'],
    ['9521321000001', '9521321000001']
  ])('%s is %s', (text, gln) => {
    expect(glnOf(text)).toBe(gln);
  });

  it.each(['9521321000002', 'urn:epc:id:sgln:0614141.1.0', 'Gannet Gas', ''])(
    'is none of “%s”',
    (text) => {
      expect(glnOf(text)).toBeNull();
    }
  );
});
