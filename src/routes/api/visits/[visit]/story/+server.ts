import { storyWriting } from '$core/visit/story';
import { answered, keyOf, signedIn, wishOf } from '$lib/server/http/answer';
import { earlierWordings, storySeen, writeStory } from '$lib/server/visits/story';
import type { RequestHandler } from './$types';

/** The story as it stands; with `part`, what that part said before. */
export const GET: RequestHandler = ({ locals, params, url }) =>
  answered(async () => {
    const caller = signedIn(locals);
    const part = url.searchParams.get('part');
    if (part === null) return storySeen(caller, params.visit);
    return { wordings: await earlierWordings(caller, params.visit, part) };
  });

export const POST: RequestHandler = ({ locals, params, request }) =>
  answered(async () =>
    writeStory(signedIn(locals), params.visit, keyOf(request), await wishOf(request, storyWriting))
  );
