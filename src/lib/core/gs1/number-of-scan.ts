import { looksLikeSymbol, readElementString } from './element-string.ts';

/**
 * The number a scan names: the serial or else the lot of a GS1 symbol, or what was typed as it is.
 * Empty where a symbol names neither.
 * @param today `YYYY-MM-DD`, decides the century of dates in the symbol
 */
export function numberOfScan(scan: string, today: string): string {
  const reading = looksLikeSymbol(scan) ? readElementString(scan, today) : null;
  if (!reading?.ok) return scan.trim();
  const { serial, lot } = reading.symbol;
  return (serial ?? lot ?? '').trim();
}
