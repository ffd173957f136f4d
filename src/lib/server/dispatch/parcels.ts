import { z } from 'zod';
import { type Claim, claimSchema } from '../../core/parcel/claim';
import { isFilmPrinter, takesEach, wantsClaims } from '../../core/parcel/destination';
import { type Packing, packing, plainPacking } from '../../core/parcel/packing';
import { once } from '../acts/once';
import { writeAudit } from '../audit/write';
import { type Tx, inClinic } from '../database/connection';
import { lookFirst, unlooked } from '../deidentify/lettering';
import { ruleInUse } from '../deidentify/rules';
import { newId } from '../ids';
import { enqueue, queues } from '../jobs/boss';
import { type Caller, demand } from '../people/caller';
import { type PictureRow, picturesByIds } from '../pictures/queries';
import { Problem, notFound } from '../problem';
import { visitHead } from '../visits/visitHead';
import { destinationOf, settingsOf } from './destinations';
import { claimsByHand, demandFits } from './fitting';
import { packedPapers, papersOfParcel } from './paperParcels';
import { announceParcel, itemsOf, parcelRow } from './parcelRow';
import { sendSoon } from './queueing';

export const parcelWish = z.strictObject({
  /** Null for a parcel that is fetched as a file. */
  destinationId: z.uuid().nullable(),
  /** As the destination has it where it is not said. */
  identity: z.enum(['identified', 'deidentified']).optional(),
  ruleId: z.uuid().nullable().optional(),
  packing: (packing.schema as z.ZodType<Packing>).optional(),
  pictureIds: z.array(z.uuid()).min(1).max(2_000),
  /** Whoever sends has read that names go along. */
  warned: z.boolean().optional(),
  /** What a claims office is told of each picture. */
  claims: z.record(z.uuid(), claimSchema as z.ZodType<Claim>).optional()
});
export type ParcelWish = z.infer<typeof parcelWish>;

interface Sent {
  sent: number;
  left: number;
  /** Null where nothing was left to send. */
  parcelId: string | null;
}

interface Chosen {
  destinationId: string | null;
  identity: 'identified' | 'deidentified';
  ruleId: string | null;
  packing: Packing;
  /** One delivery a picture, or one for the parcel as a whole. */
  each: boolean;
  /** Whether each picture is told of for a claim, which may be made of it more than once. */
  claims: boolean;
}

/**
 * Puts a parcel on its way, or packs it to be fetched: parcel, pictures, deliveries and jobs in one transaction. What is
 * de-identified is looked through before it may go. A picture that is already on its way or delivered to the same archive
 * under the same identity is left out, so nothing goes twice.
 */
export async function sendParcel(
  caller: Caller,
  visitId: string | null,
  key: string,
  wish: ParcelWish
): Promise<Sent> {
  await demand(caller, 'send', visitId ?? 'parcel');
  return inClinic(caller.clinicId, async (tx) => {
    if (visitId) await visitHead(tx, visitId);
    const chosen = await chosenOf(tx, wish);
    const rows = (await picturesByIds(tx, wish.pictureIds)).filter(
      (row) => visitId === null || row.visit_id === visitId
    );
    await demandMayGo(tx, rows, chosen, wish);
    return once(tx, caller.userId, key, () => packed(tx, caller, visitId, key, rows, wish, chosen));
  });
}

/** @throws Problem where names may stand in a picture that nobody looked at, or go along and nobody says to know it */
async function demandMayGo(
  tx: Tx,
  rows: readonly PictureRow[],
  { identity, each, claims }: Chosen,
  { warned, claims: told }: Pick<ParcelWish, 'warned' | 'claims'>
): Promise<void> {
  if (claims) demandClaims(rows, identity, told ?? {});
  if (identity === 'deidentified') {
    const left = await unlooked(tx, rows);
    if (left.length > 0) throw lookFirst(left.length);
  } else if (!each && !warned) throw warnFirst();
}

