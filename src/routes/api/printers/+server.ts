import { printerSchema } from '$core/print/printer';
import { keepPrinter } from '$lib/server/clinics/printers';
import { answered, keyOf, signedIn, wishOf } from '$lib/server/http/answer';
import type { RequestHandler } from './$types';

export const POST: RequestHandler = ({ locals, request }) =>
  answered(async () => keepPrinter(signedIn(locals), keyOf(request), await wishOf(request, printerSchema)));
