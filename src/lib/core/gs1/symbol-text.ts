import { SEPARATOR } from './element-string.ts';

/** What a camera's reader says a symbol is of; only these say more than their text. */
export type Symbology = 'DataMatrix' | 'Code 128' | 'QR' | 'other';

/**
 * A symbol read by a camera as a scanner would send it: a GS1 symbol begins with its symbology
 * identifier (ISO/IEC 15424), which readers of pictures leave out, or say as a separator.
 * @param text as the reader gives it, function characters as the group separator
 */
export function symbolText(symbology: Symbology, text: string): string {
  if (symbology === 'DataMatrix' && text.startsWith(SEPARATOR))
    return `]d2${text.slice(SEPARATOR.length)}`;
  return text;
}
