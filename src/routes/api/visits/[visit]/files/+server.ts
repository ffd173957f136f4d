import { z } from 'zod';
import { answered, keyOf, signedIn, understood } from '$lib/server/http/answer';
import { bytesOf } from '$lib/server/http/described';
import { bringIn } from '$lib/server/pictures/bringIn';
import type { RequestHandler } from './$types';

const about = z.object({
  tray: z.uuid().nullable(),
  slot: z.string().max(60).nullable()
});

/** One file a request, its bytes as the body; name, tray and slot in the address. */
export const POST: RequestHandler = ({ locals, params, request, url }) =>
  answered(async () => {
    const caller = signedIn(locals);
    const key = understood(z.uuid(), keyOf(request));
    const { tray, slot } = understood(about, {
      tray: url.searchParams.get('tray'),
      slot: url.searchParams.get('slot')
    });
    const fileName = url.searchParams.get('name') ?? '';
    return bringIn(caller, {
      visitId: params.visit,
      trayId: tray,
      slotId: slot,
      fileName,
      body: bytesOf(request),
      key
    });
  });
