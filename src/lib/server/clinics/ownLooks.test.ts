import { randomUUID } from 'node:crypto';
import { expect, it } from 'vitest';
import { useClinic } from '../../../../e2e/harness/clinic';
import { setOpensWith } from '../devices/devices';
import { register } from '../devices/enrolment';
import { settingChanges, takeBackSetting } from './settingChanges';
import { dropOwnLook, keepOwnLook, ownLookWish, ownLooks, renameOwnLook } from './ownLooks';

const clinic = useClinic();
const wish = (name: string, to = 0.5) =>
  ownLookWish.parse({ name, look: { from: 0, to, steps: [{ kind: 'gamma', gamma: 1.2 }] } });

it('the clinic’s own looks are kept by name, replaced, dropped, and told to nobody else', async () => {
  const me = clinic.caller();
  const key = randomUUID();
  const first = await keepOwnLook(me, key, wish('Apex'));
  expect(await keepOwnLook(me, key, wish('Apex'))).toEqual(first);
  const again = await keepOwnLook(clinic.caller('assistant'), randomUUID(), wish(' Apex ', 0.7));
  expect(again).toEqual(first);
  await keepOwnLook(me, randomUUID(), wish('Crest'));
  expect((await ownLooks(me)).map(({ name, look }) => [name, look.to])).toEqual([
    ['Apex', 0.7],
    ['Crest', 0.5]
  ]);
  expect(await ownLooks(clinic.stranger)).toEqual([]);
  await expect(dropOwnLook(clinic.stranger, randomUUID(), first.lookId)).rejects.toMatchObject({
    status: 404
  });
  await expect(keepOwnLook(clinic.caller('front-desk'), randomUUID(), wish('Mine'))).rejects.toMatchObject({
    status: 403
  });
  await dropOwnLook(me, randomUUID(), first.lookId);
  expect((await ownLooks(me)).map(({ name }) => name)).toEqual(['Crest']);
});

it('a look is called otherwise and stays as it is; no two are called the same', async () => {
  const me = clinic.caller();
  const { lookId } = await keepOwnLook(me, randomUUID(), wish('Roots'));
  await keepOwnLook(me, randomUUID(), wish('Crowns'));
  await renameOwnLook(me, randomUUID(), lookId, { name: 'Root tips' });
  expect((await ownLooks(me)).find((each) => each.lookId === lookId)).toMatchObject({
    name: 'Root tips',
    look: wish('Any').look
  });
  await expect(renameOwnLook(me, randomUUID(), lookId, { name: 'Crowns' })).rejects.toMatchObject({
    sentence: 'Another look is called Crowns.'
  });
  await expect(renameOwnLook(clinic.stranger, randomUUID(), lookId, { name: 'Mine' })).rejects.toMatchObject({
    status: 404
  });
});

it('a look that this program can’t read is left out, and kept as it is', async () => {
  await clinic.owner.query(
    `insert into own_look (clinic_id, look_id, name, body, made_by) values ($1, gen_random_uuid(), 'Later', '{"version": 9}', $2)`,
    [clinic.clinicId, clinic.caller().userId]
  );
  expect((await ownLooks(clinic.caller())).map(({ name }) => name)).not.toContain('Later');
  const { rows } = await clinic.owner.query(`select body from own_look where name = 'Later'`);
  expect(rows[0].body).toEqual({ version: 9 });
});

it('a look that was dropped and is brought back is what a device’s pictures open with again', async () => {
  const me = clinic.caller('administrator');
  const { lookId } = await keepOwnLook(clinic.caller(), randomUUID(), wish('Hips'));
  const { deviceId } = await register(
    { code: await clinic.newCode(), name: 'Hip plate', kind: 'intraoral-sensor' },
    '127.0.0.1'
  );
  await setOpensWith(me, deviceId, lookId);
  const opensWith = async () =>
    (await clinic.owner.query('select opens_with from device where device_id = $1', [deviceId])).rows[0]
      .opens_with;
  await dropOwnLook(clinic.caller(), randomUUID(), lookId);
  expect(await opensWith()).toBeNull();
  const [dropped] = await settingChanges(me);
  await takeBackSetting(me, randomUUID(), dropped.seq);
  expect(await opensWith()).toBe(lookId);
});
