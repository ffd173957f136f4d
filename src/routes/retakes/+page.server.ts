import { z } from 'zod';
import { loaded, signedIn, understood } from '$lib/server/http/answer';
import { retakes } from '$lib/server/retakes/retakes';
import type { PageServerLoad } from './$types';

const months = z.coerce.number().int().min(1).max(24).catch(12);

export const load: PageServerLoad = ({ locals, url }) =>
  loaded(async () => {
    const span = understood(months, url.searchParams.get('months') ?? 12);
    return { months: span, ...(await retakes(signedIn(locals), span)) };
  });
