import { z } from 'zod';
import { fileArrives } from '$lib/server/arrivals/keeping';
import { answered, understood } from '$lib/server/http/answer';
import { bytesOf, described, offeredKey, readOut } from '$lib/server/http/described';
import { senderOfPhone } from '$lib/server/phones/phones';
import type { RequestHandler } from './$types';

const about = z.object({
  title: z.string().max(200).default(''),
  remark: z.string().max(2_000).default(''),
  fileName: z.string().max(200).default('')
});

/** One picture a request, its bytes as the body. The same key twice is one picture. */
export const POST: RequestHandler = ({ request }) =>
  answered(async () => {
    const from = await senderOfPhone(request.headers.get('authorization'));
    const wish = understood(about, described(request.headers.get('yonder-picture')));
    const arrived = await fileArrives(from, {
      key: `${from.userId}:${offeredKey(request)}`,
      ...wish,
      reason: `${from.name} sent it from a phone.`,
      body: bytesOf(request)
    });
    await readOut(request);
    return arrived;
  });
