import { checkAudit, latestAudit } from '$lib/server/audit/check';
import { inClinic } from '$lib/server/database/connection';
import { signedIn, loaded } from '$lib/server/http/answer';
import { demand } from '$lib/server/people/caller';
import type { PageServerLoad } from './$types';

const linesShown = 200;

export const load: PageServerLoad = ({ locals }) =>
  loaded(async () => {
    const caller = signedIn(locals);
    await demand(caller, 'read the audit', 'audit');
    return inClinic(caller.clinicId, async (tx) => ({
      check: await checkAudit(tx),
      lines: (await latestAudit(tx, linesShown)).map((line) => ({ ...line, at: line.at.toISOString() }))
    }));
  });
