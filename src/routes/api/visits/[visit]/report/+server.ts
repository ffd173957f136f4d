import type { ZodType } from 'zod';
import { type ReportChoice, reportChoice } from '$core/report/visitReport';
import { answered, signedIn, wishOf } from '$lib/server/http/answer';
import { chooseReport, visitReport } from '$lib/server/report/visitReport';
import type { RequestHandler } from './$types';

/** The report of the visit as a PDF, with what has to be heard before it is shared. */
export const GET: RequestHandler = ({ locals, params }) =>
  answered(async () => {
    const { bytes, ...told } = await visitReport(signedIn(locals), params.visit);
    return new Response(new Uint8Array(bytes), {
      headers: {
        'content-type': 'application/pdf',
        'x-report-told': encodeURIComponent(JSON.stringify(told)),
        'cache-control': 'no-store'
      }
    });
  });

/** How it is put together from now on. */
export const POST: RequestHandler = ({ locals, params, request }) =>
  answered(async () =>
    chooseReport(
      signedIn(locals),
      params.visit,
      await wishOf(request, reportChoice.schema as ZodType<ReportChoice>)
    )
  );
