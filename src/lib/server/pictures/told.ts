import { findingsOf, readableLayers } from '../../core/picture/pictureLayers';
import type { Tx } from '../database/connection';
import { type NewStep, stepsOf } from './queries';

/** Kinds of steps that say something a chart's list shows or is searched by; one without a kind undoes another. */
const telling: readonly string[] = ['about', 'finding', 'grade', 'kept'];

/** What people have called a picture, wrote of it and how they graded it: noted where lists find it. @returns whether it was */
export async function noteTold(tx: Tx, pictureId: string, steps: readonly NewStep[]): Promise<boolean> {
  if (!steps.some(({ kind, undoes }) => undoes !== null || telling.includes(kind))) return false;
  const log = (await stepsOf(tx, [pictureId])).get(pictureId) ?? [];
  const { layers } = readableLayers(log);
  const words = [layers.about?.remark ?? '', ...findingsOf(layers).map(({ finding }) => finding.words)];
  const told = {
    name: layers.about?.name ?? '',
    words: words.filter(Boolean).join('; '),
    grade: layers.grade?.grade ?? '',
    kept: layers.items.filter(({ kind }) => kind === 'kept').length
  };
  await tx.sql('update picture set told = $2::jsonb where picture_id = $1', pictureId, JSON.stringify(told));
  return true;
}

/** The same for pictures of before it was noted. @returns how many there were */
export async function noteAllTold(tx: Tx): Promise<number> {
  const rows = await tx.sql<{ picture_id: string }>(
    `select p.picture_id from picture p where p.clinic_id = $1 and p.told is null and exists (
       select 1 from picture_step s where s.picture_id = p.picture_id and s.kind = any($2::text[]))`,
    tx.clinicId,
    telling
  );
  for (const { picture_id } of rows) {
    const steps = (await stepsOf(tx, [picture_id])).get(picture_id) ?? [];
    await noteTold(tx, picture_id, steps);
  }
  return rows.length;
}

/** Who stood at the device when it exposed a picture. */
export const noteOperator = (tx: Tx, pictureId: string): Promise<unknown> =>
  tx.sql(
    `update picture p set by_name = u.display_name
     from standing s join arming a on a.clinic_id = s.clinic_id and a.tray_id = s.tray_id and a.slot_id = s.slot_id
       join user_account u on u.user_id = a.user_id
     where p.picture_id = $1 and p.source = 'device' and p.by_name = '' and s.clinic_id = p.clinic_id
       and s.picture_id = p.picture_id and a.made_at = (
         select max(m.made_at) from arming m where m.clinic_id = s.clinic_id and m.tray_id = s.tray_id
           and m.slot_id = s.slot_id and m.made_at <= p.stored_at)`,
    pictureId
  );
