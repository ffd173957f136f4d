import { searchOf } from '$core/picture/pictureSearch';
import { answered, signedIn } from '$lib/server/http/answer';
import { noSuchPage } from '$lib/server/pictures/search';
import { chartPictures } from '$lib/server/visits/patients';
import type { RequestHandler } from './$types';

/** A page of a chart's pictures, limited and sorted as the query says; `after` is where the page before ended. */
export const GET: RequestHandler = ({ locals, params, url }) =>
  answered(() => {
    const search = searchOf(url.searchParams);
    if (!search) throw noSuchPage();
    return chartPictures(signedIn(locals), params.patient, search, url.searchParams.get('after'));
  });
