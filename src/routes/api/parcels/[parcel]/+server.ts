import { z } from 'zod';
import { dispatchParcel } from '$lib/server/dispatch/dispatchViews';
import { actOnParcel, parcelActs } from '$lib/server/dispatch/parcels';
import { answered, keyOf, signedIn, understood, wishOf } from '$lib/server/http/answer';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = ({ locals, params }) =>
  answered(() => dispatchParcel(signedIn(locals), understood(z.uuid(), params.parcel)));

/** Hold, go on, withdraw, try all, send elsewhere, let go. */
export const POST: RequestHandler = ({ locals, params, request }) =>
  answered(async () =>
    actOnParcel(
      signedIn(locals),
      understood(z.uuid(), params.parcel),
      keyOf(request),
      await wishOf(request, parcelActs)
    )
  );
