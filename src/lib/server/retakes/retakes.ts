import { dayOf } from '../../core/time/clinicTime';
import type { CountedTake } from '../../core/retakes/tally';
import { retakenTakes } from '../../core/tray/retaken';
import { noteLook } from '../audit/looks';
import { inClinic } from '../database/connection';
import { type Caller, demand } from '../people/caller';
import { type PictureRow, pictureColumns } from '../pictures/queries';
import { viewsOf } from '../pictures/views';
import { traysOfVisits } from '../trays/trays';

/** So many takes are counted at most: a busy clinic's year. */
const mostTakes = 20_000;
const unknownOperator = 'Not known';

export interface RetakesSeen {
  takes: CountedTake[];
  /** There were more than can be counted: these are the newest. */
  cut: boolean;
}

/** Everything that devices exposed for slots since a moment, with what was taken again and what is known of why. */
export async function retakes(caller: Caller, months: number, now = new Date()): Promise<RetakesSeen> {
  await demand(caller, 'view charts', 'retakes');
  const since = new Date(now);
  since.setMonth(since.getMonth() - months);
  return inClinic(caller.clinicId, async (tx) => {
    noteLook(caller, 'chart viewed', 'retakes', { key: 'retakes' });
    const rows = await tx.sql<PictureRow & { operator: string | null }>(
      `select ${pictureColumns},
         (select u.display_name from arming a join user_account u on u.user_id = a.user_id
          where a.clinic_id = p.clinic_id and a.tray_id = s.tray_id and a.slot_id = s.slot_id and a.made_at <= p.stored_at
          order by a.made_at desc limit 1) as operator
       from picture p join blob b on b.clinic_id = p.clinic_id and b.sha256 = p.original_sha256
       join standing s on s.clinic_id = p.clinic_id and s.picture_id = p.picture_id
       where p.clinic_id = $1 and p.away is null and p.source = 'device' and s.slot_id is not null and p.taken_at >= $2
       order by p.taken_at desc limit $3`,
      tx.clinicId,
      since,
      mostTakes + 1
    );
    const counted = rows.slice(0, mostTakes);
    const views = await viewsOf(tx, counted, caller.userId);
    const trays = await traysOfVisits(tx, [...new Set(counted.map((row) => row.visit_id))]);
    const again = new Set(trays.flatMap(({ log, book }) => [...retakenTakes(log, book)]));
    return {
      cut: rows.length > mostTakes,
      takes: views.map((view, i) => ({
        month: dayOf(new Date(view.takenAt), caller.timeZone).slice(0, 7),
        operator: counted[i].operator ?? unknownOperator,
        device: view.from,
        slot: view.slot?.name ?? 'Slot of an older pattern',
        retaken: again.has(view.pictureId),
        grade: view.layers.grade,
        advice: view.advice
      }))
    };
  });
}
