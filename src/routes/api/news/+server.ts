import { signedIn } from '$lib/server/http/answer';
import { type ClinicNews, isInside } from '$lib/server/news/announce';
import { gathered } from '$lib/server/news/gathered';
import { follow } from '$lib/server/news/listen';
import { eventStream } from '$lib/server/news/stream';
import { callerOfSession } from '$lib/server/people/session';
import type { RequestHandler } from './$types';

/** News of the caller's clinic, as it happens, for as long as the session lasts. */
export const GET: RequestHandler = ({ locals }) => {
  const caller = signedIn(locals);
  return eventStream((send, end) => {
    send('hello', {});
    const tell = gathered<Omit<ClinicNews, 'clinicId'>>((all) => send('news', all));
    const over = () => {
      send('over', {});
      end();
    };
    return follow((news) => {
      if (news === 'missed-some') {
        send('missed', {});
        void callerOfSession(locals.token!).then(
          (still) => still ?? over(),
          () => {}
        );
        return;
      }
      if (news.topic === 'session-over' && news.session === caller.session) return over();
      const { clinicId, ...rest } = news;
      if (clinicId === caller.clinicId && !isInside(news)) tell(rest);
    });
  });
};
