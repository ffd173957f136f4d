import { z } from 'zod';
import { writtenGuide } from '$lib/server/clinics/writtenGuides';
import { loaded, signedIn, understood } from '$lib/server/http/answer';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = ({ locals, params }) =>
  loaded(async () => {
    const caller = signedIn(locals);
    return {
      entry: params.guide === 'new' ? null : await writtenGuide(caller, understood(z.uuid(), params.guide))
    };
  });
