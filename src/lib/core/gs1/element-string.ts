import { wholeYear } from '../calendar/whole-year.ts';
import { withoutCapsLock } from './caps-lock.ts';
import { hasGoodCheckDigit } from './check-digit.ts';
import { IDENTIFIERS, identifierAt, predefinedLength } from './identifiers.ts';

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

/** What of a symbol is kept, by identifier; whatever else it holds is read over. */
const FIELDS: Readonly<Record<string, keyof Symbol>> = {
  '00': 'sscc',
  '01': 'gtin',
  '10': 'lot',
  '11': 'made',
  '15': 'bestBefore',
  '17': 'expires',
  '21': 'serial',
  '30': 'count',
  '37': 'count',
  '414': 'gln'
};
const DATES = new Set(['11', '13', '15', '16', '17']);
const WITH_CHECK_DIGIT = new Set(['00', '01', '02', '03', '410', '411', '412', '413', '414']);
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
export function looksLikeSymbol(scanned: string): boolean {
  const scan = withoutCapsLock(scanned);
  return (
    DIGITAL_LINK.test(scan) ||
    PREFIX.test(scan) ||
    scan.includes(SEPARATOR) ||
    /^\(\d{2,4}\)/.test(scan) ||
    /^01\d{14}(1[01357]|21|$)/.test(scan)
  );
}

/**
 * Reads what a GS1 symbol holds: an element string with or without symbology prefix (ISO/IEC
 * 15424), with separators or in the bracketed human form; or a GS1 Digital Link.
 * @param today `YYYY-MM-DD`, decides the century of two-digit years (General Specifications 7.12)
 */
export function readElementString(scanned: string, today: string): SymbolReading {
  const scan = withoutCapsLock(scanned);
  if (DIGITAL_LINK.test(scan)) return readDigitalLink(scan, today);
  const symbol: Symbol = {};
  const bracketed = /^\(\d{2,4}\)/.test(scan);
  let rest = bracketed ? scan : scan.replace(PREFIX, '');
  if (rest.startsWith(SEPARATOR)) rest = rest.slice(1);
  while (rest !== '') {
    const code = bracketed ? bracketedCode(rest) : identifierAt(rest);
    if (code === null)
      return {
        ok: false,
        why: `${rest.replace('(', '').slice(0, 4)} is no identifier of the standard`
      };
    rest = rest.slice(code.length + (bracketed ? 2 : 0));
    const length = bracketed ? nextBracket(rest) : dataLength(code, rest);
    const data = rest.slice(0, length);
    rest = rest.slice(length);
    if (!bracketed && rest.startsWith(SEPARATOR)) rest = rest.slice(1);
    const why = takeElement(symbol, code, data, today);
    if (why !== null) return { ok: false, why };
  }
  return { ok: true, symbol };
}

function bracketedCode(text: string): string | null {
  const code = /^\((\d{2,4})\)/.exec(text)?.[1];
  return code !== undefined && IDENTIFIERS.has(code) ? code : null;
}

/** Characters of an element's data: predefined, or up to the next separator or the end. */
function dataLength(code: string, rest: string): number {
  const end = rest.indexOf(SEPARATOR);
  return predefinedLength(code) ?? (end < 0 ? rest.length : end);
}

/** Puts one element into the symbol; why not, where its data cannot be that. */
function takeElement(symbol: Symbol, code: string, data: string, today: string): string | null {
  if (!IDENTIFIERS.get(code)!.test(data))
    return `(${code}) holds ${data.length} characters, “${data.slice(0, 30)}”, which it must not`;
  const value = DATES.has(code) ? readDate(data, today) : data;
  if (value === null) return `(${code}) holds ${data}, which is no date`;
  if (WITH_CHECK_DIGIT.has(code) && !hasGoodCheckDigit(data))
    return `(${code}) ${data} has a wrong check digit`;
  const field = FIELDS[code];
  if (field) symbol[field] = value;
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
    if (!IDENTIFIERS.has(code)) continue;
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
 * `YYMMDD` → `YYYY-MM-DD`; day 00 is the last day of the month.
 */
function readDate(digits: string, today: string): string | null {
  if (!/^\d{6}$/.test(digits)) return null;
  const [yy, month, day] = [
    Number(digits.slice(0, 2)),
    Number(digits.slice(2, 4)),
    Number(digits.slice(4))
  ];
  const year = wholeYear(yy, today);
  if (month < 1 || month > 12) return null;
  const last = new Date(Date.UTC(year, month, 0)).getUTCDate();
  if (day > last) return null;
  return `${year}-${String(month).padStart(2, '0')}-${String(day === 0 ? last : day).padStart(2, '0')}`;
}
