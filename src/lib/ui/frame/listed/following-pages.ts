import { atMost, goneOn, MOST_LISTED, type ShownList } from '../../../core/tables/shown-list.ts';
import { listsOf } from './read-lists.ts';

/** The way on from a page of a list that goes on, as its `rel="next"` says. */
export const nextOf = (screen: Element): string | null =>
  screen.querySelector('a[rel="next"]')?.getAttribute('href') ?? null;

/**
 * A list with the rows of all pages that follow, read one after the other, up to the most a file
 * takes. What is said of the last page is said of the whole, and what is not in it.
 * @param next address of the page that follows
 * @param tell hears how many rows there are so far
 * @throws where a page cannot be fetched
 */
export async function withFollowing(
  list: ShownList,
  next: string | null,
  tell: (rows: number) => void
): Promise<ShownList> {
  let whole = list;
  let address = next;
  while (address !== null && whole.rows.length < MOST_LISTED.rows) {
    const screen = await screenAt(address);
    const longer = goneOn(whole, listsOf(screen));
    if (!longer) return { ...whole, note: 'More follows that could not be read.' };
    whole = longer;
    address = nextOf(screen);
    tell(whole.rows.length);
  }
  return atMost(whole, address !== null);
}

async function screenAt(address: string): Promise<Element> {
  const answer = await fetch(address, { headers: { accept: 'text/html' } });
  if (!answer.ok) throw new Error(`${answer.status}`);
  const page = new DOMParser().parseFromString(await answer.text(), 'text/html');
  return page.querySelector('main') ?? page.body;
}
