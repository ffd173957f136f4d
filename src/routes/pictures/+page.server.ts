import { everyPicture, searchOf } from '$core/picture/pictureSearch';
import { loaded, signedIn } from '$lib/server/http/answer';
import { categories } from '$lib/server/pictures/categories';
import { findPictures } from '$lib/server/pictures/search';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = ({ locals, url }) =>
  loaded(async () => {
    const search = searchOf(url.searchParams) ?? everyPicture;
    const caller = signedIn(locals);
    return {
      search,
      categories: await categories(caller),
      ...(await findPictures(caller, search, null))
    };
  });
