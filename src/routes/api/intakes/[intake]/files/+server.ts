import { senderOfCaller } from '$lib/server/arrivals/intakes';
import { takeIn } from '$lib/server/arrivals/takeIn';
import { answered, signedIn } from '$lib/server/http/answer';
import { bytesOf, readOut } from '$lib/server/http/described';
import { demand } from '$lib/server/people/caller';
import type { RequestHandler } from './$types';

/** One file a request, its bytes as the body, where it lay in the address. The same place twice is one file. */
export const POST: RequestHandler = ({ locals, params, request, url }) =>
  answered(async () => {
    const caller = signedIn(locals);
    await demand(caller, 'bring in files', params.intake);
    const path = url.searchParams.get('path') ?? '';
    const taken = await takeIn(senderOfCaller(caller, 'drop'), params.intake, {
      path,
      body: bytesOf(request)
    });
    await readOut(request);
    return taken;
  });
