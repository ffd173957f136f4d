import { fail, redirect } from '@sveltejs/kit';
import { message, superValidate } from 'sveltekit-superforms';
import { zod as zod4 } from 'superforms-zod4';
import { z } from 'zod';
import { ownPath } from '$lib/server/http/headers';
import { sessionHours, signIn } from '$lib/server/people/signIn';
import { Problem } from '$lib/server/problem';
import type { Actions, PageServerLoad } from './$types';

const form = z.object({
  name: z.string().min(1, 'Enter the name you sign in with.').max(100),
  password: z.string().min(1, 'Enter the password.').max(200)
});

export const load: PageServerLoad = async ({ locals }) => {
  if (locals.caller) redirect(303, '/');
  return { form: await superValidate(zod4(form)) };
};

export const actions: Actions = {
  default: async ({ request, cookies, url, getClientAddress }) => {
    const filled = await superValidate(request, zod4(form));
    if (!filled.valid) return fail(400, { form: filled });
    try {
      const { token, expires } = await signIn(filled.data.name, filled.data.password, getClientAddress());
      cookies.set('session', token, {
        path: '/',
        httpOnly: true,
        sameSite: 'lax',
        secure: url.protocol === 'https:',
        expires,
        maxAge: sessionHours * 3600
      });
    } catch (problem) {
      if (!(problem instanceof Problem)) throw problem;
      filled.data.password = '';
      return message(filled, `${problem.sentence} ${problem.next}`, { status: problem.status as 401 });
    }
    redirect(303, ownPath(url.searchParams.get('to'), url.origin));
  }
};
