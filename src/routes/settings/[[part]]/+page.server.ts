import { fail } from '@sveltejs/kit';
import { message, superValidate } from 'sveltekit-superforms';
import { zod as zod4 } from 'superforms-zod4';
import { languageOf } from '$core/time/language';
import { devicesEnrolled } from '$lib/server/devices/enrolment';
import { ownLooks } from '$lib/server/clinics/ownLooks';
import { letterheadSeen } from '$lib/server/clinics/letterhead';
import { settingChanges } from '$lib/server/clinics/settingChanges';
import { roomSettings } from '$lib/server/clinics/rooms';
import { arrivalSettings } from '$lib/server/clinics/senders';
import { changeSettings, keptDays, markers, settingsForm } from '$lib/server/clinics/settings';
import { writtenGuides } from '$lib/server/clinics/writtenGuides';
import { rules } from '$lib/server/deidentify/rules';
import { destinationsSetUp } from '$lib/server/dispatch/destinations';
import { loaded, signedIn } from '$lib/server/http/answer';
import { phonesPaired } from '$lib/server/phones/paired';
import { practiceOfClinic } from '$lib/server/practice/settingUp';
import { staff } from '$lib/server/people/staff';
import { categories } from '$lib/server/pictures/categories';
import { may } from '$lib/server/people/roles';
import { Problem } from '$lib/server/problem';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = ({ locals, depends }) => {
  depends(
    'yonder:markers',
    'yonder:devices',
    'yonder:rooms',
    'yonder:categories',
    'yonder:guides',
    'yonder:doors',
    'yonder:leaving',
    'yonder:papers',
    'yonder:people',
    'yonder:looks',
    'yonder:phones',
    'yonder:practice',
    'yonder:changes'
  );
  return loaded(async () => {
    const { notation, timeZone, language } = signedIn(locals);
    return {
      form: await superValidate(
        { notation, timeZone, language: languageOf(language), ...(await keptDays(signedIn(locals))) },
        zod4(settingsForm)
      ),
      timeZones: Intl.supportedValuesOf('timeZone'),
      markers: await markers(signedIn(locals)),
      doors: await arrivalSettings(signedIn(locals)),
      guides: await writtenGuides(signedIn(locals)),
      looks: await ownLooks(signedIn(locals)),
      devices: await devicesEnrolled(signedIn(locals)),
      rooms: await roomSettings(signedIn(locals)),
      categories: await categories(signedIn(locals)),
      rules: await rules(signedIn(locals)),
      phones: await phonesPaired(signedIn(locals)),
      practice: may(signedIn(locals).role, 'change settings')
        ? await practiceOfClinic(signedIn(locals))
        : null,
      destinations: may(signedIn(locals).role, 'change settings')
        ? await destinationsSetUp(signedIn(locals))
        : [],
      letterhead: await letterheadSeen(signedIn(locals)),
      people: await staff(signedIn(locals)),
      changes: may(signedIn(locals).role, 'change settings') ? await settingChanges(signedIn(locals)) : []
    };
  });
};

export const actions: Actions = {
  default: async ({ request, locals }) => {
    const form = await superValidate(request, zod4(settingsForm));
    if (!form.valid) return fail(400, { form });
    try {
      await changeSettings(signedIn(locals), form.data);
    } catch (problem) {
      if (!(problem instanceof Problem)) throw problem;
      return message(form, `${problem.sentence} ${problem.next}`, { status: problem.status as 403 });
    }
    return message(form, 'Saved. It holds on every screen from now on.');
  }
};
