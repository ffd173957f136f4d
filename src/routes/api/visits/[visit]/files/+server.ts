import { z } from 'zod';
import { answered, bodyBytes, callerOf } from '$lib/server/http/answer';
import { bringIn, mostFileBytes } from '$lib/server/pictures/bringIn';
import type { RequestHandler } from './$types';

const about = z.object({
  key: z.uuid(),
  name: z.string().min(1).max(500),
  slot: z.string().max(60).nullable()
});

/** One file a request, its bytes as the body; name, slot and key in the address. */
export const POST: RequestHandler = ({ locals, params, request, url }) =>
  answered(async () => {
    const caller = callerOf(locals);
    const { key, name, slot } = about.parse({
      key: url.searchParams.get('key'),
      name: url.searchParams.get('name'),
      slot: url.searchParams.get('slot')
    });
    const bytes = await bodyBytes(request, mostFileBytes);
    return bringIn(caller, { visitId: params.visit, slotId: slot, fileName: name, bytes, key });
  });
