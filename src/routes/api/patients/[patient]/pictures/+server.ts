import { answered, signedIn } from '$lib/server/http/answer';
import { olderPictures } from '$lib/server/visits/patients';
import type { RequestHandler } from './$types';

/** The next page of a chart's pictures. */
export const GET: RequestHandler = ({ locals, params, url }) =>
  answered(() => olderPictures(signedIn(locals), params.patient, url.searchParams.get('after') ?? ''));
