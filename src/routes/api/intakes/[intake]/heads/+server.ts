import { mostHeadBytes, surveyHeads } from '$lib/server/arrivals/survey';
import { answered, signedIn } from '$lib/server/http/answer';
import { bytesOf, wholeBody } from '$lib/server/http/described';
import type { RequestHandler } from './$types';

/** Beginnings of files that are about to come: whose they are is told before they are read. */
export const POST: RequestHandler = ({ locals, params, request }) =>
  answered(async () => {
    const caller = signedIn(locals);
    const { bytes } = await wholeBody(bytesOf(request), mostHeadBytes);
    return surveyHeads(caller, params.intake, bytes);
  });
