import { createHash } from 'node:crypto';
import { type Tx, inClinic } from '../database/connection';
import { enqueue, queues } from '../jobs/boss';
import { NotDelivered } from './carriers/carrier';
import { sendMail } from './carriers/mail';
import type { Claimed } from './claimed';
import { announceParcel } from './parcelRow';

/** Somebody who is told of a parcel. */
export interface Telling {
  clinicId: string;
  parcelId: string;
  to: string;
}

/** Once all of a parcel is there, whoever is told of what arrives at its destination is told, once each. */
export async function tellWhenThere(tx: Tx, { parcel, settings }: Claimed): Promise<void> {
  const whole = await tx.one(
    `update parcel set told_at = now() where parcel_id = $1 and told_at is null and not exists (
       select 1 from delivery d where d.parcel_id = $1 and d.state not in ('delivered', 'withdrawn')) returning 1`,
    parcel.parcelId
  );
  if (!whole) return;
  for (const to of settings.tell)
    await enqueue(tx, queues.tell, { clinicId: tx.clinicId, parcelId: parcel.parcelId, to });
}

/** Tells one of them by mail. What can't be sent now is tried again by the queue, and stands at the parcel meanwhile. */
export async function tellOfParcel({ clinicId, parcelId, to }: Telling): Promise<void> {
  const told = await inClinic(clinicId, (tx) =>
    tx.one<{ clinic: string; destination: string; pictures: number; papers: number; day: string }>(
      `select c.name as clinic, t.name as destination, to_char(k.made_at at time zone c.time_zone, 'YYYY-MM-DD') as day,
         (select count(*)::int from parcel_item i where i.clinic_id = k.clinic_id and i.parcel_id = k.parcel_id) as pictures,
         (select count(*)::int from parcel_paper j where j.clinic_id = k.clinic_id and j.parcel_id = k.parcel_id) as papers
       from parcel k join clinic c using (clinic_id) join destination t using (destination_id) where k.parcel_id = $1`,
      parcelId
    )
  );
  if (!told) return;
  const { clinic, destination, pictures, papers, day } = told;
  const [count, unit] = pictures > 0 ? [pictures, 'picture'] : [papers, 'paper'];
  const what = count === 1 ? `One ${unit}` : `${count} ${unit}s`;
  const noted = (problem: string) =>
    inClinic(clinicId, async (tx) => {
      await tx.sql('update parcel set told_problem = $2 where parcel_id = $1', parcelId, problem);
      await announceParcel(tx, parcelId);
    });
  try {
    await sendMail({
      id: createHash('sha256').update(`${parcelId} ${to}`).digest('hex').slice(0, 32),
      to,
      subject: `${what} from ${clinic} at ${destination}`,
      text: `${what} that ${clinic} sent on ${day} arrived at ${destination}.`,
      files: [],
      wire: () => {}
    });
    await noted('');
  } catch (error) {
    if (error instanceof NotDelivered)
      await noted(`${to} could not be told: ${error.reason} ${error.next}`.trim());
    throw error;
  }
}
