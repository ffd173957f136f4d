import { z } from 'zod';
import { blobStream } from '$lib/server/blobs/keep';
import { answered, signedIn, understood } from '$lib/server/http/answer';
import { keptForOne, unchanged } from '$lib/server/http/headers';
import { demand } from '$lib/server/people/caller';
import { seenBy } from '$lib/server/pictures/changes';
import { isPlainSamples, levelOf, stretchOfFrame } from '$lib/server/pictures/levels';
import { notFound } from '$lib/server/problem';
import type { RequestHandler } from './$types';

const level = z.coerce.number().int().min(0).max(12);
const frame = z.coerce.number().int().min(0).max(100_000);

/** Samples of one frame at one size, little-endian; they never change. A device's own samples go as they are. */
export const GET: RequestHandler = ({ locals, params, request, url }) =>
  answered(async () => {
    const caller = signedIn(locals);
    await demand(caller, 'view charts', params.picture);
    const [wanted, of] = [
      understood(level, params.level),
      understood(frame, url.searchParams.get('frame') ?? 0)
    ];
    const row = await seenBy(caller, params.picture);
    const tag = `${params.picture} ${of} ${wanted}`;
    const known = unchanged(request, tag);
    if (known) return known;
    const headers = { 'content-type': 'application/octet-stream', ...keptForOne(tag) };
    if (wanted === 0 && isPlainSamples(row)) {
      if (of >= row.frames) throw notFound('This frame');
      const stretch = stretchOfFrame(row, of);
      return new Response(blobStream(caller.clinicId, row.original_sha256, stretch), {
        headers: { ...headers, 'content-length': String(stretch.to - stretch.from) }
      });
    }
    const { encoding, bytes } = await levelOf(caller.clinicId, params.picture, of, wanted);
    return new Response(new Uint8Array(bytes), {
      headers: encoding === 'gzip' ? { ...headers, 'content-encoding': 'gzip' } : headers
    });
  });
