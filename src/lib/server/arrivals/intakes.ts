import { z } from 'zod';
import type { IntakeLine, IntakeView } from '../../core/arrivals/intakeView';
import { shortened } from '../../core/text';
import { once } from '../acts/once';
import { writeAudit } from '../audit/write';
import { type Tx, inClinic } from '../database/connection';
import { newId } from '../ids';
import { announce } from '../news/announce';
import { type Caller, demand } from '../people/caller';
import { notFound } from '../problem';
import type { Sender } from './keeping';
import { comingOf } from './surveyed';

const mostShown = 60;
const mostLines = 2_000;

export const intakeWish = z.strictObject({
  name: z.string().trim().min(1).max(200),
  said: z.number().int().min(0).max(1_000_000).nullable()
});

/** Whoever brings something in at a page. */
export const senderOfCaller = (caller: Caller, source: 'drop' | 'disc'): Sender => ({
  clinicId: caller.clinicId,
  source,
  name: caller.name,
  roomId: null,
  userId: caller.userId,
  timeZone: caller.timeZone,
  by: caller
});

export interface NewIntake {
  source: 'drop' | 'disc' | 'mail' | 'network';
  name: string;
  said: number | null;
  forUser: string | null;
  subject?: string;
  note?: string;
  unknownSender?: boolean;
  address?: string;
  /** Of what may come twice. */
  key?: string;
}

/** The intake that came with a key before. */
export const intakeOfKey = async (
  tx: Tx,
  key: string
): Promise<{ intakeId: string; ended: boolean } | undefined> =>
  tx.one(
    `select intake_id as "intakeId", ended_at is not null as ended from intake where clinic_id = $1 and key = $2`,
    tx.clinicId,
    key
  );

/** Opens an intake in a transaction; its files follow. */
export async function openIntake(tx: Tx, from: Pick<Sender, 'by'>, wish: NewIntake): Promise<string> {
  const intakeId = newId();
  await tx.sql(
    `insert into intake (intake_id, clinic_id, source, from_name, for_user, subject, note, unknown_sender, said, key, address)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11)`,
    intakeId,
    tx.clinicId,
    wish.source,
    shortened(wish.name, 200),
    wish.forUser,
    shortened(wish.subject ?? '', 300),
    shortened(wish.note ?? '', 8_000),
    wish.unknownSender ?? false,
    wish.said,
    wish.key ?? null,
    wish.address ?? ''
  );
  await announce(tx, { topic: 'arrivals' });
  await writeAudit(tx, from.by, 'intake begun', intakeId, {
    from: shortened(wish.name, 120),
    source: wish.source
  });
  return intakeId;
}

/** A page begins to bring something in. */
export async function beginIntake(
  caller: Caller,
  key: string,
  wish: z.infer<typeof intakeWish>
): Promise<{ intakeId: string }> {
  await demand(caller, 'bring in files', 'an intake');
  return inClinic(caller.clinicId, (tx) =>
    once(tx, caller.userId, key, async () => ({
      intakeId: await openIntake(tx, { by: caller }, { source: 'drop', forUser: caller.userId, ...wish })
    }))
  );
}

interface OpenIntake {
  source: NewIntake['source'];
  cancelled: boolean;
  ended: boolean;
}

/** @throws Problem for one that isn't there */
export async function intakeHead(tx: Tx, intakeId: string): Promise<OpenIntake> {
  const row = z.uuid().safeParse(intakeId).success
    ? await tx.one<OpenIntake>(
        'select source, cancelled, ended_at is not null as ended from intake where intake_id = $1',
        intakeId
      )
    : undefined;
  if (!row) throw notFound('This intake');
  return row;
}

export async function endIntake(tx: Tx, intakeId: string, cancelled: boolean): Promise<void> {
  await tx.sql(
    `update intake set ended_at = coalesce(ended_at, now()), cancelled = cancelled or $2, survey = '[]' where intake_id = $1`,
    intakeId,
    cancelled
  );
  await announce(tx, { topic: 'arrivals' });
}

