import { describe, expect, it } from 'vitest';
import { useClinic } from '../../../../e2e/harness/clinic';
import { newId } from '../ids';
import { endPairing, phonesPaired } from './paired';
import { newPairing, pairPhone, senderOfPhone } from './phones';

const clinic = useClinic();
const pairs = async (who = clinic.caller()) => {
  const { code } = await newPairing(who, { hours: 12 });
  return (await pairPhone({ code }, `phone ${newId()}`)).token;
};
const sends = (token: string) => senderOfPhone(`Bearer ${token}`);

describe('paired phones', () => {
  it('are seen by whose they are, and all of them by an administrator; a code alone is none', async () => {
    await pairs();
    await pairs(clinic.caller('assistant'));
    await newPairing(clinic.caller(), { hours: 1 });
    expect((await phonesPaired(clinic.caller())).map(({ mine }) => mine)).toEqual([true]);
    const all = await phonesPaired(clinic.caller('administrator'));
    expect(all.map(({ name, mine }) => [name, mine])).toEqual([
      ['The assistant', false],
      ['The clinician', false]
    ]);
    expect(await phonesPaired(clinic.stranger)).toEqual([]);
  });

  it('send no more once their pairing has ended, which only whose they are and administrators end', async () => {
    const [mine, other] = [await pairs(), await pairs(clinic.caller('assistant'))];
    const [ofMine] = await phonesPaired(clinic.caller());
    const [ofOther] = await phonesPaired(clinic.caller('assistant'));
    await expect(endPairing(clinic.caller(), newId(), ofOther.phoneId)).rejects.toMatchObject({
      status: 404
    });
    await expect(endPairing(clinic.stranger, newId(), ofMine.phoneId)).rejects.toMatchObject({ status: 404 });
    expect(await sends(other)).toMatchObject({ source: 'phone' });
    const key = newId();
    await endPairing(clinic.caller(), key, ofMine.phoneId);
    // The same act asked twice is done once.
    await endPairing(clinic.caller(), key, ofMine.phoneId);
    await expect(sends(mine)).rejects.toMatchObject({ code: 'pairing-over' });
    await endPairing(clinic.caller('administrator'), newId(), ofOther.phoneId);
    await expect(sends(other)).rejects.toMatchObject({ code: 'pairing-over' });
  });
});
