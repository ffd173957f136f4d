import { z } from 'zod';
import { loaded, signedIn, understood } from '$lib/server/http/answer';
import { shelf, shelfQuery, teachingCase } from '$lib/server/shelf/caseViews';
import type { PageServerLoad } from './$types';

/** A case, and which come before and after it among those that were looked for. */
export const load: PageServerLoad = ({ locals, params, url, depends }) => {
  depends('yonder:shelf');
  return loaded(async () => {
    const caller = signedIn(locals);
    const { quiz, ...asked } = Object.fromEntries(url.searchParams);
    const opened = await teachingCase(caller, understood(z.uuid(), params.case));
    const all = (await shelf(caller, understood(shelfQuery, asked))).filter(({ state }) => state === 'ready');
    const at = all.findIndex(({ caseId }) => caseId === opened.caseId);
    return {
      opened,
      quiz: quiz === '1',
      before: all[at - 1]?.caseId ?? null,
      after: at >= 0 ? (all[at + 1]?.caseId ?? null) : (all[0]?.caseId ?? null)
    };
  });
};
