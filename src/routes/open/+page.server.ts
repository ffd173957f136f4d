import { fail, redirect } from '@sveltejs/kit';
import { loaded, signedIn, understood } from '$lib/server/http/answer';
import { type LaunchWish, clearDoubt, followLink, launchWish } from '$lib/server/practice/launching';
import { Problem } from '$lib/server/problem';
import type { Actions, PageServerLoad } from './$types';

const wishIn = (url: URL): LaunchWish =>
  understood(launchWish, {
    identifier: url.searchParams.get('identifier') ?? '',
    name: url.searchParams.get('name') ?? '',
    birthDate: url.searchParams.get('birthdate') ?? ''
  });

/** A link of the practice system: straight to the patient where it is clear whose it is, else to a question. */
export const load: PageServerLoad = async ({ locals, url }) => {
  const launched = await loaded(async () => followLink(signedIn(locals), wishIn(url)));
  if (launched.kind === 'open') redirect(303, launched.to);
  const { name, identifier } = wishIn(url);
  return { launched, asked: { name, number: identifier.slice(identifier.lastIndexOf('|') + 1) } };
};

export const actions: Actions = {
  default: async ({ locals, request, url }) => {
    const born = String((await request.formData()).get('born') ?? '').slice(0, 40);
    let to: string;
    try {
      ({ to } = await clearDoubt(signedIn(locals), { ...wishIn(url), born }));
    } catch (problem) {
      if (!(problem instanceof Problem)) throw problem;
      return fail(problem.status, { sentence: `${problem.sentence} ${problem.next}`, born });
    }
    redirect(303, to);
  }
};