/** @throws Problem where a claims office would not know what it gets */
function demandClaims(
  rows: readonly PictureRow[],
  identity: Chosen['identity'],
  told: Readonly<Record<string, Claim>>
): void {
  if (identity !== 'identified') throw claimsByHand();
  if (rows.some(({ frames }) => frames > 1))
    throw new Problem(
      'claims-still',
      'A claims office takes single pictures, and one of these is a loop or a series.',
      'Take the frame that shows it out as a PNG (Take out, on the light table), bring that in, and send it.',
      422
    );
  const untold = rows.filter(({ picture_id: id }) => !told[id]).length;
  if (untold > 0)
    throw new Problem(
      'claims-untold',
      `What the claims office is told is missing for ${untold === 1 ? 'one picture' : `${untold} pictures`}.`,
      'Send from the visit or the chart, where each picture’s kind, day, side and remark are seen.',
      422
    );
}

const warnFirst = () =>
  new Problem(
    'warn-first',
    'Names and numbers of the patient go along in this parcel.',
    'Say that you know it, or send it de-identified.',
    409
  );

const laidOutFirst = () =>
  new Problem(
    'films-laid-out',
    'A film printer takes films that were laid out.',
    'Choose pictures and how they lie at Print, in the visit.',
    422
  );

async function chosenOf(tx: Tx, wish: ParcelWish): Promise<Chosen> {
  const settings = wish.destinationId ? settingsOf(await destinationOf(tx, wish.destinationId)) : null;
  const identity = wish.identity ?? settings?.identity ?? 'identified';
  const given = wish.packing ?? settings?.packing ?? plainPacking;
  if (settings && isFilmPrinter(settings.address)) throw laidOutFirst();
  if (settings) demandFits(settings.address, given);
  const asked = wish.ruleId === undefined ? (settings?.ruleId ?? null) : wish.ruleId;
  return {
    destinationId: wish.destinationId,
    identity,
    ruleId: identity === 'deidentified' ? (await ruleInUse(tx, asked)).ruleId : null,
    packing: given,
    each: settings !== null && takesEach(settings.address),
    claims: settings !== null && wantsClaims(settings.address)
  };
}

async function packed(
  tx: Tx,
  caller: Caller,
  visitId: string | null,
  key: string,
  rows: readonly PictureRow[],
  wish: ParcelWish,
  chosen: Chosen
): Promise<Sent> {
  await tx.sql('select pg_advisory_xact_lock(hashtextextended($1, 1))', visitId ?? `parcels ${tx.clinicId}`);
  const there =
    chosen.each && !chosen.claims ? await alreadyThere(tx, chosen, wish.pictureIds) : new Set<string>();
  const going = rows.filter(({ picture_id: id }) => !there.has(id));
  const left = wish.pictureIds.length - going.length;
  if (going.length === 0) return { sent: 0, left, parcelId: null };
  const parcelId = newId();
  const checks = chosen.identity === 'deidentified';
  await tx.sql(
    `insert into parcel (parcel_id, clinic_id, visit_id, destination_id, identity, made_by, key, rule_id, packing, state)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $9::jsonb, $10)`,
    parcelId,
    tx.clinicId,
    visitId,
    chosen.destinationId,
    chosen.identity,
    caller.userId,
    key,
    chosen.ruleId,
    JSON.stringify({ version: packing.version, body: chosen.packing }),
    checks ? 'checking' : 'open'
  );
  await tx.sql(
    `insert into parcel_item (clinic_id, parcel_id, picture_id, position, told)
     select $1, $2, id, at, $4::jsonb -> id::text from unnest($3::uuid[]) with ordinality of (id, at)`,
    tx.clinicId,
    parcelId,
    going.map(({ picture_id: id }) => id),
    JSON.stringify(chosen.claims ? wish.claims : {})
  );
  const deliveries = !chosen.destinationId
    ? []
    : chosen.each
      ? going.map(({ picture_id: id }): string | null => id)
      : [null];
  const ids: string[] = [];
  for (const pictureId of deliveries) {
    const deliveryId = newId();
    ids.push(deliveryId);
    await tx.sql(
      `insert into delivery (delivery_id, clinic_id, parcel_id, picture_id, state) values ($1, $2, $3, $4, $5)`,
      deliveryId,
      tx.clinicId,
      parcelId,
      pictureId,
      checks ? 'packing' : 'waiting'
    );
  }
  if (checks) await enqueue(tx, queues.pack, { clinicId: tx.clinicId, parcelId });
  else await sendSoon(tx, ids);
  await announceParcel(tx, parcelId);
  await writeAudit(tx, caller, 'sending asked', visitId ?? parcelId, {
    patientId: onlyOne(going.map(({ patient_id: id }) => id)),
    pictures: going.length,
    identity: chosen.identity,
    format: chosen.packing.format
  });
  return { sent: going.length, left, parcelId };
}

