import type { PaperMade } from '../report/made';

/** A paper that was made just now, with what has to be heard before it is shared. */
export const madePaper = ({ bytes, ...told }: PaperMade): Response =>
  new Response(new Uint8Array(bytes), {
    headers: {
      'content-type': 'application/pdf',
      'x-paper-told': encodeURIComponent(JSON.stringify(told)),
      'cache-control': 'no-store'
    }
  });
