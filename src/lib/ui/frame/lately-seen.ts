import { keptJson } from './kept-json.ts';

/** Something that was looked at: what its page is called, and where. */
export interface Seen {
  title: string;
  href: string;
}

/** As many as are worth a look. */
const MOST = 8;
const KEY = 'lately-seen';
/** Pages of one thing; lists and settings are no thing one comes back to by its name. */
const THING =
  /^\/(marks|trace|events|receive|build|ship|recall|service|count|transfer|partners|units)\/[^/]+$/;
const NOT_ONE = /^\/(trace|recall|service|transfer)\/(new|common|records|figures|claims|order)$/;

interface Kept {
  login: string;
  seen: Seen[];
}

/**
 * What this person looked at lately here, the last first. It is kept in this browser alone, and
 * forgotten when somebody else signs in.
 */
export function latelySeen(storage: Pick<Storage, 'getItem'>, login: string): Seen[] {
  const kept = keptJson<Kept>(storage, KEY);
  return kept?.login === login ? kept.seen : [];
}

/** Keeps that a page was looked at, where it is that of one thing. */
export function keepSeen(
  storage: Pick<Storage, 'getItem' | 'setItem'>,
  login: string,
  { title, href }: Seen
): void {
  const path = href.split('?')[0]!;
  const name = title.replace(/ · Earmark$/, '').trim();
  if (!THING.test(path) || NOT_ONE.test(path) || name === '') return;
  const others = latelySeen(storage, login).filter((one) => one.href !== path);
  const seen = [{ title: name, href: path }, ...others].slice(0, MOST);
  storage.setItem(KEY, JSON.stringify({ login, seen } satisfies Kept));
}

/** Whoever signs out leaves nothing to be read. */
export const forgetSeen = (storage: Pick<Storage, 'removeItem'>): void => storage.removeItem(KEY);
