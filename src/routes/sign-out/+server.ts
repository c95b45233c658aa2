import { redirect } from '@sveltejs/kit';
import type { RequestHandler } from './$types';
import { clearSessionCookie, SESSION_COOKIE } from '$lib/server/people/session-cookie.ts';
import { signOut } from '$lib/server/people/sign-in.ts';
import { db } from '$lib/server/kernel/db/client.ts';

export const POST: RequestHandler = async ({ cookies }) => {
  const secret = cookies.get(SESSION_COOKIE);
  if (secret) await signOut(db(), secret);
  clearSessionCookie(cookies);
  redirect(303, '/sign-in');
};
