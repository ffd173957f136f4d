import { z } from 'zod';
import { dropOwnLook, lookNameWish, renameOwnLook } from '$lib/server/clinics/ownLooks';
import { answered, keyOf, signedIn, understood, wishOf } from '$lib/server/http/answer';
import type { RequestHandler } from './$types';

export const POST: RequestHandler = ({ locals, params, request }) =>
  answered(async () =>
    renameOwnLook(
      signedIn(locals),
      keyOf(request),
      understood(z.uuid(), params.look),
      await wishOf(request, lookNameWish)
    )
  );

export const DELETE: RequestHandler = ({ locals, params, request }) =>
  answered(() => dropOwnLook(signedIn(locals), keyOf(request), understood(z.uuid(), params.look)));
