/**
 * Longest that a scanner takes from one key to the next; people take longer, by hand and by far
 * (common practice of the trade: 1 to 50 ms are set on scanners).
 */
export const SCANNER_PAUSE_MS = 60;
/** So many keys that close to each other are a scan: `g` and `s` may be two fingers of one hand. */
export const LEAST_OF_SCAN = 3;
/** They act at once: no number begins with them, and what is typed after them goes to a field. */
const NEVER_FIRST = new Set(['/', '?', ' ']);
const SHIFTS = new Set(['Shift', 'CapsLock', 'AltGraph']);

/**
 * Keys that are pressed while no field has the focus. They are held for a moment, until it is clear
 * whether a scanner sends them: a scan is never lost, and never taken as keys of the application.
 */
export class KeysWithoutField {
  #held = '';
  #timer: ReturnType<typeof setTimeout> | undefined;

  /**
   * @param asScan told what a scanner has sent so far, as soon as it is clear that one sends: what
   * follows is typed into the field that has the focus then
   * @param asKeys told keys that somebody pressed, in their order
   */
  constructor(
    private readonly asScan: (text: string) => void,
    private readonly asKeys: (keys: readonly string[]) => void
  ) {}

  /**
   * A key that goes to no field.
   * @param key as the browser names it
   * @returns whether it is held back, and does nothing else
   */
  press(key: string): boolean {
    if (SHIFTS.has(key)) return false;
    const isFirst = this.#held === '';
    if ([...key].length !== 1 || (isFirst && NEVER_FIRST.has(key))) {
      this.release();
      return false;
    }
    clearTimeout(this.#timer);
    this.#held += key;
    if ([...this.#held].length < LEAST_OF_SCAN)
      this.#timer = setTimeout(() => this.release(), SCANNER_PAUSE_MS);
    else this.asScan(this.#take());
    return true;
  }

  /** What is held was pressed by hand. */
  release(): void {
    clearTimeout(this.#timer);
    const keys = [...this.#take()];
    if (keys.length > 0) this.asKeys(keys);
  }

  #take(): string {
    const held = this.#held;
    this.#held = '';
    return held;
  }
}

/** Whether what is typed goes into an element. */
export const takesText = (element: Element | null): boolean =>
  element instanceof HTMLElement &&
  (element.isContentEditable ||
    /^(TEXTAREA|SELECT)$/.test(element.tagName) ||
    (element instanceof HTMLInputElement &&
      !/^(checkbox|radio|button|submit)$/.test(element.type)));
