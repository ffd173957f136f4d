import { everyPicture, searchOf } from '$core/picture/pictureSearch';
import { signedIn, loaded } from '$lib/server/http/answer';
import { chart } from '$lib/server/visits/patients';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = ({ locals, params, url }) =>
  loaded(async () => {
    const search = searchOf(url.searchParams) ?? everyPicture;
    return { chart: await chart(signedIn(locals), params.patient, search), search };
  });
