import { searchOf } from '$core/picture/pictureSearch';
import { answered, signedIn } from '$lib/server/http/answer';
import { findPictures, noSuchPage } from '$lib/server/pictures/search';
import type { RequestHandler } from './$types';

/** A page of all the clinic's pictures, limited as the query says, the newest first. */
export const GET: RequestHandler = ({ locals, url }) =>
  answered(() => {
    const search = searchOf(url.searchParams);
    if (!search) throw noSuchPage();
    return findPictures(signedIn(locals), search, url.searchParams.get('after'));
  });
