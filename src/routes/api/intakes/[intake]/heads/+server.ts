import { surveyHeads } from '$lib/server/arrivals/survey';
import { answered, signedIn } from '$lib/server/http/answer';
import { bytesOf, readOut } from '$lib/server/http/described';
import type { RequestHandler } from './$types';

/** Beginnings of files that are about to come: whose they are is told before they are read. */
export const POST: RequestHandler = ({ locals, params, request }) =>
  answered(async () => {
    const told = await surveyHeads(signedIn(locals), params.intake, bytesOf(request));
    await readOut(request);
    return told;
  });
