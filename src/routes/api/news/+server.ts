import { callerOf } from '$lib/server/http/answer';
import { follow } from '$lib/server/news/listen';
import { eventStream } from '$lib/server/news/stream';
import type { RequestHandler } from './$types';

/** News of the caller's clinic, as it happens. */
export const GET: RequestHandler = ({ locals }) => {
  const caller = callerOf(locals);
  return eventStream((send) => {
    send('hello', {});
    return follow((news) => {
      if (news === 'missed-some') send('missed', {});
      else if (news.clinicId === caller.clinicId && news.topic !== 'device-command') {
        send('news', { topic: news.topic, id: news.id });
      }
    });
  });
};
