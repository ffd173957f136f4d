import { answered, keyOf, signedIn, wishOf } from '$lib/server/http/answer';
import { changePerson, personChange } from '$lib/server/people/staff';
import type { RequestHandler } from './$types';

export const POST: RequestHandler = ({ locals, params, request }) =>
  answered(async () =>
    changePerson(signedIn(locals), keyOf(request), params.person, await wishOf(request, personChange))
  );
