import { z } from 'zod';
import { colleagueSchema } from '$core/letter/colleague';
import { answered, keyOf, signedIn, wishOf } from '$lib/server/http/answer';
import { keepColleague } from '$lib/server/letters/colleagues';
import type { RequestHandler } from './$types';

const wish = colleagueSchema.extend({ colleagueId: z.uuid().nullable().default(null) });

/** A colleague whom the clinic writes to, new or as they are now. */
export const POST: RequestHandler = ({ locals, request }) =>
  answered(async () => {
    const { colleagueId, ...said } = await wishOf(request, wish);
    return keepColleague(signedIn(locals), keyOf(request), colleagueId, said);
  });
