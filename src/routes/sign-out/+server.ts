import { redirect } from '@sveltejs/kit';
import type { RequestHandler } from './$types';
import { clearSessionCookie, SESSION_COOKIE } from '$lib/server/access/session-cookie';
import { signOut } from '$lib/server/access/sign-in';
import { db } from '$lib/server/db/client';

export const POST: RequestHandler = async ({ cookies }) => {
  const secret = cookies.get(SESSION_COOKIE);
  if (secret) await signOut(db(), secret);
  clearSessionCookie(cookies);
  redirect(303, '/sign-in');
};
