import { answered } from '$lib/server/http/answer';
import { bytesOf } from '$lib/server/http/described';
import { stored } from '$lib/server/network/stow';
import type { RequestHandler } from './$types';

/** Store transaction of DICOMweb (PS3.18 10.5) for systems that the clinic knows. */
export const POST: RequestHandler = ({ request }) =>
  answered(async () => {
    const { status, answer } = await stored(
      request.headers.get('authorization'),
      request.headers.get('content-type') ?? '',
      bytesOf(request)
    );
    return new Response(JSON.stringify(answer), {
      status,
      headers: { 'content-type': 'application/dicom+json' }
    });
  });
