import { LEAST_OF_SCAN, SCANNER_PAUSE_MS } from './keys-without-field.ts';

/** Keys typed into a field one after the other, and whether they come as a scanner sends them. */
export class ScannerRun {
  #length = 0;
  #last = -Infinity;

  /**
   * @param key as the browser names it; a shift is no key of its own
   * @param at when, in milliseconds
   */
  see(key: string, at: number): void {
    const isCharacter = [...key].length === 1;
    if (!isCharacter && key === 'Shift') return;
    const goesOn = at - this.#last <= SCANNER_PAUSE_MS;
    if (!isCharacter) this.#length = 0;
    else this.#length = goesOn ? this.#length + 1 : 1;
    this.#last = at;
  }

  /** Whether a key at this instant ends what a scanner sent. */
  endsAt(at: number): boolean {
    return this.#length >= LEAST_OF_SCAN && at - this.#last <= SCANNER_PAUSE_MS;
  }
}

/**
 * What a scanner that is set to end by Tab means: the same as one that ends by Enter. In a field of
 * several lines that is the next line.
 */
export function pressEnter(field: HTMLInputElement | HTMLTextAreaElement): void {
  if (field instanceof HTMLTextAreaElement) {
    field.setRangeText('\n', field.selectionStart, field.selectionEnd, 'end');
    field.dispatchEvent(new InputEvent('input', { bubbles: true, inputType: 'insertLineBreak' }));
    return;
  }
  const enter = { key: 'Enter', code: 'Enter', bubbles: true, cancelable: true };
  if (field.dispatchEvent(new KeyboardEvent('keydown', enter))) field.form?.requestSubmit();
}
