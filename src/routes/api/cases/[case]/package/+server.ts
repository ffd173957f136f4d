import { z } from 'zod';
import { answered, signedIn, understood } from '$lib/server/http/answer';
import { zipAnswer } from '$lib/server/http/zipAnswer';
import { casePackage } from '$lib/server/shelf/casePackage';
import type { RequestHandler } from './$types';

/** The case as an open package. */
export const GET: RequestHandler = ({ locals, params }) =>
  answered(async () => zipAnswer(await casePackage(signedIn(locals), understood(z.uuid(), params.case))));
