import { beforeEach, describe, expect, it } from 'vitest';
import { useClinic } from '../../../../e2e/harness/clinic';
import { checkAudit, latestAudit } from './check';
import { writeAudit } from './write';

const clinic = useClinic();
const check = () => clinic.inside(checkAudit);

/** Does what only the owner of the machine could: works on the table past its guard. */
async function tamper(sql: string, ...values: unknown[]): Promise<void> {
  await clinic.owner.query('alter table audit_line disable trigger audit_refuse');
  await clinic.owner.query(sql, values);
  await clinic.owner.query('alter table audit_line enable trigger audit_refuse');
}

beforeEach(async () => {
  await tamper('delete from audit_line');
  await clinic.owner.query('delete from audit_head');
  for (let i = 1; i <= 6; i++) {
    await clinic.inside((tx) => writeAudit(tx, 'somebody', 'chart viewed', `patient ${i}`, { i }));
  }
});

describe('the audit chain', () => {
  it('is whole after honest writing', async () => {
    expect(await check()).toEqual({ lines: 6, wrong: [] });
  });
  it('stays whole when many write at once', async () => {
    await Promise.all(
      Array.from({ length: 12 }, (_, i) =>
        clinic.inside((tx) => writeAudit(tx, `w${i}`, 'chart viewed', 'p'))
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
      'update audit_head set seq = 0'
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
        await writeAudit(tx, 'somebody', 'chart viewed', 'x');
        throw new Error('no');
      })
      .catch(() => {});
    expect(await check()).toEqual({ lines: 6, wrong: [] });
    expect(await clinic.inside((tx) => latestAudit(tx, 1))).toMatchObject([{ seq: 6, details: { i: 6 } }]);
  });
});
