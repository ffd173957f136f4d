import fs from 'node:fs';
import path from 'node:path';
import pg from 'pg';
import { afterAll, describe, expect, inject, it } from 'vitest';
import { databaseUrls, ensureDatabase } from '../../../../../scripts/cluster.mjs';
import { lookOf } from '../../../core/picture/pictureView';
import { windowLook } from '../../../core/raster/look/look';
import { checkAudit } from '../../audit/check';
import { wholeBlob } from '../../blobs/keep';
import { bringUp } from '../../jobs/upkeep';
import type { Caller } from '../../people/caller';
import { pictureSeen } from '../../pictures/changes';
import { pictureRow } from '../../pictures/views';
import { chart } from '../../visits/patients';
import { visitView } from '../../visits/visits';
import { closeDatabase, inClinic } from '../connection';
import { migrate, migrations } from '../migrate';

const clinicId = '01900001-0000-7000-8000-000000000001';
const person = '01900005-0000-7000-8000-000000000005';
const animal = '01900006-0000-7000-8000-000000000006';
const names = migrations.map(({ name }) => name);
const caller: Caller = {
  userId: '01900009-0000-7000-8000-000000000009',
  session: 'ef'.repeat(32),
  clinicId,
  role: 'clinician',
  name: 'Claus Clinic',
  clinicName: 'Old Quay',
  notation: 'palmer',
  timeZone: 'UTC',
  language: 'en-GB'
};
let counter = 0;

/** A database as the first migration left it, filled as a clinic had filled it, then brought to a later state. */
async function databaseAt(
  state: string
): Promise<{ owner: pg.Client; urls: ReturnType<typeof databaseUrls> }> {
  const options = { ...inject('cluster'), database: `m${process.pid}_${++counter}` };
  await ensureDatabase(options);
  const urls = databaseUrls(options);
  await migrate(urls.OWNER_DATABASE_URL, names[0]);
  const owner = new pg.Client({ connectionString: urls.OWNER_DATABASE_URL });
  await owner.connect();
  await owner.query('set session_replication_role = replica');
  await owner.query(fs.readFileSync(path.join(import.meta.dirname, 'states', '0001.sql'), 'utf8'));
  await owner.query('set session_replication_role = origin');
  if (state !== names[0]) await migrate(urls.OWNER_DATABASE_URL, state);
  return { owner, urls };
}

afterAll(() => closeDatabase());

