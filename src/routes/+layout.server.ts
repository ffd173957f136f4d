import { waitingFor } from '$lib/server/arrivals/bundles';
import { isDemo } from '$lib/server/config';
import { may, roleWords } from '$lib/server/people/roles';
import type { LayoutServerLoad } from './$types';

export const load: LayoutServerLoad = async ({ locals, cookies, depends }) => {
  const { caller } = locals;
  depends('yonder:waiting');
  return {
    // A page opens also while the records are away.
    arrivals: caller ? await waitingFor(caller).catch(() => 0) : 0,
    who: caller && {
      userId: caller.userId,
      name: caller.name,
      role: roleWords[caller.role],
      may: {
        acquire: may(caller.role, 'acquire'),
        enterPatients: may(caller.role, 'enter patients'),
        layPatterns: may(caller.role, 'lay patterns'),
        writeGuides: may(caller.role, 'write guides'),
        joinCharts: may(caller.role, 'join charts'),
        writeTemplates: may(caller.role, 'write templates'),
        writeLetters: may(caller.role, 'write letters'),
        writeStories: may(caller.role, 'write stories'),
        bringIn: may(caller.role, 'bring in files'),
        confirm: may(caller.role, 'confirm'),
        changePictures: may(caller.role, 'change pictures'),
        link: may(caller.role, 'link'),
        deletePictures: may(caller.role, 'delete pictures'),
        changeCategories: may(caller.role, 'change categories'),
        send: may(caller.role, 'send'),
        changeSettings: may(caller.role, 'change settings'),
        readRecord: may(caller.role, 'read a record'),
        readAudit: may(caller.role, 'read the audit')
      },
      clinicName: caller.clinicName,
      notation: caller.notation,
      timeZone: caller.timeZone,
      language: caller.language,
      dim: cookies.get('room') === 'dim'
    },
    demo: isDemo()
  };
};
