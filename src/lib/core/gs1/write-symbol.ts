import { SEPARATOR, type Symbol } from './element-string.ts';

/**
 * GS1 character set 82 (General Specifications 7.11), as a lot or serial may use it in a symbol.
 */
const SET_82 = /^[!"%&'()*+,\-./0-9:;<=>?A-Z_a-z]{1,20}$/;

/** Why a number cannot stand in a GS1 symbol; null where it can. */
export const unfitForSymbol = (number: string): string | null =>
  number.length > 20
    ? `${number} has ${number.length} characters and a GS1 symbol takes 20`
    : SET_82.test(number)
      ? null
      : `${number} holds a character that no GS1 symbol takes`;

/**
 * Why a number cannot stand in a Digital Link: an address drops a step of one or two dots, encoded
 * or not (RFC 3986, 5.2.4).
 */
export const unfitForLink = (number: string): string | null =>
  /^\.{1,2}$/.test(number) ? `${number} cannot stand in a web address` : null;

const yymmdd = (day: string): string => day.slice(2).replaceAll('-', '');

/**
 * The element string of a mark: GTIN and date first as they have fixed length, then lot and serial,
 * with a separator where another element follows.
 * Source: GS1 General Specifications, section 7.8.
 * @throws never; lot and serial must have been looked at with `unfitForSymbol` before
 */
export function elementString({
  gtin,
  lot,
  serial,
  expires
}: Pick<Symbol, 'gtin' | 'lot' | 'serial' | 'expires'>): string {
  const fixed = `${gtin ? `01${gtin}` : ''}${expires ? `17${yymmdd(expires)}` : ''}`;
  return fixed + [...(lot ? [`10${lot}`] : []), ...(serial ? [`21${serial}`] : [])].join(SEPARATOR);
}

/** The same as people read it under the symbol, identifiers in brackets. */
export const bracketed = ({
  gtin,
  lot,
  serial,
  expires
}: Pick<Symbol, 'gtin' | 'lot' | 'serial' | 'expires'>): string =>
  [
    gtin && `(01)${gtin}`,
    expires && `(17)${yymmdd(expires)}`,
    lot && `(10)${lot}`,
    serial && `(21)${serial}`
  ]
    .filter(Boolean)
    .join('');

/**
 * The GS1 Digital Link of a mark. Source: GS1 Digital Link Standard: URI Syntax.
 * @param base address of the resolver, without a slash at its end
 */
export function digitalLink(
  base: string,
  { gtin, lot, serial, expires }: Pick<Symbol, 'gtin' | 'lot' | 'serial' | 'expires'>
): string {
  const path = [
    ...(gtin ? ['01', gtin] : []),
    ...(lot ? ['10', lot] : []),
    ...(serial ? ['21', serial] : [])
  ]
    .map(encodeURIComponent)
    .join('/');
  return `${base}/${path}${expires ? `?17=${yymmdd(expires)}` : ''}`;
}