export const noteLine = (
  tx: Tx,
  intakeId: string,
  line: { name: string; outcome: 'kept' | 'known' | 'refused'; code?: string; words?: string }
): Promise<unknown> =>
  tx.sql(
    'insert into intake_line (clinic_id, intake_id, name, outcome, code, words) values ($1, $2, $3, $4, $5, $6)',
    tx.clinicId,
    intakeId,
    shortened(line.name, 300),
    line.outcome,
    line.code ?? '',
    shortened(line.words ?? '', 600)
  );

/** So long nothing came of an intake that is open: whoever brought it is gone. */
const stillMinutes = 20;

/** Ends an intake that broke off, and says so with what to do. What came in stays. */
export async function breakOff(tx: Tx, intakeId: string): Promise<void> {
  await noteLine(tx, intakeId, {
    name: 'The rest',
    outcome: 'refused',
    code: 'broke-off',
    words: 'It broke off before all had come. Bring it in again: what is here already is not doubled.'
  });
  await endIntake(tx, intakeId, true);
}

/** Ends what was left open by a page that was closed or a server that stopped. */
export const breakOffStill = (clinicId: string): Promise<void> =>
  inClinic(clinicId, async (tx) => {
    const still = await tx.sql<{ intake_id: string }>(
      `select i.intake_id from intake i where i.clinic_id = $1 and i.ended_at is null
         and i.started_at < now() - make_interval(mins => $2) and not exists (select 1 from intake_line l
           where l.intake_id = i.intake_id and l.at > now() - make_interval(mins => $2))`,
      tx.clinicId,
      stillMinutes
    );
    for (const { intake_id } of still) await breakOff(tx, intake_id);
  });

interface Row {
  intake_id: string;
  source: NewIntake['source'];
  from_name: string;
  for_user: string | null;
  subject: string;
  note: string;
  unknown_sender: boolean;
  said: number | null;
  started_at: Date;
  ended_at: Date | null;
  cancelled: boolean;
  kept: number;
  known: number;
  refused: number;
}

/** The latest intakes, and those that something still waits of. */
async function intakes(tx: Tx, userId: string): Promise<IntakeView[]> {
  const rows = await tx.sql<Row>(
    `select i.*, l.kept, l.known, l.refused from intake i
       cross join lateral (select count(*) filter (where outcome = 'kept')::int as kept,
         count(*) filter (where outcome = 'known')::int as known,
         count(*) filter (where outcome = 'refused')::int as refused
         from intake_line l where l.intake_id = i.intake_id) l
     where i.clinic_id = $1 and (i.started_at > now() - interval '14 days' or exists (select 1 from arrival a
       where a.intake_id = i.intake_id and a.given_to is null and a.part_of is null))
     order by i.started_at desc limit $2`,
    tx.clinicId,
    mostShown
  );
  const coming = await comingOf(
    tx,
    rows.flatMap(({ intake_id, ended_at }) => (ended_at ? [] : [intake_id]))
  );
  return rows.map((row) => ({
    intakeId: row.intake_id,
    source: row.source,
    from: row.from_name,
    forMe: row.for_user === userId,
    subject: row.subject,
    note: row.note,
    unknownSender: row.unknown_sender,
    said: row.said,
    kept: row.kept,
    known: row.known,
    refused: row.refused,
    startedAt: row.started_at.toISOString(),
    endedAt: row.ended_at?.toISOString() ?? null,
    cancelled: row.cancelled,
    coming: coming.get(row.intake_id) ?? []
  }));
}

export async function intakesSeen(caller: Caller): Promise<IntakeView[]> {
  await demand(caller, 'view charts', 'arrivals');
  return inClinic(caller.clinicId, (tx) => intakes(tx, caller.userId));
}

/** What did not come in of an intake, file by file, with its reason. */
export async function intakeLines(caller: Caller, intakeId: string): Promise<IntakeLine[]> {
  await demand(caller, 'view charts', intakeId);
  return inClinic(caller.clinicId, async (tx) => {
    await intakeHead(tx, intakeId);
    return tx.sql<IntakeLine>(
      `select name, outcome, code, words from intake_line where intake_id = $1 and outcome <> 'kept'
       order by outcome desc, code, seq limit $2`,
      intakeId,
      mostLines
    );
  });
}
