import { inClinic } from '$lib/server/database/connection';
import { answered, callerOf } from '$lib/server/http/answer';
import { demand } from '$lib/server/people/caller';
import { eventFor, trayWish } from '$lib/server/trays/trayEventSchema';
import { changeTray } from '$lib/server/trays/trays';
import { visitHead } from '$lib/server/visits/visits';
import type { RequestHandler } from './$types';

export const POST: RequestHandler = ({ locals, params, request }) =>
  answered(async () => {
    const caller = callerOf(locals);
    const wish = trayWish.parse(await request.json());
    const confirms = wish.kind === 'keeper-confirmed' || wish.kind === 'confirmation-withdrawn';
    await demand(caller, confirms ? 'confirm' : 'acquire', params.visit);
    const stored = await inClinic(caller.clinicId, async (tx) => {
      await visitHead(tx, params.visit);
      return changeTray(tx, params.visit, [eventFor(wish, caller)], caller.name);
    });
    return { tray: stored.tray };
  });
