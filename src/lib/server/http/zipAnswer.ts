/** A ZIP that is made while it is fetched. */
export const zipAnswer = ({ stream, fileName }: { stream: ReadableStream<Uint8Array>; fileName: string }) =>
  new Response(stream, {
    headers: {
      'content-type': 'application/zip',
      'content-disposition': `attachment; filename="${fileName}"`,
      'cache-control': 'no-store'
    }
  });
