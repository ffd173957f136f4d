import { z } from 'zod';
import { takeBackSetting } from '$lib/server/clinics/settingChanges';
import { answered, keyOf, signedIn, understood } from '$lib/server/http/answer';
import type { RequestHandler } from './$types';

/** Takes a change of settings back. */
export const DELETE: RequestHandler = ({ locals, params, request }) =>
  answered(() =>
    takeBackSetting(
      signedIn(locals),
      keyOf(request),
      understood(z.coerce.number().int().positive(), params.line)
    )
  );
