import { SEPARATOR } from './element-string.ts';

/**
 * A symbol read by a camera as a scanner would send it: a GS1 symbol begins with its symbology
 * identifier (ISO/IEC 15424). Of a DataMatrix readers of pictures say only a separator instead; of
 * others the text says all.
 * @param text as the reader gives it, function characters as the group separator
 */
export const symbolText = (isDataMatrix: boolean, text: string): string =>
  isDataMatrix && text.startsWith(SEPARATOR) ? `]d2${text.slice(SEPARATOR.length)}` : text;
