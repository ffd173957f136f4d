import { signOut } from '$lib/server/people/session';
import type { RequestHandler } from './$types';

export const POST: RequestHandler = async ({ locals, cookies }) => {
  if (locals.caller && locals.token) await signOut(locals.caller, locals.token);
  cookies.delete('session', { path: '/' });
  // What the browser keeps of pictures goes with the person; what waits to be sent stays on the machine.
  return new Response(null, {
    status: 303,
    headers: { location: '/sign-in', 'clear-site-data': '"cache"' }
  });
};
