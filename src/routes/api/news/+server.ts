import { signedIn } from '$lib/server/http/answer';
import { follow } from '$lib/server/news/listen';
import { eventStream } from '$lib/server/news/stream';
import type { RequestHandler } from './$types';

/** News of the caller's clinic, as it happens. */
export const GET: RequestHandler = ({ locals }) => {
  const caller = signedIn(locals);
  return eventStream((send) => {
    send('hello', {});
    return follow((news) => {
      if (news === 'missed-some') return send('missed', {});
      const { clinicId, ...rest } = news;
      if (clinicId === caller.clinicId && rest.topic !== 'device-command') send('news', rest);
    });
  });
};
