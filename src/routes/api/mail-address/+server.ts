import { answered, signedIn } from '$lib/server/http/answer';
import { mailAddressOf } from '$lib/server/mail/addresses';
import type { RequestHandler } from './$types';

/** The asker's own address, to which others send pictures. */
export const GET: RequestHandler = ({ locals }) =>
  answered(async () => ({ address: await mailAddressOf(signedIn(locals)) }));
