import { z } from 'zod';
import { lostAnchor } from '$lib/server/audit/anchor';
import { checkAudit, checkNewLines, latestAudit, noteChecked } from '$lib/server/audit/check';
import { flushLooks } from '$lib/server/audit/looks';
import { inClinic } from '$lib/server/database/connection';
import { loaded, signedIn, understood } from '$lib/server/http/answer';
import { demand } from '$lib/server/people/caller';
import type { PageServerLoad } from './$types';

const linesShown = 100;
const asked = z.object({
  before: z.coerce.number().int().min(1).nullable(),
  all: z.string().nullable()
});

/** A page of lines, the newest first; new ones are checked each time, all of them when that is asked. */
export const load: PageServerLoad = ({ locals, url }) =>
  loaded(async () => {
    const caller = signedIn(locals);
    await demand(caller, 'read the audit', 'audit');
    const { before, all } = understood(asked, {
      before: url.searchParams.get('before'),
      all: url.searchParams.get('all')
    });
    await flushLooks();
    return inClinic(caller.clinicId, async (tx) => {
      const check = all === null ? await checkNewLines(tx) : await checkAudit(tx);
      if (all !== null) await noteChecked(tx, check);
      const lines = await latestAudit(tx, linesShown, before);
      return {
        check,
        whole: all !== null,
        lost: await lostAnchor(tx),
        before,
        older: lines.length === linesShown ? lines[lines.length - 1].seq : null,
        lines: lines.map((line) => ({ ...line, at: line.at.toISOString() }))
      };
    });
  });
