import { destinations } from '$lib/server/dispatch/destinations';
import { dispatch, dispatchQuery } from '$lib/server/dispatch/dispatchViews';
import { loaded, signedIn, understood } from '$lib/server/http/answer';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = ({ locals, url, depends }) => {
  depends('yonder:dispatch');
  return loaded(async () => {
    const caller = signedIn(locals);
    const query = understood(dispatchQuery, Object.fromEntries(url.searchParams));
    return { query, page: await dispatch(caller, query), destinations: await destinations(caller) };
  });
};
