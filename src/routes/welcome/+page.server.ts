import { fail, redirect } from '@sveltejs/kit';
import { message, superValidate } from 'sveltekit-superforms';
import { zod as zod4 } from 'superforms-zod4';
import { loaded } from '$lib/server/http/answer';
import { acceptForm, acceptInvite, invited, leastPasswordLetters } from '$lib/server/people/staff';
import { Problem } from '$lib/server/problem';
import type { Actions, PageServerLoad } from './$types';

const codeOf = (url: URL) => url.searchParams.get('code') ?? '';

export const load: PageServerLoad = ({ url }) =>
  loaded(async () => ({
    invited: await invited(codeOf(url)),
    least: leastPasswordLetters,
    form: await superValidate(zod4(acceptForm))
  }));

export const actions: Actions = {
  default: async ({ request, url }) => {
    const filled = await superValidate(request, zod4(acceptForm));
    if (!filled.valid) return fail(400, { form: filled });
    try {
      await acceptInvite(codeOf(url), filled.data.password);
    } catch (problem) {
      if (!(problem instanceof Problem)) throw problem;
      filled.data.password = '';
      return message(filled, `${problem.sentence} ${problem.next}`, { status: problem.status as 404 });
    }
    redirect(303, '/sign-in');
  }
};