const onlyOne = (ids: readonly string[]): string | null => (new Set(ids).size === 1 ? ids[0] : null);

/** What changes the object that a picture leaves as, beside what somebody said of it; how it is looked at does not. */
const changesObject = {
  identified: ['scale', 'taken'],
  deidentified: ['scale', 'taken', 'veils']
} as const;

/** Pictures that are at a destination, or on their way there, as they would leave now. */
async function alreadyThere(
  tx: Tx,
  { destinationId, identity, ruleId }: Chosen,
  pictureIds: readonly string[]
): Promise<Set<string>> {
  const rows = await tx.sql<{ picture_id: string }>(
    `select d.picture_id from delivery d join parcel k using (parcel_id)
     where d.picture_id = any($1::uuid[]) and k.destination_id = $2 and k.identity = $3
       and (k.rule_id is null or k.rule_id is not distinct from $4::uuid) and d.state not in ('failed', 'withdrawn')
       and not exists (select 1 from picture_step s
         where s.picture_id = d.picture_id and s.made_at > d.delivered_at and s.kind = any($5))
       and not exists (select 1 from said_attributes a where a.picture_id = d.picture_id and a.said_at > d.delivered_at)`,
    pictureIds,
    destinationId,
    identity,
    ruleId,
    changesObject[identity]
  );
  return new Set(rows.map((row) => row.picture_id));
}

/** Tries a failed or waiting delivery again now. */
export async function tryAgain(caller: Caller, key: string, deliveryId: string): Promise<object> {
  await demand(caller, 'send', deliveryId);
  return inClinic(caller.clinicId, async (tx) => {
    const row = await tx.one<{ state: string; parcel_id: string }>(
      'select state, parcel_id from delivery where delivery_id = $1 for update',
      deliveryId
    );
    if (!row) throw notFound('This delivery');
    return once(tx, caller.userId, key, async () => {
      if (row.state !== 'waiting' && row.state !== 'failed')
        throw new Problem(
          'on-its-way',
          row.state === 'held' || row.state === 'withdrawn'
            ? `This parcel is ${row.state}.`
            : 'This picture is delivered or on its way already.',
          row.state === 'held' ? 'Let the parcel go on first.' : 'Nothing is to be done.',
          409
        );
      await tx.sql(
        `update delivery set state = 'waiting', attempts = 0, next_try_at = null, next_step = '', handed_at = null where delivery_id = $1`,
        deliveryId
      );
      await sendSoon(tx, [deliveryId]);
      await announceParcel(tx, row.parcel_id);
      return {};
    });
  });
}

export const parcelActs = z.discriminatedUnion('act', [
  z.strictObject({ act: z.literal('hold') }),
  z.strictObject({ act: z.literal('go on') }),
  z.strictObject({ act: z.literal('withdraw') }),
  z.strictObject({ act: z.literal('try all') }),
  z.strictObject({ act: z.literal('elsewhere'), destinationId: z.uuid(), warned: z.boolean().optional() }),
  /** What was found is a word like any other, and no name: a person has looked and says why. */
  z.strictObject({
    act: z.literal('let go'),
    why: z.string().trim().min(3, 'Say why it may leave.').max(300)
  })
]);
export type ParcelAct = z.infer<typeof parcelActs>;

const nothingLeft = () =>
  new Problem(
    'nothing-left',
    'All of this parcel is there already, or was withdrawn.',
    'Nothing is to be done.',
    409
  );

