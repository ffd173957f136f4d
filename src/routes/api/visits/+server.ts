import { z } from 'zod';
import { answered, callerOf } from '$lib/server/http/answer';
import { openAppointment, openVisit } from '$lib/server/visits/visits';
import type { RequestHandler } from './$types';

const wish = z.union([
  z.object({ appointmentId: z.uuid() }),
  z.object({ patientId: z.uuid(), roomId: z.uuid() })
]);

export const POST: RequestHandler = ({ locals, request }) =>
  answered(async () => {
    const caller = callerOf(locals);
    const asked = wish.parse(await request.json());
    const visitId =
      'appointmentId' in asked
        ? await openAppointment(caller, asked.appointmentId)
        : await openVisit(caller, asked.patientId, asked.roomId);
    return { visitId };
  });
