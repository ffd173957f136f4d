import fs from 'node:fs';
import path from 'node:path';
import { beforeEach, describe, expect, it } from 'vitest';
import { useClinic } from '../../../../e2e/harness/clinic';
import { closeDatabase } from '../database/connection';
import { seenBy } from '../pictures/changes';
import { rawFile, rawPicture } from '../pictures/decode/rawFile.test-data';
import { findPatients } from '../visits/finding';
import { visitView } from '../visits/visits';
import { anchorHead, anchors, lostAnchor } from './anchor';
import { checkAudit, checkNewLines, latestAudit } from './check';
import { flushLooks, noteLook, noteRefusal } from './looks';
import { writeAudit } from './write';

const clinic = useClinic();
const check = () => clinic.inside(checkAudit);
const tinyFile = rawFile(
  rawPicture({ width: 2, height: 2, allocated: 8, pixels: Uint8Array.from([1, 2, 3, 4]) })
);

/** Does what only the owner of the machine could: works on the table past its guard. */
async function tamper(sql: string, ...values: unknown[]): Promise<void> {
  await clinic.owner.query('alter table audit_line disable trigger audit_refuse');
  await clinic.owner.query(sql, values);
  await clinic.owner.query('alter table audit_line enable trigger audit_refuse');
}

beforeEach(async () => {
  await tamper('delete from audit_line');
  await clinic.owner.query('delete from audit_head');
  await clinic.owner.query('delete from audit_checked');
  for (let i = 1; i <= 6; i++) {
    await clinic.inside((tx) => writeAudit(tx, clinic.caller(), 'chart viewed', `patient ${i}`, { i }));
  }
});

describe('the audit chain', () => {
  it('is whole after honest writing', async () => {
    expect(await check()).toEqual({ lines: 6, wrong: [] });
  });
  it('stays whole when many write at once', async () => {
    await Promise.all(
      Array.from({ length: 12 }, (_, i) =>
        clinic.inside((tx) =>
          writeAudit(tx, clinic.caller(i % 2 ? 'assistant' : 'clinician'), 'chart viewed', 'p')
        )
      )
    );
    expect(await check()).toEqual({ lines: 18, wrong: [] });
  });
  it('finds a changed line', async () => {
    await tamper(`update audit_line set who = 'another' where seq = 3`);
    expect((await check()).wrong).toEqual([3]);
  });
  it('finds a changed line whose own hash was made to fit', async () => {
    await tamper(`update audit_line set details = '{"i": 99}' where seq = 3`);
    await tamper('update audit_line l set hash = audit_hash(l) where seq = 3');
    expect((await check()).wrong).toEqual([4]);
  });
  it('finds a line missing from the middle, and the last one', async () => {
    await tamper('delete from audit_line where seq = 4');
    expect((await check()).wrong).toEqual([5]);
    await tamper('delete from audit_line where seq = 6');
    expect((await check()).wrong).toEqual([5, 6]);
  });
  it('can’t be changed, removed or emptied by the application, nor its head moved', async () => {
    for (const sql of [
      `update audit_line set who = 'x'`,
      'delete from audit_line',
      'truncate audit_line',
      'update audit_head set seq = 0',
      `insert into audit_line (clinic_id, seq, at, who, act, subject, details, previous_hash, hash)
       select clinic_id, 0, now(), 'Somebody else', 'signed in', 'x', '{}', '', '' from audit_line limit 1`
    ]) {
      await expect(
        clinic.inside((tx) => tx.sql(sql)),
        sql
      ).rejects.toThrow(/permission denied/);
    }
    await expect(clinic.owner.query(`update audit_line set who = 'x'`)).rejects.toThrow(/never changed/);
  });
  it('is gone with a transaction that is taken back', async () => {
    await clinic
      .inside(async (tx) => {
        await writeAudit(tx, clinic.caller(), 'chart viewed', 'x');
        throw new Error('no');
      })
      .catch(() => {});
    expect(await check()).toEqual({ lines: 6, wrong: [] });
    expect(await clinic.inside((tx) => latestAudit(tx, 1))).toMatchObject([{ seq: 6, details: { i: 6 } }]);
  });
  it('is written in the name of whoever shows a session, and in nobody else’s', async () => {
    const [line] = await clinic.inside((tx) => latestAudit(tx, 1));
    expect(line).toMatchObject({ who: 'The clinician', userId: clinic.caller().userId });
    const as = (by: Parameters<typeof writeAudit>[1]) =>
      clinic.inside((tx) => writeAudit(tx, by, 'chart viewed', 'x'));
    // A session of another clinic, one that is none, a device that is none, a part that does not exist, nobody at all.
    for (const by of [
      { session: clinic.stranger.session },
      { session: 'ab'.repeat(32) },
      { device: Buffer.alloc(32) },
      { system: 'The administrator' as 'dispatch' },
      {}
    ])
      await expect(as(by), JSON.stringify(by)).rejects.toMatchObject({ code: 'signed-out' });
    await as({ system: 'dispatch' });
    const [own] = await clinic.inside((tx) => latestAudit(tx, 1));
    expect([own.who, own.userId]).toEqual(['Yonder Tray, dispatch', null]);
  });
  it('says which patient by name and which picture of which visit', async () => {
    const visitId = await clinic.newVisit();
    const pictureId = await clinic.bring(visitId, 'a.dcm', tinyFile);
    const [line] = (await clinic.inside((tx) => latestAudit(tx, 3))).filter(
      (each) => each.act === 'file brought in'
    );
    expect(line).toMatchObject({
      subject: pictureId,
      patient: { name: 'Odile Wavecrest', recordNumber: 'REC-77' },
      picture: { number: 1, visitId }
    });
  });
  it('is looked through from where it was whole before; damage before that is found by the whole check', async () => {
    const news = () => clinic.inside(checkNewLines);
    expect((await news()).wrong).toEqual([]);
    await clinic.inside((tx) => writeAudit(tx, clinic.caller(), 'chart viewed', 'new'));
    await tamper(`update audit_line set subject = 'other' where seq = 7`);
    expect((await news()).wrong).toEqual([7]);
    await tamper(`update audit_line set subject = 'new' where seq = 7`);
    expect((await news()).wrong).toEqual([]);
    await tamper(`update audit_line set subject = 'other' where seq = 2`);
    expect((await news()).wrong).toEqual([]);
    expect((await check()).wrong).toEqual([2]);
  });
});

