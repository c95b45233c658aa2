import { goto } from '$app/navigation';
import { KeysWithoutField, takesText } from './keys-without-field.ts';
import { pressMainButton } from './main-button.ts';
import { afterScans } from './scans-under-way.ts';
import { pressEnter, ScannerRun } from './scanner-run.ts';
import { RAIL } from './rail.ts';

/** A key of the screen now shown: what it is called in the list of keys, and what it does. */
export interface ScreenKey {
  key: string;
  says: string;
  act: () => void;
}

class Keys {
  screen = $state.raw<readonly ScreenKey[]>([]);
}
export const keys = new Keys();

/** So long after `g` another key goes to its screen. */
const GOING_MS = 1500;
let going = 0;

/** What the frame does for a key, wherever the focus is. */
export interface FrameActs {
  focusScan: () => void;
  showKeys: () => void;
  /** Goes on in the scan field with what a scanner has sent so far. */
  goOnScanning: (text: string) => void;
}

/** Whether a key belongs to what lies over the screen. */
const isCovered = (): boolean => document.querySelector('.bx--modal.is-visible') !== null;

const isTyped = (target: EventTarget | null): target is HTMLInputElement | HTMLTextAreaElement =>
  target instanceof HTMLTextAreaElement ||
  (target instanceof HTMLInputElement && target.type !== 'password');

/** Handles keys of the whole application. */
export class FrameKeys {
  readonly #withoutField: KeysWithoutField;
  readonly #inField = new ScannerRun();
  #isLettingGo = false;

  constructor(private readonly acts: FrameActs) {
    this.#withoutField = new KeysWithoutField(acts.goOnScanning, (pressed) => {
      for (const key of pressed) this.#letGo(key);
    });
  }

  /** A key that was held back goes where it would have gone: what has the focus may take it. */
  #letGo(key: string): void {
    this.#isLettingGo = true;
    const focused = document.activeElement ?? document.body;
    focused.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }));
    this.#isLettingGo = false;
  }

  /** Sees every key first: one of a scanner is held back from whatever it would do else. */
  before(event: KeyboardEvent): void {
    const { ctrlKey, metaKey, altKey, repeat, isComposing } = event;
    if (ctrlKey || metaKey || altKey || repeat || isComposing || isCovered()) return;
    if (this.#isLettingGo) return;
    const { target } = event;
    const taken = takesText(target as Element | null)
      ? this.#tabOfScanner(event)
      : this.#withoutField.press(event.key);
    if (!taken) return;
    event.preventDefault();
    event.stopPropagation();
  }

  /** A scanner may be set to end by Tab. */
  #tabOfScanner({ key, shiftKey, target, timeStamp }: KeyboardEvent): boolean {
    const ends = key === 'Tab' && !shiftKey && this.#inField.endsAt(timeStamp);
    this.#inField.see(key, timeStamp);
    if (!ends || !isTyped(target)) return false;
    pressEnter(target);
    return true;
  }

  /** A key that nothing else took. */
  handle(event: KeyboardEvent): void {
    if (event.defaultPrevented || event.isComposing) return;
    if (isCovered()) {
      const isBooked = (event.ctrlKey || event.metaKey) && event.key === 'Enter';
      if (isBooked && pressMainButton()) event.preventDefault();
      return;
    }
    if (event.ctrlKey || event.metaKey) {
      if (this.#actWithControl(event.key)) event.preventDefault();
      return;
    }
    if (takesText(event.target as Element | null) || event.altKey) return;
    if (this.#act(event.key)) event.preventDefault();
  }

  /** From anywhere, also out of a field: what is typed there stays. */
  #actWithControl(key: string): boolean {
    if (key === 'Enter') return afterScans(bookHere);
    if (key.toLowerCase() !== 'k') return false;
    this.acts.focusScan();
    return true;
  }

  /** @returns whether the key means something here */
  #act(key: string): boolean {
    if (key === '/') this.acts.focusScan();
    else if (key === '?') this.acts.showKeys();
    else if (key === 'g') going = Date.now();
    else return goTo(key) || actOfScreen(key) || walk(key);
    return true;
  }
}

/** Does what the screen is for. @returns whether it has such an act */
const bookHere = (): boolean => actOfScreen('Ctrl+Enter') || pressMainButton();

/** The second key of two: `g` and a screen's own. */
function goTo(key: string): boolean {
  if (Date.now() - going >= GOING_MS) return false;
  going = 0;
  const item = RAIL.find((screen) => screen.key === key);
  if (item) void goto(item.href);
  return item !== undefined;
}

function actOfScreen(key: string): boolean {
  const own = keys.screen.find((one) => one.key === key);
  own?.act();
  return own !== undefined;
}

function walk(key: string): boolean {
  if (key !== 'j' && key !== 'k') return false;
  walkList(key === 'j' ? 1 : -1);
  return true;
}

/** `j` and `k`: moves the focus through the list on the screen. */
function walkList(step: 1 | -1): void {
  const items = [
    ...document.querySelectorAll<HTMLElement>('[data-list] a, [data-list] button')
  ].filter((item) => item.offsetParent !== null);
  if (items.length === 0) return;
  const at = items.indexOf(document.activeElement as HTMLElement);
  items[
    at < 0
      ? Math.max(
          0,
          items.findIndex((item) => item.getAttribute('aria-current'))
        )
      : Math.max(0, Math.min(items.length - 1, at + step))
  ]?.focus();
}
