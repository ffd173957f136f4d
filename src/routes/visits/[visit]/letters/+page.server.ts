import { loaded, signedIn } from '$lib/server/http/answer';
import { colleagues } from '$lib/server/letters/colleagues';
import { aboutOffered } from '$lib/server/letters/filling';
import { lettersOf, referrerOf } from '$lib/server/letters/letters';
import { templates } from '$lib/server/letters/templates';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = ({ locals, params, depends }) =>
  loaded(async () => {
    depends('yonder:letters');
    const caller = signedIn(locals);
    const [letters, listed, people, offered, referrer] = await Promise.all([
      lettersOf(caller, params.visit),
      templates(caller),
      colleagues(caller),
      aboutOffered(caller, params.visit),
      referrerOf(caller, params.visit)
    ]);
    return {
      letters,
      templates: listed.filter(({ retired }) => !retired),
      colleagues: people,
      offered,
      referrer
    };
  });
