import { beforeNavigate } from '$app/navigation';

const QUESTION = 'What you changed is not kept yet. Leave it?';

/**
 * Asks before a screen with changes that were not kept is left, for another or for good. Called
 * while the screen is made.
 * @param dirty whether anything would be lost
 */
export function askBeforeLeaving(dirty: () => boolean): void {
  beforeNavigate((navigation) => {
    if (!dirty()) return;
    // For good, the browser asks in its own words.
    if (navigation.willUnload || !confirm(QUESTION)) navigation.cancel();
  });
}
