import epcTds from 'epc-tds';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { checkDigit } from './check-digit.ts';
import { readTag, sgtin96, sscc96 } from './epc-96.ts';

const withCheck = (digits: string) => digits + checkDigit(digits);

describe('tags of 96 bits', () => {
  // Source: GS1 EPC Tag Data Standard; the examples as in the shared design, standards.md
  // (recomputed there).
  it('are those of the standard’s examples, both ways', () => {
    expect(sgtin96(withCheck('8061414112345'), 6789, 7, 3)).toBe('3074257BF7194E4000001A85');
    expect(readTag('3074257BF7194E4000001A85')).toEqual({
      ok: true,
      tag: {
        is: 'sgtin',
        filter: 3,
        prefixDigits: 7,
        gtin: withCheck('8061414112345'),
        serial: '6789'
      }
    });
    expect(sscc96(withCheck('10614141234567890'), 7, 3)).toBe('3174257BF4499602D2000000');
    expect(readTag('3174257BF4499602D2000000')).toEqual({
      ok: true,
      tag: { is: 'sscc', filter: 3, prefixDigits: 7, sscc: withCheck('10614141234567890') }
    });
  });
  // Reference library: epc-tds.
  it('say the same as the reference library, for every length of prefix', () => {
    const digits = (length: number) =>
      fc
        .array(fc.integer({ min: 0, max: 9 }), { minLength: length, maxLength: length })
        .map((list) => list.join(''));
    fc.assert(
      fc.property(
        fc.integer({ min: 6, max: 12 }),
        digits(13),
        fc.integer({ min: 0, max: 7 }),
        fc.bigInt({ min: 0n, max: (1n << 38n) - 1n }),
        (prefix, body, filter, serial) => {
          const gtin = withCheck(body);
          const hex = sgtin96(gtin, serial.toString(), prefix, filter);
          const theirs = epcTds.valueOf(hex);
          expect(theirs.toTagURI()).toBe(
            `urn:epc:tag:sgtin-96:${filter}.${gtin.slice(1, 1 + prefix)}.${gtin[0]}${gtin.slice(1 + prefix, 13)}.${serial}`
          );
          expect(readTag(hex)).toEqual({
            ok: true,
            tag: { is: 'sgtin', filter, prefixDigits: prefix, gtin, serial: serial.toString() }
          });
        }
      ),
      { numRuns: 300 }
    );
    fc.assert(
      fc.property(
        fc.integer({ min: 6, max: 12 }),
        digits(17),
        fc.integer({ min: 0, max: 7 }),
        (prefix, body, filter) => {
          const sscc = withCheck(body);
          const hex = sscc96(sscc, prefix, filter);
          expect(epcTds.valueOf(hex).toTagURI()).toBe(
            `urn:epc:tag:sscc-96:${filter}.${sscc.slice(1, 1 + prefix)}.${sscc[0]}${sscc.slice(1 + prefix, 17)}`
          );
          expect(readTag(hex)).toEqual({
            ok: true,
            tag: { is: 'sscc', filter, prefixDigits: prefix, sscc }
          });
        }
      ),
      { numRuns: 300 }
    );
  });
  it('are refused where they are garbled, of another kind, or hold what the standard does not', () => {
    for (const [hex, why] of [
      ['3074257BF71??E4000001A85', '96 bits'],
      ['3074257BF7', '96 bits'],
      ['E2004257BF7194E400001A85', 'header E2'],
      ['307C257BF7194E4000001A85', 'partition'],
      ['307BFFFFFFFFFFFFFFFFFFFF', 'longer']
    ] as const)
      expect(readTag(hex)).toMatchObject({ ok: false, why: expect.stringContaining(why) });
    expect(() => sgtin96(withCheck('8061414112345'), '007', 7)).toThrow(RangeError);
    expect(() => sgtin96(withCheck('8061414112345'), (1n << 38n).toString(), 7)).toThrow(
      RangeError
    );
    expect(() => sscc96(withCheck('10614141234567890'), 5)).toThrow(RangeError);
  });
});
