import fs from 'node:fs';
import path from 'node:path';
import { describe, expect, it } from 'vitest';
import { useClinic } from '../../../../e2e/harness/clinic';
import { readyVisit } from '../../../../e2e/harness/testSensor';
import { comingFolder, landedFile } from '../blobs/landing';
import { sha256 } from '../ids';
import { enqueue, queues } from './boss';
import { bringUp, clinicIds, upkeep } from './upkeep';

const clinic = useClinic();
const jobs = async (key: string) =>
  (
    await clinic.owner.query<{ name: string; start_after: Date; data: unknown }>(
      'select name, start_after, data from pgboss.job where singleton_key = $1',
      [key]
    )
  ).rows;

describe('a job', () => {
  it('exists once its act is committed, and not at all when the act fell', async () => {
    await expect(
      clinic.inside(async (tx) => {
        await enqueue(tx, queues.settle, { pictureId: 'a' }, { once: 'fell' });
        throw new Error('the act fell');
      })
    ).rejects.toThrow('the act fell');
    await clinic.inside((tx) => enqueue(tx, queues.settle, { pictureId: 'a' }, { once: 'stood' }));
    expect(await jobs('fell')).toEqual([]);
    expect(await jobs('stood')).toMatchObject([{ name: 'settle', data: { pictureId: 'a' } }]);
  });
  it('can be put in by the services, and neither read, changed nor removed by them', async () => {
    await clinic.inside((tx) => enqueue(tx, queues.settle, { pictureId: 'fenced' }, { once: 'fenced' }));
    for (const sql of [
      'select data from pgboss.job',
      `update pgboss.job set data = '{}'`,
      'delete from pgboss.job',
      'create table pgboss.own (x int)',
      'create schema own'
    ])
      await expect(
        clinic.inside((tx) => tx.sql(sql)),
        sql
      ).rejects.toThrow(/permission denied/);
    expect(await jobs('fenced')).toHaveLength(1);
  });
  it('may be asked to wait', async () => {
    const before = Date.now();
    await clinic.inside((tx) => enqueue(tx, queues.deliver, {}, { once: 'later', startAfterSeconds: 90 }));
    const [{ start_after: at }] = await jobs('later');
    expect(at.getTime() - before).toBeGreaterThan(85_000);
    expect(at.getTime() - before).toBeLessThan(100_000);
  });
});

describe('upkeep', () => {
  it('goes through every clinic', async () => {
    expect((await clinicIds()).sort()).toEqual([clinic.clinicId, clinic.otherClinicId].sort());
  });
  it('forgets keys that nobody asks with any more, and keeps those that may still come', async () => {
    const keep = (key: string, days: number) =>
      clinic.owner.query(
        `insert into done_act (clinic_id, key, user_id, answer, at)
         values ($1, $2, $3, '{}', now() - make_interval(days => $4))`,
        [clinic.clinicId, key, clinic.caller().userId, days]
      );
    await keep('old-key-1', 91);
    await keep('new-key-1', 89);
    await upkeep();
    const { rows } = await clinic.owner.query(`select key from done_act where key like '%-key-1'`);
    expect(rows).toEqual([{ key: 'new-key-1' }]);
  });
  it('clears away files that were never finished or never committed, and none that somebody needs', async () => {
    const { sensor } = await readyVisit(clinic);
    await sensor.expose(3);
    const { rows } = await clinic.owner.query<{ digest: Buffer }>('select sha256 as digest from blob');
    const needed = rows
      .map(({ digest }) => landedFile(clinic.clinicId, digest)!)
      .filter((file) => fs.existsSync(file));
    expect(needed.length).toBeGreaterThan(0);
    const orphan = landedFile(clinic.clinicId, sha256('nobody refers to it'))!;
    const coming = path.join(comingFolder()!, 'broken-off.part');
    const fresh = path.join(comingFolder()!, 'still-coming.part');
    for (const file of [orphan, coming, fresh]) fs.writeFileSync(file, 'bytes');
    const long = new Date(Date.now() - 3_600_000);
    for (const file of [orphan, coming, ...needed]) fs.utimesSync(file, long, long);
    await upkeep();
    expect([orphan, coming, fresh, ...needed].map((file) => fs.existsSync(file))).toEqual([
      false,
      false,
      true,
      ...needed.map(() => true)
    ]);
  });
  it('brings a clinic up to what ships, however often it runs, and changes nothing that is there', async () => {
    const all = async () =>
      (await clinic.owner.query('select * from pattern order by clinic_id, pattern_id, version')).rows;
    const before = await all();
    await bringUp();
    await bringUp();
    expect(await all()).toEqual(before);
    await clinic.owner
      .query('delete from route where clinic_id = $1', [clinic.otherClinicId])
      .catch(() => {});
    await bringUp();
    const { rows } = await clinic.owner.query('select distinct clinic_id from route');
    expect(rows).toHaveLength(2);
  });
});
