import { z } from 'zod';
import { recordOfPatient } from '$lib/server/audit/ofPatient';
import { loaded, signedIn, understood } from '$lib/server/http/answer';
import type { PageServerLoad } from './$types';

const before = z.coerce.number().int().min(1).nullable();

export const load: PageServerLoad = ({ locals, params, url }) =>
  loaded(async () => ({
    record: await recordOfPatient(
      signedIn(locals),
      params.patient,
      understood(before, url.searchParams.get('before'))
    ),
    newest: url.searchParams.get('before') === null
  }));
