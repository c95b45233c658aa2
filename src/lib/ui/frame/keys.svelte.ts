import { goto } from '$app/navigation';
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

const typing = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName));
let going = 0;

/** Handles a key of the whole application; `focusScan` and `showKeys` belong to the frame. */
export function handleKey(event: KeyboardEvent, focusScan: () => void, showKeys: () => void): void {
  if (
    event.defaultPrevented ||
    event.isComposing ||
    document.querySelector('.bx--modal.is-visible')
  )
    return;
  if ((event.ctrlKey || event.metaKey) && event.key === 'Enter') {
    const book = keys.screen.find((key) => key.key === 'Ctrl+Enter');
    if (book) {
      event.preventDefault();
      book.act();
    }
    return;
  }
  // From anywhere, also out of a field: what is typed there stays.
  if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'k') {
    event.preventDefault();
    focusScan();
    return;
  }
  if (typing(event.target) || event.ctrlKey || event.metaKey || event.altKey) return;
  if (event.key === '/') {
    event.preventDefault();
    focusScan();
    return;
  }
  if (event.key === '?') {
    event.preventDefault();
    showKeys();
    return;
  }
  if (event.key === 'g') {
    going = Date.now();
    return;
  }
  if (Date.now() - going < 1500) {
    going = 0;
    const item = RAIL.find((screen) => screen.key === event.key);
    if (item) {
      event.preventDefault();
      void goto(item.href);
      return;
    }
  }
  const own = keys.screen.find((key) => key.key === event.key);
  if (own) {
    event.preventDefault();
    own.act();
    return;
  }
  if (event.key === 'j' || event.key === 'k') walkList(event.key === 'j' ? 1 : -1);
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