/** What a person does with a parcel as a whole. */
export async function actOnParcel(
  caller: Caller,
  parcelId: string,
  key: string,
  wish: ParcelAct
): Promise<object> {
  await demand(caller, 'send', parcelId);
  return inClinic(caller.clinicId, async (tx) => {
    const parcel = await parcelRow(tx, parcelId, true);
    return once(tx, caller.userId, key, async () => {
      const set = async (sql: string, ...values: unknown[]) =>
        (await tx.sql<{ delivery_id: string }>(`${sql} returning delivery_id`, parcelId, ...values)).map(
          (row) => row.delivery_id
        );
      const go = (ids: readonly string[]) => sendSoon(tx, ids);
      const state = (to: string) => tx.sql('update parcel set state = $2 where parcel_id = $1', parcelId, to);
      switch (wish.act) {
        case 'hold': {
          const held = await set(
            `update delivery set state = 'held', next_try_at = null where parcel_id = $1 and state = 'waiting'`
          );
          if (held.length === 0) throw nothingLeft();
          await state('held');
          break;
        }
        case 'go on': {
          if (parcel.state !== 'held') throw nothingLeft();
          await state('open');
          await go(
            await set(
              `update delivery set state = 'waiting', attempts = 0 where parcel_id = $1 and state = 'held'`
            )
          );
          break;
        }
        case 'try all': {
          const again = await set(
            `update delivery set state = 'waiting', attempts = 0, next_try_at = null, next_step = '', handed_at = null
             where parcel_id = $1 and (state = 'failed' or (state = 'waiting' and attempts > 0))`
          );
          if (again.length === 0 || parcel.state !== 'open') throw nothingLeft();
          await go(again);
          break;
        }
        case 'withdraw':
          await withdrawn(tx, parcelId, parcel.destinationId === null);
          break;
        case 'elsewhere': {
          const papers = await papersOfParcel(tx, parcelId);
          if (papers.length > 0 && parcel.visitId) {
            await withdrawn(tx, parcelId, false);
            return packedPapers(tx, caller, parcel.visitId, `${key}-elsewhere`, {
              destinationId: wish.destinationId,
              paperIds: papers.map(({ paper_id: id }) => id),
              words: parcel.packing.words
            });
          }
          if (parcel.film) throw laidOutFirst();
          const rest = await restOf(tx, parcelId);
          if (rest.length === 0) throw nothingLeft();
          await withdrawn(tx, parcelId, true);
          const rows = await picturesByIds(tx, rest);
          const chosen = await chosenOf(tx, {
            destinationId: wish.destinationId,
            // What was to go without its identity never gets it back by another way.
            ...(parcel.identity === 'deidentified'
              ? { identity: parcel.identity, ruleId: parcel.ruleId }
              : {}),
            pictureIds: rest
          });
          await demandMayGo(tx, rows, chosen, wish);
          return packed(
            tx,
            caller,
            parcel.visitId,
            `${key}-elsewhere`,
            rows,
            { destinationId: wish.destinationId, pictureIds: rest },
            chosen
          );
        }
        case 'let go':
          if (parcel.state !== 'stopped') throw nothingLeft();
          await tx.sql(
            `update parcel set state = 'open', why = $2 where parcel_id = $1`,
            parcelId,
            `${caller.name}: ${wish.why}`
          );
          await go(
            await set(
              `update delivery set state = 'waiting', attempts = 0, reason = '', next_step = ''
               where parcel_id = $1 and state = 'failed'`
            )
          );
          break;
      }
      await announceParcel(tx, parcelId);
      await writeAudit(tx, caller, 'parcel handled', parcelId, {
        what: wish.act,
        ...('why' in wish ? { why: wish.why } : {})
      });
      return {};
    });
  });
}

/** Pictures of a parcel that have not arrived. */
async function restOf(tx: Tx, parcelId: string): Promise<string[]> {
  const arrived = await tx.sql<{ picture_id: string | null }>(
    `select picture_id from delivery where parcel_id = $1 and state = 'delivered'`,
    parcelId
  );
  if (arrived.some(({ picture_id: id }) => id === null)) return [];
  const there = new Set(arrived.map(({ picture_id: id }) => id));
  return (await itemsOf(tx, parcelId)).map(({ picture_id: id }) => id).filter((id) => !there.has(id));
}

async function withdrawn(tx: Tx, parcelId: string, empty: boolean): Promise<void> {
  const back = await tx.sql(
    `update delivery set state = 'withdrawn', next_try_at = null
     where parcel_id = $1 and state in ('packing', 'waiting', 'held', 'failed') returning delivery_id`,
    parcelId
  );
  // What is being written as a whole hears of it on its way.
  const going = await tx.one(
    `select 1 from delivery where parcel_id = $1 and state = 'sending' and picture_id is null limit 1`,
    parcelId
  );
  if (back.length === 0 && !going && !empty) throw nothingLeft();
  await tx.sql(`update parcel set state = 'withdrawn' where parcel_id = $1`, parcelId);
}
