import { z } from 'zod';
import { whoIs } from '$lib/server/deidentify/pseudonyms';
import { answered, signedIn, wishOf } from '$lib/server/http/answer';
import type { RequestHandler } from './$types';

const wish = z.strictObject({ pseudonym: z.string().trim().min(3, 'Enter the pseudonym.').max(40) });

/** Who a pseudonym stands for. Asked by POST, so that it stands in no address. */
export const POST: RequestHandler = ({ locals, request }) =>
  answered(async () => ({ found: await whoIs(signedIn(locals), (await wishOf(request, wish)).pseudonym) }));