/** The first, the newest, and some of those between: each of them has gone through all the earlier ones. */
const states = names.filter((_, i) => i % 8 === 0 || i >= names.length - 3);
describe.each(states)('from the state after %s', (state) => {
  it('everything the clinic had is there and means the same', async () => {
    const { owner, urls } = await databaseAt(state);
    expect(await migrate(urls.OWNER_DATABASE_URL)).toEqual(names.slice(names.indexOf(state) + 1));
    await owner.query(
      `insert into user_session values (decode($1, 'hex'), $2, $3, now() + interval '1 day')`,
      [caller.session, clinicId, caller.userId]
    );
    await owner.end();
    process.env.DATABASE_URL = urls.DATABASE_URL;
    await closeDatabase();
    await bringUp();

    const all = await chart(caller, person);
    expect(all.visits.map((visit) => visit.pictureCount)).toEqual([5, 0, 1]);
    const visit = await visitView(caller, all.visits[0].visitId);
    const [{ tray }] = visit.trays;
    expect(tray.laid?.name).toBe('Four bitewings');
    const [a, b, c] = tray.route.map((id) => tray.wells[id]);
    // The first was confirmed; the second's confirmation was given before it was swapped with the third.
    expect(a.confirmed).toEqual({ by: null, name: 'Claus Clinic' });
    expect([b.takes.length, b.confirmed, c.takes.length, c.confirmed]).toEqual([2, null, 1, null]);
    expect(b.keeper).toBe(b.takes[0]);
    expect(tray.bench).toHaveLength(1);

    const rooted = await visitView(caller, all.visits[2].visitId);
    expect(rooted.trays[0].tray).toMatchObject({ laid: { name: 'Root filling' }, anchored: true });
    expect(rooted.pictures[0]).toMatchObject({ kind: 'radiograph', slot: { shape: 'lying' } });
    expect(rooted.pictures[0].slot!.places).toEqual([
      { kind: 'tooth', tooth: 44 },
      { kind: 'tooth', tooth: 45 }
    ]);

    const brought = visit.pictures.find((picture) => picture.fileName === 'wide.png')!;
    expect(lookOf(brought)).toEqual(windowLook({ center: 1000, width: 500 }, true));
    expect(brought.layers.orientation).toEqual({ quarterTurns: 1, mirrored: true });
    expect(brought.layers.scale).toMatchObject({ knownMm: 5, aspect: 1 });
    expect(brought.layers.items).toMatchObject([{ kind: 'length', body: { ends: [{ x: 1 }, { x: 9 }] } }]);
    expect(brought.canTakeBack).toBe(true);
    expect((await pictureSeen(caller, brought.pictureId)).seq).toBe(8);

    const linked = visit.pictures.find((picture) => picture.links.length > 0)!;
    expect(linked.links.map((place) => (place.kind === 'tooth' ? place.tooth : 0))).toEqual([16, 17, 46]);
    expect(all.counts['tooth:46']).toBeGreaterThan(0);
    expect((await chart(caller, animal)).maps).toEqual(['dog bones']);

    const row = await inClinic(clinicId, (tx) => pictureRow(tx, brought.pictureId));
    const original = await wholeBlob(clinicId, row.original_sha256);
    expect(original.subarray(1, 4).toString()).toBe('PNG');
    expect(original.length).toBe(row.original_size);
    expect((await inClinic(clinicId, checkAudit)).wrong).toEqual([]);
    expect(visit.deliveries.map((delivery) => delivery.identity)).toEqual(['deidentified', 'deidentified']);
  });
});

describe('the tables', () => {
  it('are brought up once when two programs start at the same moment', async () => {
    const { owner, urls } = await databaseAt(names[0]);
    const both = await Promise.all([migrate(urls.OWNER_DATABASE_URL), migrate(urls.OWNER_DATABASE_URL)]);
    expect(both.map((ran) => ran.length).sort()).toEqual([0, names.length - 1]);
    const { rows } = await owner.query('select name from schema_step order by name');
    expect(rows.map((row) => row.name)).toEqual(names);
    await owner.end();
  });

  it('all stand behind the fence, refer within their clinic, and no function belongs to a superuser', async () => {
    const { owner, urls } = await databaseAt(names[0]);
    await migrate(urls.OWNER_DATABASE_URL);
    const ask = async (sql: string) => (await owner.query(sql)).rows.map((row) => Object.values(row)[0]);
    expect(
      await ask(`select c.relname from pg_class c join pg_attribute a on a.attrelid = c.oid
        where a.attname = 'clinic_id' and c.relkind = 'r' and c.relnamespace = 'public'::regnamespace and not c.relrowsecurity`)
    ).toEqual([]);
    expect(
      await ask(`select conrelid::regclass || ' ' || conname from pg_constraint k where contype = 'f'
        and confrelid <> 'clinic'::regclass and connamespace = 'public'::regnamespace and not exists (
          select 1 from pg_attribute a where a.attrelid = k.conrelid and a.attname = 'clinic_id' and a.attnum = any(k.conkey))`)
    ).toEqual([]);
    expect(
      await ask(`select p.proname from pg_proc p join pg_roles r on r.oid = p.proowner
        where p.pronamespace = 'public'::regnamespace and p.prosecdef and (r.rolsuper or r.rolbypassrls or r.rolcanlogin)`)
    ).toEqual([]);
    await owner.end();
  });
});
