import { redirect } from '@sveltejs/kit';
import { signOut } from '$lib/server/people/session';
import type { RequestHandler } from './$types';

export const POST: RequestHandler = async ({ locals, cookies }) => {
  if (locals.caller && locals.token) await signOut(locals.caller, locals.token);
  cookies.delete('session', { path: '/' });
  redirect(303, '/sign-in');
};
