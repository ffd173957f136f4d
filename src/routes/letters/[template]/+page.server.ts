import { letterheadSeen } from '$lib/server/clinics/letterhead';
import { loaded, signedIn } from '$lib/server/http/answer';
import { template } from '$lib/server/letters/templates';
import { categories } from '$lib/server/pictures/categories';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = ({ locals, params, depends }) =>
  loaded(async () => {
    depends('yonder:template');
    const caller = signedIn(locals);
    const [found, named, head] = await Promise.all([
      template(caller, params.template),
      categories(caller),
      letterheadSeen(caller)
    ]);
    return { template: found, categories: named, letterhead: head };
  });
