import { describe, expect, it } from 'vitest';
import { useClinic } from '../../../../e2e/harness/clinic';
import { writeAudit } from '../audit/write';
import { inClinic } from './connection';

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
});
