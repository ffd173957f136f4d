import type { OutFile } from '../takenOut/takenOut';

/** A file to be kept by whoever asked; never by a cache, for what it holds changes. */
export const fileAnswer = ({ bytes, mediaType, fileName }: OutFile): Response =>
  new Response(new Uint8Array(bytes), {
    headers: {
      'content-type': mediaType,
      'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(fileName)}`,
      'cache-control': 'no-store'
    }
  });
