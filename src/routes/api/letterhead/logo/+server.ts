import { error } from '@sveltejs/kit';
import { mostLogoBytes } from '$lib/server/clinics/cleanLogo';
import { keepLogo, letterheadOf } from '$lib/server/clinics/letterhead';
import { answered, signedIn } from '$lib/server/http/answer';
import { bytesOf, wholeBody } from '$lib/server/http/described';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = async ({ locals }) => {
  const { logo } = await letterheadOf(signedIn(locals));
  if (!logo) throw error(404, { message: 'There is no logo.', next: 'Choose one in Settings.' });
  return new Response(new Uint8Array(logo), {
    headers: { 'content-type': 'image/png', 'cache-control': 'no-store' }
  });
};

/** The file as the body. What is larger than a logo can be is not kept while it comes. */
export const POST: RequestHandler = ({ locals, request }) =>
  answered(async () => {
    const caller = signedIn(locals);
    const { bytes, size } = await wholeBody(bytesOf(request), mostLogoBytes);
    return keepLogo(caller, bytes ?? { tooLarge: size });
  });

export const DELETE: RequestHandler = ({ locals }) => answered(() => keepLogo(signedIn(locals), null));
