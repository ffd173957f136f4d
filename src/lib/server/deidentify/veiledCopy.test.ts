import { randomUUID } from 'node:crypto';
import { describe, expect, it } from 'vitest';
import { useClinic } from '../../../../e2e/harness/clinic';
import { letteredPng, letteredSize } from '../../../../e2e/harness/lettered';
import { linkToPlaces } from '../pictures/links';
import { rasterOf } from '../pictures/levels';
import { pictureRow, viewsOf } from '../pictures/views';
import { keepVeiledCopy } from './veiledCopy';
import { layVeils } from './veils';

const clinic = useClinic();
const who = () => clinic.caller('assistant');
const lay = (pictureId: string, looked: boolean) =>
  layVeils(who(), pictureId, randomUUID(), {
    veils: { veils: [{ left: 0, top: 0, width: letteredSize.width, height: 60 }], only: null, looked },
    also: []
  });
const rowOf = (pictureId: string) => clinic.inside((tx) => pictureRow(tx, pictureId));
const samplesOf = async (pictureId: string) =>
  (await rasterOf(clinic.clinicId, await rowOf(pictureId), 0, 0)).data;

describe('a veiled picture kept in the chart', () => {
  it('is a new one with its parts masked for good, of numbers of its own, at the same places; the old one stays', async () => {
    const visitId = await clinic.newVisit();
    const pictureId = await clinic.bring(visitId, 'named.png', await letteredPng('WAVECREST'));
    await linkToPlaces(who(), randomUUID(), {
      links: [{ pictureId, places: [{ kind: 'tooth', tooth: 36 }] }]
    });
    await lay(pictureId, true);
    const before = await samplesOf(pictureId);
    const key = randomUUID();
    const copy = await keepVeiledCopy(who(), pictureId, key);
    expect((await keepVeiledCopy(who(), pictureId, key)).pictureId).toBe(copy.pictureId);
    const [old, made] = [await rowOf(pictureId), await rowOf(copy.pictureId)];
    expect(made.visit_id).toBe(old.visit_id);
    expect(made.instance_uid).not.toBe(old.instance_uid);
    const after = await samplesOf(copy.pictureId);
    const rowsVeiled = letteredSize.width * old.channels * 60;
    const veiled = after.subarray(0, rowsVeiled);
    expect(new Set(veiled).size).toBe(1);
    // Below the veil every sample is what it was, and the old picture is as it was.
    expect(Buffer.from(after).subarray(rowsVeiled).equals(Buffer.from(before).subarray(rowsVeiled))).toBe(
      true
    );
    expect(Buffer.from(await samplesOf(pictureId)).equals(Buffer.from(before))).toBe(true);
    const [view] = await clinic.inside(async (tx) => viewsOf(tx, [made], who().userId));
    expect(view.links).toEqual([{ kind: 'tooth', tooth: 36 }]);
    expect(view.fileName).toBe('named, veiled.dcm');
  });

  it('is not made of one that nothing is veiled in, or that nobody has looked at', async () => {
    const visitId = await clinic.newVisit();
    const pictureId = await clinic.bring(visitId, 'named.png', await letteredPng('WAVECREST'));
    await expect(keepVeiledCopy(who(), pictureId, randomUUID())).rejects.toMatchObject({ code: 'no-veil' });
    await lay(pictureId, false);
    await expect(keepVeiledCopy(who(), pictureId, randomUUID())).rejects.toMatchObject({
      code: 'look-first'
    });
    await expect(
      keepVeiledCopy(clinic.caller('administrator'), pictureId, randomUUID())
    ).rejects.toMatchObject({
      code: 'not-allowed'
    });
  });
});
