import { letterheadSeen } from '$lib/server/clinics/letterhead';
import { loaded, signedIn } from '$lib/server/http/answer';
import { colleagues } from '$lib/server/letters/colleagues';
import { filled } from '$lib/server/letters/filling';
import { letter } from '$lib/server/letters/letters';
import { categories } from '$lib/server/pictures/categories';
import type { LayoutServerLoad } from './$types';

export const load: LayoutServerLoad = ({ locals, params, depends }) =>
  loaded(async () => {
    depends('yonder:letter');
    const caller = signedIn(locals);
    const kept = await letter(caller, params.visit, params.letter);
    const [people, named, { filling, offered }, head] = await Promise.all([
      colleagues(caller),
      categories(caller),
      filled(caller, params.visit, kept),
      letterheadSeen(caller)
    ]);
    return { letter: kept, filling, colleagues: people, offered, categories: named, letterhead: head };
  });
