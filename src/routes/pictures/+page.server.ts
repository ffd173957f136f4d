import { everyPicture, searchOf } from '$core/picture/pictureSearch';
import { loaded, signedIn } from '$lib/server/http/answer';
import { findPictures } from '$lib/server/pictures/search';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = ({ locals, url }) =>
  loaded(async () => {
    const search = searchOf(url.searchParams) ?? everyPicture;
    return { search, ...(await findPictures(signedIn(locals), search, null)) };
  });
