import { describe, expect, it } from 'vitest';
import { testPassword, useClinic } from '../../../../e2e/harness/clinic';
import { settingChanges, takeBackSetting } from '../clinics/settingChanges';
import { newId } from '../ids';
import { acceptInvite, changePassword, changePerson, invite, invited, staff } from './staff';
import { callerOfSession } from './session';
import { signIn } from './signIn';

const clinic = useClinic();
const admin = () => clinic.caller('administrator');
let people = 0;
const newcomer = async (role: 'assistant' | 'clinician' | 'administrator' = 'assistant') => {
  const signInName = `newcomer${++people}`;
  const { userId, code } = await invite(admin(), newId(), { name: `New ${people}`, signInName, role });
  return { userId, code, signInName };
};
const enter = (name: string, password: string) => signIn(name, password, `10.1.0.${++people % 250}`);
const act = (userId: string, what: 'disable' | 'enable' | 'end sessions' | 'new link', by = admin()) =>
  changePerson(by, newId(), userId, { act: what });

describe('somebody who is invited', () => {
  it('chooses a password by a link that is good once, and signs in with it', async () => {
    const { userId, code, signInName } = await newcomer('clinician');
    await expect(enter(signInName, '')).rejects.toMatchObject({ code: 'wrong-password' });
    expect((await invited(code)).signInName).toBe(signInName);
    await acceptInvite(code, 'a long enough one');
    await expect(acceptInvite(code, 'another long one')).rejects.toMatchObject({ code: 'invite-over' });
    const { token } = await enter(signInName, 'a long enough one');
    expect(await callerOfSession(token)).toMatchObject({ userId, role: 'clinician' });
  });

  it('has a link no longer than seven days, and an earlier one is nothing once there is a new one', async () => {
    const { userId, code } = await newcomer();
    const { code: second } = await act(userId, 'new link');
    await expect(invited(code)).rejects.toMatchObject({ code: 'invite-over' });
    await clinic.owner.query(
      `update user_account set invite_until = now() - interval '1 second' where user_id = $1`,
      [userId]
    );
    await expect(acceptInvite(second!, 'a long enough one')).rejects.toMatchObject({ code: 'invite-over' });
  });

  it('is entered once however often that was asked, and no name to sign in with twice', async () => {
    const key = newId();
    const wish = { name: 'Twice', signInName: 'twice', role: 'assistant' as const };
    const first = await invite(admin(), key, wish);
    const again = await invite(admin(), key, wish);
    expect(again.userId).toBe(first.userId);
    expect((await invited(again.code)).signInName).toBe('twice');
    await expect(invite(admin(), newId(), wish)).rejects.toMatchObject({ code: 'name-taken' });
    const kept = await clinic.owner.query('select answer::text from done_act where key = $1', [key]);
    expect(JSON.stringify(kept.rows)).not.toContain(again.code);
  });
});

describe('an account', () => {
  it('that is kept out signs nobody in, ends what is open at once, and comes back with its password', async () => {
    const { userId, code, signInName } = await newcomer();
    await acceptInvite(code, 'a long enough one');
    const { token } = await enter(signInName, 'a long enough one');
    await act(userId, 'disable');
    expect(await callerOfSession(token)).toBeNull();
    await expect(enter(signInName, 'a long enough one')).rejects.toMatchObject({ code: 'wrong-password' });
    await act(userId, 'enable');
    expect(await callerOfSession((await enter(signInName, 'a long enough one')).token)).not.toBeNull();
  });

  it('has its sessions ended, and its role changed and taken back with one press', async () => {
    const { userId, code, signInName } = await newcomer();
    await acceptInvite(code, 'a long enough one');
    const { token } = await enter(signInName, 'a long enough one');
    await changePerson(admin(), newId(), userId, { act: 'change', name: 'Renamed', role: 'clinician' });
    expect(await callerOfSession(token)).toMatchObject({ role: 'clinician', name: 'Renamed' });
    const [change] = await settingChanges(admin());
    expect(change.words).toMatch(
      /^People: Renamed, the role \(assistant → clinician\), the name \(New \d+ → Renamed\)$/
    );
    await takeBackSetting(admin(), newId(), change.seq);
    expect(await callerOfSession(token)).toMatchObject({ role: 'assistant' });
    await act(userId, 'end sessions');
    expect(await callerOfSession(token)).toBeNull();
  });

  it('of the last administrator stays one, by whatever way', async () => {
    const me = admin();
    await expect(act(me.userId, 'disable')).rejects.toMatchObject({ code: 'yourself' });
    await expect(
      changePerson(me, newId(), me.userId, { act: 'change', name: me.name, role: 'assistant' })
    ).rejects.toMatchObject({ code: 'last-administrator' });
    const { userId } = await newcomer('administrator');
    await changePerson(me, newId(), me.userId, { act: 'change', name: me.name, role: 'assistant' });
    const [change] = await settingChanges(me);
    await expect(act(userId, 'disable')).rejects.toMatchObject({ code: 'last-administrator' });
    await takeBackSetting(me, newId(), change.seq);
    await act(userId, 'disable');
  });

  it('is an administrator’s to change, of their own clinic alone', async () => {
    const { userId } = await newcomer();
    await expect(act(userId, 'disable', clinic.caller())).rejects.toMatchObject({ code: 'not-allowed' });
    const stranger = { ...clinic.stranger, role: 'administrator' as const };
    await expect(act(userId, 'disable', stranger)).rejects.toMatchObject({ code: 'not-found' });
    const seen = await staff(clinic.caller());
    expect(seen.find((each) => each.userId === userId)).toMatchObject({ sessions: null, lastAt: null });
  });
});

describe('one’s own password', () => {
  it('is changed by whoever knows it; everywhere else they are signed out', async () => {
    const { code, signInName } = await newcomer();
    await acceptInvite(code, testPassword + 'x');
    const [here, there] = [
      await enter(signInName, testPassword + 'x'),
      await enter(signInName, testPassword + 'x')
    ];
    const me = (await callerOfSession(here.token))!;
    await expect(changePassword(me, { before: 'guessed', after: 'a long enough one' })).rejects.toMatchObject(
      {
        code: 'wrong-password'
      }
    );
    await changePassword(me, { before: testPassword + 'x', after: 'a long enough one' });
    expect(await callerOfSession(here.token)).not.toBeNull();
    expect(await callerOfSession(there.token)).toBeNull();
    await expect(enter(signInName, testPassword + 'x')).rejects.toMatchObject({ code: 'wrong-password' });
    await enter(signInName, 'a long enough one');
  });
});
