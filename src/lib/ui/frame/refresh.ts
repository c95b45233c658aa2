import { goto, invalidate, invalidateAll } from '$app/navigation';
import { navigating } from '$app/state';
import { untrack } from 'svelte';

/** Settles when nobody is on the way to another screen any more. */
async function arrival(): Promise<void> {
  let way = untrack(() => navigating.complete);
  while (way !== null) {
    const last = way;
    await last.catch(() => {}); // given up, or another took its place
    const next = untrack(() => navigating.complete);
    way = next === last ? null : next;
  }
}

/**
 * Reads anew what the screen shows. Who is on the way to another screen gets there first: reading
 * anew in the meantime would drop their click without a word.
 * @param only what depends on this alone, as a page's `load` names it; everything where left out
 */
export async function refresh(only?: string): Promise<void> {
  await arrival();
  await (only === undefined ? invalidateAll() : invalidate(only));
}

/**
 * Shows another part of the same screen a moment after somebody typed what to look for. Not where
 * they have clicked on to another screen since: that click would be dropped.
 */
export async function narrowTo(address: string): Promise<void> {
  if (navigating.to) return;
  await goto(address, { replaceState: true, keepFocus: true, noScroll: true });
}
