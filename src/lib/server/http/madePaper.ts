import type { MadeReport } from '../report/visitReport';

/** A paper that was made just now, with what has to be heard before it is shared. */
export const madePaper = ({ bytes, ...told }: MadeReport): Response =>
  new Response(new Uint8Array(bytes), {
    headers: {
      'content-type': 'application/pdf',
      'x-report-told': encodeURIComponent(JSON.stringify(told)),
      'cache-control': 'no-store'
    }
  });
