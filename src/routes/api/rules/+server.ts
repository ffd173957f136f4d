import { keepRule, ruleWish, rules } from '$lib/server/deidentify/rules';
import { answered, keyOf, signedIn, wishOf } from '$lib/server/http/answer';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = ({ locals }) => answered(() => rules(signedIn(locals)));

export const POST: RequestHandler = ({ locals, request }) =>
  answered(async () => keepRule(signedIn(locals), keyOf(request), await wishOf(request, ruleWish)));
