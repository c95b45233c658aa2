import { tick } from 'svelte';

/**
 * Remembers where the focus is before something comes up over it.
 * @returns puts it back there, once what came up is gone
 */
export function rememberFocus(): () => Promise<void> {
  const before = document.activeElement;
  return async () => {
    await tick();
    if (before instanceof HTMLElement) before.focus();
  };
}
