import { checkDigit } from './check-digit.ts';

/**
 * The 96-bit tag encodings of serialised trade items and logistic units, both ways.
 * Source: GS1 EPC Tag Data Standard, sections 14.6.1 (SGTIN-96) and 14.6.2 (SSCC-96), with their
 * partition tables.
 */

/**
 * Bits of the company prefix by its number of digits, 6 to 12; the rest of 44 (SGTIN) or 58 (SSCC)
 * bits is the reference.
 */
const PREFIX_BITS: Record<number, number> = { 12: 40, 11: 37, 10: 34, 9: 30, 8: 27, 7: 24, 6: 20 };
const SGTIN_HEADER = 0x30n,
  SSCC_HEADER = 0x31n;
const MOST_SERIAL = (1n << 38n) - 1n;

export interface Sgtin {
  is: 'sgtin';
  filter: number;
  prefixDigits: number;
  /** Fourteen digits. */ gtin: string;
  serial: string;
}
export interface SsccTag {
  is: 'sscc';
  filter: number;
  prefixDigits: number;
  /** Eighteen digits. */ sscc: string;
}
export type TagReading = { ok: true; tag: Sgtin | SsccTag } | { ok: false; why: string };

/**
 * Header, filter, partition, company prefix and reference, as bits. @throws RangeError for a prefix
 * that has no partition
 */
function beginTag(
  header: bigint,
  filter: number,
  prefixDigits: number,
  prefix: string,
  reference: string,
  width: number
): string {
  const bits = PREFIX_BITS[prefixDigits];
  if (bits === undefined)
    throw new RangeError(`a company prefix of ${prefixDigits} digits is none`);
  return (
    inBits(header, 8) +
    inBits(BigInt(filter), 3) +
    inBits(BigInt(12 - prefixDigits), 3) +
    inBits(BigInt(prefix), bits) +
    inBits(BigInt(reference), width - bits)
  );
}
const inBits = (value: bigint, length: number): string => value.toString(2).padStart(length, '0');
const inHex = (bits: string): string =>
  BigInt(`0b${bits}`).toString(16).toUpperCase().padStart(24, '0');

/**
 * A GTIN and a serial as the 24 hexadecimal digits of a tag.
 * @param gtin fourteen digits
 * @param serial a plain number below 2^38 without leading zeros: all that 96 bits hold
 * @throws RangeError where they do not fit; the caller makes serials that do
 */
export function sgtin96(
  gtin: string,
  serial: string | number,
  prefixDigits: number,
  filter = 1
): string {
  if (!/^(0|[1-9]\d*)$/.test(String(serial)) || BigInt(serial) > MOST_SERIAL)
    throw new RangeError(`serial ${serial} does not fit 38 bits`);
  return inHex(
    beginTag(
      SGTIN_HEADER,
      filter,
      prefixDigits,
      gtin.slice(1, 1 + prefixDigits),
      gtin[0]! + gtin.slice(1 + prefixDigits, 13),
      44
    ) + inBits(BigInt(serial), 38)
  );
}

/**
 * An SSCC as the 24 hexadecimal digits of a tag; its last 24 bits are zero. @param sscc eighteen
 * digits
 */
export function sscc96(sscc: string, prefixDigits: number, filter = 2): string {
  return inHex(
    beginTag(
      SSCC_HEADER,
      filter,
      prefixDigits,
      sscc.slice(1, 1 + prefixDigits),
      sscc[0]! + sscc.slice(1 + prefixDigits, 17),
      58
    ) + '0'.repeat(24)
  );
}

/** Reads the 24 hexadecimal digits of a tag. A foreign or broken code is said in words. */
export function readTag(hex: string): TagReading {
  if (!/^[0-9a-f]{24}$/i.test(hex))
    return { ok: false, why: 'it does not hold 96 bits that can be read' };
  const bits = BigInt(`0x${hex}`).toString(2).padStart(96, '0');
  const take = (from: number, length: number): bigint =>
    BigInt(`0b${bits.slice(from, from + length)}`);
  const header = take(0, 8);
  if (header !== SGTIN_HEADER && header !== SSCC_HEADER)
    return {
      ok: false,
      why: `its header ${hex.slice(0, 2).toUpperCase()} is of another kind of code`
    };
  const filter = Number(take(8, 3)),
    partition = Number(take(11, 3));
  if (partition > 6) return { ok: false, why: 'its partition is none the standard has' };
  const prefixDigits = 12 - partition,
    prefixBits = PREFIX_BITS[prefixDigits]!;
  const whole = header === SGTIN_HEADER ? 44 : 58,
    digits = (header === SGTIN_HEADER ? 13 : 17) - prefixDigits;
  const prefix = take(14, prefixBits).toString().padStart(prefixDigits, '0'),
    reference = take(14 + prefixBits, whole - prefixBits)
      .toString()
      .padStart(digits, '0');
  if (prefix.length > prefixDigits || reference.length > digits)
    return { ok: false, why: 'its numbers are longer than the standard lets them be' };
  const body = reference[0]! + prefix + reference.slice(1);
  const number = body + checkDigit(body);
  return header === SGTIN_HEADER
    ? {
        ok: true,
        tag: { is: 'sgtin', filter, prefixDigits, gtin: number, serial: take(58, 38).toString() }
      }
    : { ok: true, tag: { is: 'sscc', filter, prefixDigits, sscc: number } };
}
