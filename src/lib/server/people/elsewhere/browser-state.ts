import type { Cookies } from '@sveltejs/kit';

const STATE = 'earmark_begun';
const SAID = 'earmark_said';
const FIFTEEN_MINUTES = 900;

const shortly = (secure: boolean) =>
  ({ path: '/sign-in', httpOnly: true, sameSite: 'lax', maxAge: FIFTEEN_MINUTES, secure }) as const;

/** Keeps the state of a sign-in that was begun: its answer must come back to the same browser. */
export const keepState = (cookies: Cookies, state: string, secure: boolean): void =>
  cookies.set(STATE, state, shortly(secure));

/** Gives that state, once. */
export function takeState(cookies: Cookies): string | undefined {
  const state = cookies.get(STATE);
  cookies.delete(STATE, { path: '/sign-in' });
  return state;
}

/** Keeps what the sign-in page is to say next; never in an address, where anybody could write it. */
export const say = (cookies: Cookies, message: string, secure: boolean): void =>
  cookies.set(SAID, message.slice(0, 500), shortly(secure));

export function takeSaid(cookies: Cookies): string | undefined {
  const said = cookies.get(SAID);
  if (said !== undefined) cookies.delete(SAID, { path: '/sign-in' });
  return said;
}
