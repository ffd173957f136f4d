import { once } from '../acts/once';
import { writeAudit } from '../audit/write';
import { inClinic } from '../database/connection';
import type { Caller } from '../people/caller';
import { may } from '../people/roles';
import { notFound } from '../problem';

/** A phone that may send pictures in somebody's name. */
export interface PairedPhone {
  phoneId: string;
  /** In whose name. */
  name: string;
  mine: boolean;
  since: string;
  until: string;
}

/** Phones that are paired now: one's own, and everybody's for who changes settings. */
export async function phonesPaired(caller: Caller): Promise<PairedPhone[]> {
  const all = may(caller.role, 'change settings');
  return inClinic(caller.clinicId, async (tx) => {
    const rows = await tx.sql<{
      phone_id: string;
      user_id: string;
      display_name: string;
      paired_at: Date;
      paired_until: Date;
    }>(
      `select p.phone_id, p.user_id, u.display_name, p.paired_at, p.paired_until
       from phone p join user_account u using (user_id)
       where p.token_hash is not null and p.paired_until > now() and u.disabled_at is null and ($1 or p.user_id = $2)
       order by p.paired_at desc`,
      all,
      caller.userId
    );
    return rows.map((row) => ({
      phoneId: row.phone_id,
      name: row.display_name,
      mine: row.user_id === caller.userId,
      since: row.paired_at.toISOString(),
      until: row.paired_until.toISOString()
    }));
  });
}

/**
 * A phone that one sees in the list sends no more from now on; what it still holds stays on it until it is paired again.
 */
export async function endPairing(caller: Caller, key: string, phoneId: string): Promise<object> {
  const found = (await phonesPaired(caller)).find((each) => each.phoneId === phoneId);
  return inClinic(caller.clinicId, (tx) =>
    once(tx, caller.userId, key, async () => {
      if (!found) throw notFound('This phone');
      await tx.sql('delete from phone where phone_id = $1', phoneId);
      await writeAudit(tx, caller, 'phone pairing ended', phoneId, { of: found.name });
      return {};
    })
  );
}
