import { sayQuantity } from '../parts/say.ts';
import { quantity } from '../../core/quantity/quantity.ts';
import { rowKind, type Mode, type SheetLine } from './line-rows.ts';

/** With more lines than these they are looked for by name. */
export const FEW_LINES = 6;

/**
 * Which lines of an order are shown, by their place in it.
 * @param text letters of a product's code or name; none for all
 * @param toGo what is still to mark of each line
 */
export function linesShown(
  lines: readonly Pick<SheetLine, 'product' | 'name'>[],
  { text, onlyOpen, toGo }: { text: string; onlyOpen: boolean; toGo: readonly string[] }
): number[] {
  const words = text.trim().toLowerCase().split(/\s+/).filter(Boolean);
  return lines.flatMap((line, index) => {
    const said = `${line.product} ${line.name}`.toLowerCase();
    const isWanted = words.every((word) => said.includes(word));
    return isWanted && !(onlyOpen && toGo[index] === '0') ? [index] : [];
  });
}

/**
 * The line after the one in hand of which something is still to mark, going round; where all is
 * marked, the next one.
 */
export function nextOpenLine(toGo: readonly string[], at: number): number {
  const after = toGo.map((_, step) => (at + 1 + step) % toGo.length);
  return after.find((index) => toGo[index] !== '0') ?? (at + 1) % toGo.length;
}

const NUMBERED = { amount: 'no number', serial: 'serial', lot: 'lot' } as const;

/** What a card says a line is: how it is numbered, or where what gets numbers lies. */
export function sayLine(line: SheetLine, mode: Mode): string {
  if (mode === 'identify') return `${line.lot ? `lot ${line.lot}, ` : ''}${line.place}`;
  if (line.enteredAs) return line.enteredAs;
  const kind = rowKind(line, mode);
  return kind === 'serial' && line.marking === 'serial-in-lot' ? 'serial in lot' : NUMBERED[kind];
}

/** Whether what may be used covers what an order still asks for, in words. */
export function sayCover(
  left: string,
  usable: string,
  unit: string
): { text: string; isShort: boolean } {
  const missing = quantity(left).minus(usable);
  return missing.gt(0)
    ? { text: `${sayQuantity(missing.toFixed())} ${unit} short`, isShort: true }
    : { text: `${sayQuantity(usable)} ${unit} there`, isShort: false };
}
