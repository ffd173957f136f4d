import { z } from 'zod';
import { fetchParcel } from '$lib/server/dispatch/fetching';
import { answered, signedIn, understood } from '$lib/server/http/answer';
import { zipAnswer } from '$lib/server/http/zipAnswer';
import type { RequestHandler } from './$types';

/** The parcel as a ZIP. */
export const GET: RequestHandler = ({ locals, params }) =>
  answered(async () => zipAnswer(await fetchParcel(signedIn(locals), understood(z.uuid(), params.parcel))));
