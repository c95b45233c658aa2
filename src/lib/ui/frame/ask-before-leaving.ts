import { beforeNavigate } from '$app/navigation';

/** Asked before something that was typed and not kept is left. */
export const QUESTION = 'What you changed is not kept yet. Leave it?';

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
  askBeforeLeaving(() => now() !== before, within);
  return {
    kept: () => {
      before = now();
    },
    mayGo: () => now() === before || confirm(QUESTION)
  };
}
