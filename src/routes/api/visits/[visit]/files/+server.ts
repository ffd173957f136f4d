import { z } from 'zod';
import { answered, keyOf, signedIn } from '$lib/server/http/answer';
import { bringIn } from '$lib/server/pictures/bringIn';
import type { RequestHandler } from './$types';

const about = z.object({
  name: z.string().min(1).max(500),
  tray: z.uuid().nullable(),
  slot: z.string().max(60).nullable()
});

const nothing: AsyncIterable<Uint8Array> = (async function* () {})();

/** One file a request, its bytes as the body; name, tray and slot in the address. */
export const POST: RequestHandler = ({ locals, params, request, url }) =>
  answered(async () => {
    const caller = signedIn(locals);
    const key = z.uuid().parse(keyOf(request));
    const { name, tray, slot } = about.parse(
      Object.fromEntries(['name', 'tray', 'slot'].map((each) => [each, url.searchParams.get(each)]))
    );
    const body = (request.body as AsyncIterable<Uint8Array> | null) ?? nothing;
    return bringIn(caller, { visitId: params.visit, trayId: tray, slotId: slot, fileName: name, body, key });
  });
