import { expect, it } from 'vitest';
import { useClinic } from '../../../../e2e/harness/clinic';
import { changeSettings } from '../clinics/settings';
import { newId } from '../ids';
import { forgetTold } from './toldBeside';

const clinic = useClinic();

it('what waits for a picture that never came is forgotten after the clinic’s days, and not before', async () => {
  const intake = newId();
  await clinic.owner.query(
    `insert into intake (intake_id, clinic_id, source, from_name) values ($1, $2, 'drop', 'somebody')`,
    [intake, clinic.clinicId]
  );
  const told = async () => {
    const { rows } = await clinic.owner.query<{ instance_uid: string }>(
      'select instance_uid from told_beside where intake_id = $1 order by at desc',
      [intake]
    );
    return rows.map((row) => row.instance_uid);
  };
  for (const days of [0, 29, 31, 400])
    await clinic.owner.query(
      `insert into told_beside (clinic_id, told_id, intake_id, instance_uid, about, bytes, at)
       values ($1, $2, $3, $4, array['2.25.1'], '\\x00', now() - make_interval(days => $5))`,
      [clinic.clinicId, newId(), intake, `2.25.${days}1`, days]
    );
  const days = (putAwayDays: number) =>
    changeSettings(clinic.caller('administrator'), { notation: 'fdi', timeZone: 'UTC', putAwayDays });
  await days(365);
  await forgetTold(clinic.clinicId);
  expect(await told()).toEqual(['2.25.01', '2.25.291', '2.25.311']);
  await days(30);
  await forgetTold(clinic.clinicId);
  expect(await told()).toEqual(['2.25.01', '2.25.291']);
});
