import { type Claim, claimSchema } from '../../core/parcel/claim';
import { type Tx, inClinic } from '../database/connection';
import type { Caller } from '../people/caller';

/** What an office was told of a picture the last time, and the number that it answered with. */
export interface ClaimTold {
  claim: Claim;
  tracking: string;
  office: string;
}

/** Pictures that a claims office has, by their numbers. */
export async function claimsTold(tx: Tx, pictureIds: readonly string[]): Promise<Map<string, ClaimTold>> {
  const rows = await tx.sql<{ picture_id: string; told: unknown; tracking: string; office: string }>(
    `select distinct on (d.picture_id) d.picture_id, i.told, d.tracking, t.name as office
     from delivery d join parcel k using (parcel_id)
       join parcel_item i on i.clinic_id = d.clinic_id and i.parcel_id = d.parcel_id and i.picture_id = d.picture_id
       join destination t on t.destination_id = k.destination_id
     where d.picture_id = any($1::uuid[]) and d.state = 'delivered' and d.tracking <> ''
     order by d.picture_id, d.delivered_at desc`,
    pictureIds
  );
  return new Map(
    rows.flatMap(({ picture_id: id, told, tracking, office }) => {
      const claim = claimSchema.safeParse(told).data;
      return claim ? [[id, { claim, tracking, office }] as const] : [];
    })
  );
}

export const claimsOfVisit = (caller: Caller, visitId: string): Promise<Record<string, ClaimTold>> =>
  inClinic(caller.clinicId, async (tx) => {
    const rows = await tx.sql<{ picture_id: string }>(
      'select picture_id from picture where visit_id = $1 and away is null',
      visitId
    );
    return Object.fromEntries(
      await claimsTold(
        tx,
        rows.map(({ picture_id: id }) => id)
      )
    );
  });
