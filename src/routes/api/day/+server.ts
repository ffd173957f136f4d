import { z } from 'zod';
import { answered, signedIn, understood } from '$lib/server/http/answer';
import { today } from '$lib/server/visits/today';
import type { RequestHandler } from './$types';

const day = z.iso.date().nullable();

/** A day of the clinic, today where none is named. */
export const GET: RequestHandler = ({ locals, url }) =>
  answered(() => today(signedIn(locals), understood(day, url.searchParams.get('day'))));
