import { isDemo } from '$lib/server/config';
import { may, roleWords } from '$lib/server/people/caller';
import type { LayoutServerLoad } from './$types';

export const load: LayoutServerLoad = ({ locals, cookies }) => {
  const { caller } = locals;
  return {
    who: caller && {
      name: caller.name,
      role: roleWords[caller.role],
      may: {
        acquire: may(caller.role, 'acquire'),
        confirm: may(caller.role, 'confirm'),
        changePictures: may(caller.role, 'change pictures'),
        link: may(caller.role, 'link'),
        send: may(caller.role, 'send'),
        changeSettings: may(caller.role, 'change settings')
      },
      clinicName: caller.clinicName,
      notation: caller.notation,
      dim: cookies.get('room') === 'dim'
    },
    demo: isDemo()
  };
};
