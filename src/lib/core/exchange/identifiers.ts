import { unfitForLink, unfitForSymbol } from '../gs1/write-symbol.ts';

/**
 * The canonical resolver of GS1 Digital Links. Source: GS1 Digital Link Standard: URI Syntax,
 * section 4.12 (canonical form), from memory.
 */
const GS1 = 'https://id.gs1.org';

/** A mark as identifiers name it. */
export interface NamedMark {
  product: string;
  gtin: string | null;
  kind: 'lot' | 'serial' | 'bulk';
  number: string | null;
  lot: string | null;
  unit: string;
}

const fits = (number: string | null): number is string =>
  number !== null && unfitForSymbol(number) === null && unfitForLink(number) === null;
const path = (...parts: string[]): string => parts.map(encodeURIComponent).join('/');

/**
 * The identifier of a mark: a GS1 Digital Link where its product has a GTIN and its number fits,
 * otherwise an address of our own.
 * A serial is one object, a lot or unmarked goods a class of objects that is counted.
 * @param base our own address, without a slash at its end
 */
export function epcOf(mark: NamedMark, base: string): string {
  const { product, gtin, kind, number } = mark;
  if (gtin !== null && kind === 'bulk') return `${GS1}/01/${gtin}`;
  if (gtin !== null && fits(number))
    return `${GS1}/${path('01', gtin, kind === 'serial' ? '21' : '10', number)}`;
  return kind === 'bulk'
    ? `${base}/${path('product', product)}`
    : `${base}/${path('product', product, kind, number!)}`;
}

/** The identifier of a carton or pallet. */
export const ssccUri = (sscc: string): string => `${GS1}/00/${sscc}`;
export const placeUri = (code: string, base: string): string => `${base}/${path('place', code)}`;
export const partnerUri = (partner: { code: string; gln: string | null }, base: string): string =>
  partner.gln === null ? `${base}/${path('partner', partner.code)}` : `${GS1}/417/${partner.gln}`;
export const documentUri = (number: string, base: string): string =>
  `${base}/${path('document', number)}`;

/** What an identifier of ours or a GS1 Digital Link names. `unknown` where it is neither. */
export type ReadIdentifier =
  | {
      is: 'mark';
      gtin: string | null;
      product: string | null;
      kind: 'lot' | 'serial' | 'bulk';
      number: string | null;
      lot: string | null;
    }
  | { is: 'unit'; sscc: string }
  | { is: 'unknown' };

/**
 * EPC URNs of trade items and logistic units as GS1 keys. Source: GS1 EPC Tag Data Standard,
 * section 6 (SGTIN, LGTIN, SSCC).
 */
const URN = /^urn:epc:(?:id:(sgtin|sscc)|class:(lgtin)|idpat:(sgtin)):(\d+)\.(\d+)(?:\.(.+))?$/;

/** Reads an identifier: a GS1 Digital Link on any host, an EPC URN, or an address of ours. */
export function readIdentifier(
  uri: string,
  base: string,
  checkDigit: (digits: string) => string
): ReadIdentifier {
  const urn = URN.exec(uri);
  if (urn) {
    const [, id, lgtin, pattern, prefix, reference, rest] = urn;
    const body = reference![0]! + prefix + reference!.slice(1);
    if (id === 'sscc')
      return body.length === 17 ? { is: 'unit', sscc: body + checkDigit(body) } : { is: 'unknown' };
    if (body.length !== 13) return { is: 'unknown' };
    const gtin = body + checkDigit(body),
      number = rest === undefined ? null : decodeURIComponent(rest);
    if (pattern)
      return number === '*' || number === null
        ? { is: 'mark', gtin, product: null, kind: 'bulk', number: null, lot: null }
        : { is: 'unknown' };
    return number === null
      ? { is: 'unknown' }
      : { is: 'mark', gtin, product: null, kind: lgtin ? 'lot' : 'serial', number, lot: null };
  }
  if (uri.startsWith(`${base}/product/`)) {
    const [product, kind, number] = uri
      .slice(base.length + 9)
      .split('/')
      .map(decodeURIComponent);
    if (product && kind === undefined)
      return { is: 'mark', gtin: null, product, kind: 'bulk', number: null, lot: null };
    if (product && (kind === 'lot' || kind === 'serial') && number)
      return { is: 'mark', gtin: null, product, kind, number, lot: null };
    return { is: 'unknown' };
  }
  const link = /^https?:\/\/[^/?#]+(?:\/[^?#]*?)?\/(00|01)\/(\d+)((?:\/[^?#]*)?)/.exec(uri);
  if (!link) return { is: 'unknown' };
  const [, ai, key, more] = link;
  if (ai === '00') return key!.length === 18 ? { is: 'unit', sscc: key! } : { is: 'unknown' };
  const gtin = key!.padStart(14, '0');
  const parts = more!.split('/').slice(1).map(decodeURIComponent);
  const value = (code: string): string | null => {
    const at = parts.indexOf(code);
    return at % 2 === 0 && at >= 0 ? (parts[at + 1] ?? null) : null;
  };
  const serial = value('21'),
    lot = value('10');
  return {
    is: 'mark',
    gtin,
    product: null,
    kind: serial ? 'serial' : lot ? 'lot' : 'bulk',
    number: serial ?? lot,
    lot: serial ? lot : null
  };
}
