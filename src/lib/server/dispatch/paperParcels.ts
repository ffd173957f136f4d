import { z } from 'zod';
import { addressWords, carriesPapers } from '../../core/parcel/destination';
import { packing, plainPacking } from '../../core/parcel/packing';
import { once } from '../acts/once';
import { writeAudit } from '../audit/write';
import { type Tx, inClinic } from '../database/connection';
import { newId } from '../ids';
import { type Caller, demand } from '../people/caller';
import { Problem, notFound } from '../problem';
import { visitHead } from '../visits/visitHead';
import { destinationOf, settingsOf } from './destinations';
import { announceParcel } from './parcelRow';
import { sendSoon } from './queueing';

export const papersWish = z.strictObject({
  destinationId: z.uuid(),
  paperIds: z.array(z.uuid()).min(1, 'Choose a paper.').max(20),
  /** What stands in the mail. */
  words: z.string().trim().max(4_000).default(''),
  /** Whoever sends has read that a paper tells of a person. */
  warned: z.literal(true, 'Say first that you know what goes along.')
});
type PapersWish = z.infer<typeof papersWish>;

interface Going {
  paper_id: string;
  title: string;
}

/** Puts papers of a visit on their way to a mailbox or a shared folder: they go as they lie there. */
export async function sendPapers(
  caller: Caller,
  visitId: string,
  key: string,
  wish: PapersWish
): Promise<{ parcelId: string }> {
  await demand(caller, 'send', visitId);
  return inClinic(caller.clinicId, async (tx) => {
    await visitHead(tx, visitId);
    return once(tx, caller.userId, key, () => packedPapers(tx, caller, visitId, key, wish));
  });
}

/** The same where somebody has the lock of what they come from. */
export async function packedPapers(
  tx: Tx,
  caller: Caller,
  visitId: string,
  key: string,
  { destinationId, paperIds, words }: Omit<PapersWish, 'warned'>
): Promise<{ parcelId: string }> {
  await demandTakesPapers(tx, destinationId);
  const going = await tx.sql<Going>(
    `select paper_id, title from paper
     where visit_id = $1 and paper_id = any($2::uuid[]) and put_away_by is null`,
    visitId,
    paperIds
  );
  if (going.length < new Set(paperIds).size) throw notFound('One of these papers');
  const { patient } = await visitHead(tx, visitId);
  const parcelId = newId();
  await tx.sql(
    `insert into parcel (parcel_id, clinic_id, visit_id, destination_id, identity, made_by, key, rule_id, packing, state)
     values ($1, $2, $3, $4, 'identified', $5, $6, null, $7::jsonb, 'open')`,
    parcelId,
    tx.clinicId,
    visitId,
    destinationId,
    caller.userId,
    key,
    JSON.stringify({ version: packing.version, body: { ...plainPacking, format: 'pdf', words } })
  );
  await tx.sql(
    `insert into parcel_paper (clinic_id, parcel_id, paper_id, position)
     select $1, $2, id, at from unnest($3::uuid[]) with ordinality of (id, at)`,
    tx.clinicId,
    parcelId,
    [...new Set(paperIds)]
  );
  const deliveryId = newId();
  await tx.sql(
    `insert into delivery (delivery_id, clinic_id, parcel_id, picture_id, state) values ($1, $2, $3, null, 'waiting')`,
    deliveryId,
    tx.clinicId,
    parcelId
  );
  await sendSoon(tx, [deliveryId]);
  await announceParcel(tx, parcelId);
  await writeAudit(tx, caller, 'sending asked', visitId, {
    patientId: patient.patientId,
    papers: going.length,
    identity: 'identified'
  });
  return { parcelId };
}

/** @throws Problem where a destination takes no papers, or nothing that tells who it is of */
async function demandTakesPapers(tx: Tx, destinationId: string): Promise<void> {
  const { address, identity } = settingsOf(await destinationOf(tx, destinationId));
  if (!carriesPapers(address))
    throw new Problem(
      'papers-as-whole',
      `${addressWords(address)} takes pictures, and no papers.`,
      'Send it by mail or into a shared folder; a package takes papers along with pictures.',
      422
    );
  if (identity !== 'identified')
    throw new Problem(
      'papers-named',
      'What goes there goes without its identity, and nobody looks through what stands in a paper.',
      'Choose a destination that may know who it is of.',
      422
    );
}

/** Papers of a parcel in their order, and where their bytes are; those that were put away since are left out. */
export const papersOfParcel = (
  tx: Tx,
  parcelId: string
): Promise<{ paper_id: string; title: string; sha256: Buffer }[]> =>
  tx.sql(
    `select p.paper_id, p.title, p.sha256 from parcel_paper j
       join paper p on p.clinic_id = j.clinic_id and p.paper_id = j.paper_id
     where j.clinic_id = $1 and j.parcel_id = $2 and p.put_away_by is null order by j.position`,
    tx.clinicId,
    parcelId
  );
