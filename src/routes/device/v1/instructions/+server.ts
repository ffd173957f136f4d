import { deviceOf, instructionFor } from '$lib/server/devices/devices';
import { answered } from '$lib/server/http/answer';
import { follow } from '$lib/server/news/listen';
import { eventStream } from '$lib/server/news/stream';
import type { RequestHandler } from './$types';

/** What the device is to do: the present instruction at once, then every new one as it comes. */
export const GET: RequestHandler = ({ request }) =>
  answered(async () => {
    const device = await deviceOf(request.headers.get('authorization'));
    return eventStream((send, end) => {
      const tell = () =>
        void instructionFor(device)
          .then((instruction) => send('instruction', instruction))
          .catch(() => {
            // The records are away; the device is told again when they are back.
          });
      tell();
      return follow((news) => {
        if (news === 'missed-some') tell();
        else if (news.topic === 'device-over' && news.deviceId === device.deviceId) end();
        else if (news.topic === 'device-command' && news.deviceId === device.deviceId) {
          if (news.command.kind === 'look-again') tell();
          else send('demo', news.command);
        }
      });
    });
  });
