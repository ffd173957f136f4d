import { z } from 'zod';
import { webAddress } from '../../core/parcel/destination';
import { dayOf } from '../../core/time/clinicTime';
import { once } from '../acts/once';
import { writeAudit } from '../audit/write';
import { inClinic } from '../database/connection';
import { announce } from '../news/announce';
import { type Caller, demand } from '../people/caller';
import { notFound } from '../problem';
import { PracticeAway, practiceDay } from './asking';
import { type PracticeState, practiceState } from './feed';

export interface PracticeSetUp extends PracticeState {
  url: string;
}

/** The practice system that the day's list comes from, and how it is doing; null where there is none. */
export async function practiceOfClinic(caller: Caller): Promise<PracticeSetUp | null> {
  await demand(caller, 'change settings', 'practice system');
  return inClinic(caller.clinicId, async (tx) => {
    const state = await practiceState(tx);
    const row = await tx.one<{ url: string }>(
      'select url from practice_system where clinic_id = $1',
      tx.clinicId
    );
    return state && row ? { ...state, url: row.url } : null;
  });
}

export const practiceWish = z.strictObject({
  name: z.string().trim().min(1, 'Give it a name.').max(60),
  url: webAddress('the practice system').refine(
    (url) => !/[?#]/.test(url),
    'Enter the address without what comes after a ? or a #.'
  )
});

/** Another address is asked from the next round on; what was heard from the one before says nothing of it. */
export async function keepPractice(
  caller: Caller,
  key: string,
  { name, url }: z.infer<typeof practiceWish>
): Promise<object> {
  await demand(caller, 'change settings', 'practice system');
  return inClinic(caller.clinicId, (tx) =>
    once(tx, caller.userId, key, async () => {
      await tx.sql(
        `insert into practice_system as p (clinic_id, name, url) values ($1, $2, $3)
         on conflict (clinic_id) do update set name = $2, url = $3, problem = '',
           heard_at = case when p.url = $3 then p.heard_at end, unplaced = case when p.url = $3 then p.unplaced else 0 end`,
        tx.clinicId,
        name,
        url
      );
      await writeAudit(tx, caller, 'setting changed', tx.clinicId, { practiceSystem: name });
      await announce(tx, { topic: 'day' });
      return {};
    })
  );
}

/** Asks no more. Appointments that came from it stay as they are. */
export async function dropPractice(caller: Caller, key: string): Promise<object> {
  await demand(caller, 'change settings', 'practice system');
  return inClinic(caller.clinicId, (tx) =>
    once(tx, caller.userId, key, async () => {
      const gone = await tx.sql(
        'delete from practice_system where clinic_id = $1 returning name',
        tx.clinicId
      );
      if (gone.length === 0) throw notFound('A practice system');
      await writeAudit(tx, caller, 'setting changed', tx.clinicId, { practiceSystem: 'dropped' });
      await announce(tx, { topic: 'day' });
      return {};
    })
  );
}

/** Asks an address for today, and takes nothing in: what it answered, in words. */
export async function tryPractice(
  caller: Caller,
  { url }: Pick<z.infer<typeof practiceWish>, 'url'>
): Promise<{ well: boolean; words: string }> {
  await demand(caller, 'change settings', 'practice system');
  try {
    const { appointments, unread } = await practiceDay(
      url,
      dayOf(new Date(), caller.timeZone),
      caller.timeZone
    );
    const of = appointments.length === 1 ? '1 appointment' : `${appointments.length} appointments`;
    return {
      well: true,
      words: `It answered: ${of} today${unread > 0 ? `, and ${unread} that can’t be read` : ''}.`
    };
  } catch (error) {
    if (!(error instanceof PracticeAway)) throw error;
    return { well: false, words: error.message };
  }
}
