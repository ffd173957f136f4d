import { z } from 'zod';
import { answered, keyOf, signedIn, understood, wishOf } from '$lib/server/http/answer';
import { teachingCase } from '$lib/server/shelf/caseViews';
import { caseChange, changeCase, dropCase } from '$lib/server/shelf/cases';
import type { RequestHandler } from './$types';

const idOf = (params: { case: string }) => understood(z.uuid(), params.case);

export const GET: RequestHandler = ({ locals, params }) =>
  answered(async () => teachingCase(signedIn(locals), idOf(params)));

export const POST: RequestHandler = ({ locals, params, request }) =>
  answered(async () =>
    changeCase(signedIn(locals), keyOf(request), idOf(params), await wishOf(request, caseChange))
  );

export const DELETE: RequestHandler = ({ locals, params, request }) =>
  answered(async () => dropCase(signedIn(locals), keyOf(request), idOf(params)));
