import type { ZodType } from 'zod';
import { type ReportChoice, reportChoice } from '$core/report/visitReport';
import { answered, signedIn, wishOf } from '$lib/server/http/answer';
import { madePaper } from '$lib/server/http/madePaper';
import { chooseReport, visitReport } from '$lib/server/report/visitReport';
import type { RequestHandler } from './$types';

/** The report of the visit as a PDF, with what has to be heard before it is shared. */
export const GET: RequestHandler = ({ locals, params }) =>
  answered(async () => madePaper(await visitReport(signedIn(locals), params.visit)));

/** How it is put together from now on. */
export const POST: RequestHandler = ({ locals, params, request }) =>
  answered(async () =>
    chooseReport(
      signedIn(locals),
      params.visit,
      await wishOf(request, reportChoice.schema as ZodType<ReportChoice>)
    )
  );
