import { destinations } from '$lib/server/dispatch/destinations';
import { loaded, signedIn } from '$lib/server/http/answer';
import { colleagues } from '$lib/server/letters/colleagues';
import { templates } from '$lib/server/letters/templates';
import { carriesPapers } from '$core/parcel/destination';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = ({ locals, depends }) =>
  loaded(async () => {
    depends('yonder:letters');
    const caller = signedIn(locals);
    const [listed, people, places] = await Promise.all([
      templates(caller),
      colleagues(caller),
      destinations(caller)
    ]);
    return {
      templates: listed,
      colleagues: people,
      destinations: places.filter(carriesPapers).map(({ destinationId, name }) => ({ destinationId, name }))
    };
  });
