import { bundles } from '$lib/server/arrivals/bundles';
import { intakesSeen } from '$lib/server/arrivals/intakes';
import { answered, signedIn } from '$lib/server/http/answer';
import type { RequestHandler } from './$types';

/** What lies on the sorting desk, and what is coming in. */
export const GET: RequestHandler = ({ locals }) =>
  answered(async () => {
    const caller = signedIn(locals);
    return { bundles: await bundles(caller), intakes: await intakesSeen(caller) };
  });
