import { z } from 'zod';
import { loaded, signedIn, understood } from '$lib/server/http/answer';
import { today } from '$lib/server/visits/today';
import type { PageServerLoad } from './$types';

const day = z.iso.date().nullable().catch(null);

export const load: PageServerLoad = ({ locals, url }) =>
  loaded(async () => ({
    today: await today(signedIn(locals), understood(day, url.searchParams.get('day')))
  }));
