import { dispatch, dispatchQuery } from '$lib/server/dispatch/dispatchViews';
import { answered, signedIn, understood } from '$lib/server/http/answer';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = ({ locals, url }) =>
  answered(() => dispatch(signedIn(locals), understood(dispatchQuery, Object.fromEntries(url.searchParams))));
