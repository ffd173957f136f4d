import { z } from 'zod';
import { sensorFaults } from '$core/phantom/teeth/faultNames';
import { isDemo } from '$lib/server/config';
import {
  demoExpose,
  readyDevice,
  readyWish,
  restDevice,
  setFineness,
  setOpensWith
} from '$lib/server/devices/devices';
import { answered, signedIn, wishOf } from '$lib/server/http/answer';
import { notFound } from '$lib/server/problem';
import type { RequestHandler } from './$types';

const wish = z.discriminatedUnion('kind', [
  readyWish,
  z.object({ kind: z.literal('rest') }),
  z.object({ kind: z.literal('fineness'), fineness: z.string().max(20) }),
  z.object({ kind: z.literal('opens-with'), lookId: z.uuid().nullable() }),
  z.object({ kind: z.literal('demo-expose'), fault: z.enum([...sensorFaults, 'same again']).optional() }),
  z.object({ kind: z.literal('demo-plates'), count: z.number().int().min(1).max(20), again: z.boolean() }),
  z.object({ kind: z.literal('demo-series'), everySeconds: z.number().min(1).max(60) }),
  z.object({ kind: z.literal('demo-unplug'), seconds: z.number().min(1).max(120) })
]);

export const POST: RequestHandler = ({ locals, params, request }) =>
  answered(async () => {
    const caller = signedIn(locals);
    const asked = await wishOf(request, wish);
    if (asked.kind === 'ready') return readyDevice(caller, params.device, asked.trayId, asked);
    if (asked.kind === 'fineness') return setFineness(caller, params.device, asked.fineness);
    if (asked.kind === 'opens-with') return setOpensWith(caller, params.device, asked.lookId);
    if (asked.kind === 'rest') return restDevice(caller, params.device);
    if (!isDemo()) throw notFound('The demo corner');
    return demoExpose(caller, params.device, asked);
  });
