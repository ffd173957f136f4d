import { answered, wishOf } from '$lib/server/http/answer';
import { pairPhone, pairWish } from '$lib/server/phones/phones';
import type { RequestHandler } from './$types';

export const POST: RequestHandler = ({ request, getClientAddress }) =>
  answered(async () => pairPhone(await wishOf(request, pairWish), getClientAddress()));
