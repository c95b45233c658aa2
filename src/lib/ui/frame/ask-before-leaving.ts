import { beforeNavigate } from '$app/navigation';

const QUESTION = 'What you changed is not kept yet. Leave it?';

/**
 * Asks before a screen with changes that were not kept is left, for another or for good. Called
 * while the screen is made.
 * @param dirty whether anything would be lost
 * @param within whether another address of the same screen keeps what stands on it
 */
export function askBeforeLeaving(dirty: () => boolean, within = false): void {
  beforeNavigate((navigation) => {
    const stays = within && navigation.to?.url.pathname === navigation.from?.url.pathname;
    if (stays || !dirty()) return;
    // For good, the browser asks in its own words.
    if (navigation.willUnload || !confirm(QUESTION)) navigation.cancel();
  });
}

export interface Unsaved {
  /** Whether something stands there that is not kept. */
  changed: () => boolean;
  /** What stands there now is kept: nothing of it would be lost. */
  kept: () => void;
  /** Whether something else may be shown in its place: at once, or after asking. */
  mayGo: () => boolean;
}

/**
 * The same for a form: asks where it differs from what it was when it was opened, or kept last.
 * @param what everything that is typed on it, as plain values
 * @param within whether another address of the same screen keeps what stands on it
 */
export function askUnlessKept(what: () => unknown, within = false): Unsaved {
  const now = (): string => JSON.stringify(what());
  let before = now();
  const changed = (): boolean => now() !== before;
  askBeforeLeaving(changed, within);
  return {
    changed,
    kept: () => {
      before = now();
    },
    mayGo: () => !changed() || confirm(QUESTION)
  };
}
