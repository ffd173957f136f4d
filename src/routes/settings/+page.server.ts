import { fail } from '@sveltejs/kit';
import { message, superValidate } from 'sveltekit-superforms';
import { zod as zod4 } from 'superforms-zod4';
import { callerOf, loaded } from '$lib/server/http/answer';
import { changeSettings, settingsForm } from '$lib/server/people/settings';
import { Problem } from '$lib/server/problem';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = ({ locals }) =>
  loaded(async () => {
    const { notation } = callerOf(locals);
    return { form: await superValidate({ notation }, zod4(settingsForm)) };
  });

export const actions: Actions = {
  default: async ({ request, locals }) => {
    const form = await superValidate(request, zod4(settingsForm));
    if (!form.valid) return fail(400, { form });
    try {
      await changeSettings(callerOf(locals), form.data);
    } catch (problem) {
      if (!(problem instanceof Problem)) throw problem;
      return message(form, `${problem.sentence} ${problem.next}`, { status: problem.status as 403 });
    }
    return message(form, 'Kept. Every screen shows teeth so from now on.');
  }
};