describe('what is anchored outside the records', () => {
  it('finds an end that was cut off, with the head moved back as if nothing had been there', async () => {
    const heads = path.join(clinic.landing, 'heads.txt');
    await anchorHead(clinic.clinicId);
    await anchorHead(clinic.clinicId);
    expect(anchors()).toHaveLength(1);
    expect(fs.statSync(heads).mode & 0o777).toBe(0o600);
    await clinic.inside((tx) => writeAudit(tx, clinic.caller(), 'chart viewed', 'more'));
    await anchorHead(clinic.clinicId);
    expect(await clinic.inside(lostAnchor)).toBeNull();
    // However long the file has become, its end counts.
    fs.writeFileSync(heads, 'x'.repeat(5_000_000) + '\n' + fs.readFileSync(heads, 'utf8'));
    await tamper('delete from audit_line where seq > 4');
    await clinic.owner.query(
      'update audit_head h set seq = l.seq, hash = l.hash from audit_line l where l.seq = 4 and l.clinic_id = h.clinic_id'
    );
    expect(await check()).toEqual({ lines: 4, wrong: [] });
    expect(await clinic.inside(lostAnchor)).toMatchObject({ seq: 6 });
  });
});

describe('looking', () => {
  it('leaves one line a picture, visit and search, whoever looks, and one for what is refused', async () => {
    const visitId = await clinic.newVisit();
    const pictureId = await clinic.bring(visitId, 'a.dcm', tinyFile);
    for (let i = 0; i < 3; i++) await seenBy(clinic.caller(), pictureId);
    await visitView(clinic.caller('assistant'), visitId);
    for (const words of ['od', 'odi', 'odile']) await findPatients(clinic.caller(), words);
    for (let i = 0; i < 5; i++) noteRefusal(clinic.clinicId, null, '/device/v1/exposures', 'unknown device');
    await flushLooks();
    const lines = (await clinic.inside((tx) => latestAudit(tx, 12))).map(
      ({ act, who, subject, details }) => ({
        act,
        who,
        subject,
        details
      })
    );
    const of = (act: string) => lines.filter((line) => line.act === act);
    expect(of('picture viewed')).toEqual([
      { act: 'picture viewed', who: 'The clinician', subject: pictureId, details: {} }
    ]);
    expect(of('visit viewed')).toMatchObject([{ who: 'The assistant', subject: visitId }]);
    expect(of('searched')).toMatchObject([{ subject: 'odile', details: { found: 1, times: 3 } }]);
    expect(of('refused')).toMatchObject([
      { who: 'Yonder Tray, door', details: { reason: 'unknown device', times: 5 } }
    ]);
  });
  it('is written also when the session ended meanwhile, under who it was', async () => {
    const visitId = await clinic.newVisit();
    const caller = { ...clinic.caller('front-desk'), session: 'cd'.repeat(32) };
    await visitView(caller, visitId);
    await flushLooks();
    const [line] = await clinic.inside((tx) => latestAudit(tx, 1));
    expect(line).toMatchObject({ act: 'visit viewed', details: { user: caller.userId } });
  });
  it('that can’t be written while the records are away waits, and what comes after it is written too', async () => {
    const visitId = await clinic.newVisit();
    const url = process.env.DATABASE_URL;
    await closeDatabase();
    process.env.DATABASE_URL = url!.replace(/:\d+\//, ':9/');
    noteLook(clinic.caller('front-desk'), 'visit viewed', visitId);
    await flushLooks();
    await closeDatabase();
    process.env.DATABASE_URL = url;
    noteRefusal(clinic.clinicId, null, '/after', 'not in this clinic');
    await flushLooks();
    const lines = await clinic.inside((tx) => latestAudit(tx, 2));
    expect(lines.map((line) => line.act).sort()).toEqual(['refused', 'visit viewed']);
  });
});
