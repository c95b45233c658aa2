import type { Cookies } from '@sveltejs/kit';

export const SESSION_COOKIE = 'earmark_session';

/**
 * Keeps the session's secret in a cookie scripts cannot read, sent with our own pages' requests
 * only.
 */
export function setSessionCookie(
  cookies: Cookies,
  secret: string,
  expires: Date,
  secure: boolean
): void {
  cookies.set(SESSION_COOKIE, secret, {
    path: '/',
    httpOnly: true,
    sameSite: 'lax',
    secure,
    expires
  });
}

export const clearSessionCookie = (cookies: Cookies): void =>
  cookies.delete(SESSION_COOKIE, { path: '/' });
