import { hasGoodCheckDigit } from './check-digit.ts';

/** What Earmark takes from a GS1 symbol; dates are `YYYY-MM-DD`. */
export interface Symbol {
  sscc?: string;
  /** Fourteen digits. */
  gtin?: string;
  lot?: string;
  serial?: string;
  made?: string;
  bestBefore?: string;
  expires?: string;
  count?: string;
  gln?: string;
}

export type SymbolReading = { ok: true; symbol: Symbol } | { ok: false; why: string };

interface Identifier {
  field: keyof Symbol | null;
  /** fixed length of the data, or null for up to `most` */ fixed: number | null;
  most: number;
  date?: true;
}

/**
 * The identifiers read here. Source: GS1 General Specifications, section 3 (quoted from memory in
 * the design).
 */
const IDENTIFIERS: Record<string, Identifier> = {
  '00': { field: 'sscc', fixed: 18, most: 18 },
  '01': { field: 'gtin', fixed: 14, most: 14 },
  '02': { field: null, fixed: 14, most: 14 },
  '10': { field: 'lot', fixed: null, most: 20 },
  '11': { field: 'made', fixed: 6, most: 6, date: true },
  '13': { field: null, fixed: 6, most: 6, date: true },
  '15': { field: 'bestBefore', fixed: 6, most: 6, date: true },
  '16': { field: null, fixed: 6, most: 6, date: true },
  '17': { field: 'expires', fixed: 6, most: 6, date: true },
  '20': { field: null, fixed: 2, most: 2 },
  '21': { field: 'serial', fixed: null, most: 20 },
  '37': { field: 'count', fixed: null, most: 8 },
  '240': { field: null, fixed: null, most: 30 },
  '250': { field: null, fixed: null, most: 30 },
  '400': { field: null, fixed: null, most: 30 },
  '414': { field: 'gln', fixed: 13, most: 13 }
};
export const SEPARATOR = '\u001d';
/**
 * A web address that carries identifiers: some host, perhaps a stem, then /01/ and a GTIN or /00/
 * and an SSCC or /414/ and a GLN.
 */
const DIGITAL_LINK = /^https?:\/\/[^?#]*\/(01\/\d{8,14}|00\/\d{18}|414\/\d{13})(?=[/?#]|$)/i;
const PREFIX = /^\](C1|d2|Q3|e0)/;

/**
 * Whether a scan looks like a GS1 symbol at all, so that a bare lot number beginning with 01 is
 * left alone.
 */
export const looksLikeSymbol = (scan: string): boolean =>
  DIGITAL_LINK.test(scan) ||
  PREFIX.test(scan) ||
  scan.includes(SEPARATOR) ||
  /^\(\d{2,4}\)/.test(scan) ||
  /^01\d{14}(1[01357]|21|$)/.test(scan);

/**
 * Reads what a GS1 symbol holds: an element string with or without symbology prefix (ISO/IEC
 * 15424), with separators or in the bracketed human form; or a GS1 Digital Link.
 * @param today `YYYY-MM-DD`, decides the century of two-digit years (General Specifications 7.12)
 */
export function readElementString(scan: string, today: string): SymbolReading {
  if (DIGITAL_LINK.test(scan)) return readDigitalLink(scan, today);
  const symbol: Symbol = {};
  const bracketed = /^\(\d{2,4}\)/.test(scan);
  let rest = bracketed ? scan : scan.replace(PREFIX, '');
  if (rest.startsWith(SEPARATOR)) rest = rest.slice(1);
  while (rest !== '') {
    const code = bracketed
      ? /^\((\d{2,4})\)/.exec(rest)?.[1]
      : [2, 3, 4].map((length) => rest.slice(0, length)).find((part) => part in IDENTIFIERS);
    const identifier = code === undefined ? undefined : IDENTIFIERS[code];
    if (!identifier)
      return {
        ok: false,
        why: `identifier ${rest.replace('(', '').slice(0, 4)} is not one Earmark reads`
      };
    rest = rest.slice(code!.length + (bracketed ? 2 : 0));
    const end = bracketed ? nextBracket(rest) : rest.indexOf(SEPARATOR);
    const length = bracketed ? end : (identifier.fixed ?? (end < 0 ? rest.length : end));
    const data = rest.slice(0, length);
    rest = rest.slice(length);
    if (!bracketed && rest.startsWith(SEPARATOR)) rest = rest.slice(1);
    const why = takeElement(symbol, code!, data, today);
    if (why !== null) return { ok: false, why };
  }
  return { ok: true, symbol };
}

/** Puts one element into the symbol; why not, where its data cannot be that. */
function takeElement(symbol: Symbol, code: string, data: string, today: string): string | null {
  const identifier = IDENTIFIERS[code]!;
  if (
    data.length === 0 ||
    data.length > identifier.most ||
    (identifier.fixed !== null && data.length !== identifier.fixed)
  )
    return `(${code}) holds ${data.length} characters, which it must not`;
  const value = identifier.date ? readDate(data, today) : data;
  if (value === null) return `(${code}) holds ${data}, which is no date`;
  if (['00', '01', '414'].includes(code) && !hasGoodCheckDigit(data))
    return `(${code}) ${data} has a wrong check digit`;
  if (identifier.field) symbol[identifier.field] = value;
  return null;
}

/**
 * Reads a GS1 Digital Link: identifiers as pairs of path segments and, for data such as the expiry,
 * of the query. What is not an identifier (the stem before them, other query parameters) is passed
 * over, as the standard asks.
 * Source: GS1 Digital Link Standard: URI Syntax.
 */
function readDigitalLink(link: string, today: string): SymbolReading {
  const symbol: Symbol = {};
  let url: URL, path: string[];
  try {
    url = new URL(link);
    path = url.pathname.split('/').map(decodeURIComponent);
  } catch {
    return { ok: false, why: 'it is no web address' };
  }
  const first = path.findIndex(
    (segment, at) => ['01', '00', '414'].includes(segment) && /^\d{8,18}$/.test(path[at + 1] ?? '')
  );
  const pairs = [
    ...path
      .slice(first)
      .flatMap((segment, at, rest) =>
        at % 2 === 0 && rest[at + 1] !== undefined ? [[segment, rest[at + 1]!] as const] : []
      ),
    ...url.searchParams
  ];
  for (const [code, data] of pairs) {
    if (!(code in IDENTIFIERS)) continue;
    const why = takeElement(symbol, code, code === '01' ? data.padStart(14, '0') : data, today);
    if (why !== null) return { ok: false, why };
  }
  return { ok: true, symbol };
}

const nextBracket = (text: string): number => {
  const at = text.search(/\(\d{2,4}\)/);
  return at < 0 ? text.length : at;
};

/**
 * `YYMMDD` → `YYYY-MM-DD`; the century lies within −49…+50 years of today, day 00 is the last day
 * of the month.
 */
function readDate(digits: string, today: string): string | null {
  if (!/^\d{6}$/.test(digits)) return null;
  const [yy, month, day] = [
    Number(digits.slice(0, 2)),
    Number(digits.slice(2, 4)),
    Number(digits.slice(4))
  ];
  const thisYear = Number(today.slice(0, 4));
  let year = thisYear - (thisYear % 100) + yy;
  if (year - thisYear > 50) year -= 100;
  if (year - thisYear < -49) year += 100;
  if (month < 1 || month > 12) return null;
  const last = new Date(Date.UTC(year, month, 0)).getUTCDate();
  if (day > last) return null;
  return `${year}-${String(month).padStart(2, '0')}-${String(day === 0 ? last : day).padStart(2, '0')}`;
}
