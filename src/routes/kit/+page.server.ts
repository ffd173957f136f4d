import { error } from '@sveltejs/kit';
import { showsKit } from '$lib/server/config';
import type { PageServerLoad } from './$types';

/** Every part of the kit on one page, for those who build this. */
export const load: PageServerLoad = () => {
  if (!showsKit()) error(404, { message: 'There is no such page.', next: 'Go to Today.' });
};
