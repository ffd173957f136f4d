import { describe, expect, it } from 'vitest';
import { useClinic } from '../../../../e2e/harness/clinic';
import { writeAudit } from '../audit/write';
import { beforeClinic, inClinic } from './connection';

const clinic = useClinic();

describe('the database', () => {
  it('ends a forgotten transaction, a lock nobody lets go of and an endless question by itself', async () => {
    const seconds = async (name: string) => {
      const [row] = await inClinic(clinic.clinicId, (tx) =>
        tx.sql<{ setting: string }>('select setting from pg_settings where name = $1', name)
      );
      return Number(row.setting) / 1000;
    };
    for (const name of ['lock_timeout', 'idle_in_transaction_session_timeout', 'statement_timeout']) {
      expect(await seconds(name), name).toBeGreaterThan(0);
      expect(await seconds(name), name).toBeLessThan(30);
    }
  });
  it('lets an act fail that waits for a lock too long, and the one that holds it finish', async () => {
    const order: string[] = [];
    const holder = inClinic(clinic.clinicId, async (tx) => {
      await tx.sql('select pg_advisory_xact_lock(4711)');
      await new Promise((done) => setTimeout(done, 1200));
      order.push('held');
    });
    await new Promise((done) => setTimeout(done, 200));
    const waiter = inClinic(clinic.clinicId, async (tx) => {
      await tx.sql(`set local lock_timeout = '300ms'`);
      await tx.sql('select pg_advisory_xact_lock(4711)');
    }).catch((problem: { code?: string; sentence?: string }) =>
      order.push(`${problem.code}: ${problem.sentence?.slice(0, 31)}`)
    );
    await Promise.all([holder, waiter]);
    expect(order).toEqual(['busy: Somebody else is changing the s', 'held']);
  });
  it('rolls an act back as a whole when its last part fails', async () => {
    const before = await clinic.count('audit_line');
    const act = inClinic(clinic.clinicId, async (tx) => {
      await writeAudit(tx, { system: 'dispatch' }, 'delivered', 'x');
      throw new Error('too late');
    });
    await expect(act).rejects.toThrow('too late');
    expect(await clinic.count('audit_line')).toBe(before);
  });
  it('leaves no connection in a clinic once the transaction that was in it is over, however it ended', async () => {
    const where = 'select current_setting($1, true) as clinic';
    const name = 'yonder.clinic_id';
    const inside = await inClinic(clinic.clinicId, (tx) => tx.one<{ clinic: string }>(where, name));
    expect(inside?.clinic).toBe(clinic.clinicId);
    await expect(inClinic(clinic.clinicId, (tx) => tx.sql('select 1 / 0'))).rejects.toThrow();
    const after = await Promise.all(
      Array.from({ length: 12 }, () => beforeClinic<{ clinic: string | null }>(where, name))
    );
    expect(after.flat().filter((row) => row.clinic)).toEqual([]);
  });
  it('enters no clinic that is told by anything but its own number', async () => {
    for (const told of [
      '',
      "'; drop table visit; --",
      `${clinic.clinicId}' `,
      clinic.clinicId.toUpperCase() + '\n'
    ])
      await expect(inClinic(told, (tx) => tx.sql('select 1'))).rejects.toThrow('told by a UUID');
    expect(await clinic.count('visit')).toBeGreaterThanOrEqual(0);
  });
});
