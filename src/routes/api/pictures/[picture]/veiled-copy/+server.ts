import { z } from 'zod';
import { keepVeiledCopy } from '$lib/server/deidentify/veiledCopy';
import { answered, keyOf, signedIn, understood } from '$lib/server/http/answer';
import type { RequestHandler } from './$types';

/** Keeps the picture once more, with what is veiled masked for good. */
export const POST: RequestHandler = ({ locals, params, request }) =>
  answered(() =>
    keepVeiledCopy(
      signedIn(locals),
      understood(z.uuid(), params.picture),
      understood(z.uuid(), keyOf(request))
    )
  );
