import { loaded, signedIn, understood } from '$lib/server/http/answer';
import { shelf, shelfQuery } from '$lib/server/shelf/caseViews';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = ({ locals, url, depends }) => {
  depends('yonder:shelf');
  return loaded(async () => {
    const { quiz, ...asked } = Object.fromEntries(url.searchParams);
    const query = understood(shelfQuery, asked);
    return { query, quiz: quiz === '1', cases: await shelf(signedIn(locals), query) };
  });
};
