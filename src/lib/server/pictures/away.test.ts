import { describe, expect, it } from 'vitest';
import { useClinic } from '../../../../e2e/harness/clinic';
import { readyVisit, smallOffer, smallSamples } from '../../../../e2e/harness/testSensor';
import { placeKey, toothPlaces } from '../../core/anatomy/place';
import { giveArrivals } from '../arrivals/giving';
import { arrivalsOfBundle } from '../arrivals/arrivals';
import { bundles, sortArrivals } from '../arrivals/bundles';
import { forgetPutAway } from '../arrivals/forgetting';
import { checkAudit } from '../audit/check';
import { recordOfPatient } from '../audit/ofPatient';
import { newId } from '../ids';
import { chart } from '../visits/patients';
import { visitView } from '../visits/visits';
import { wishOfTray } from '../trays/wishes';
import { bringBackPictures, takeAway } from './away';
import { binOf, emptyBins } from './bin';
import { keepAct } from './changes';
import { linkToPlaces } from './links';

const clinic = useClinic();
const assistant = () => clinic.caller('assistant');
let seed = 0;

async function visitWith(count: number) {
  const { visitId, trayId, sensor } = await readyVisit(clinic);
  const pictures: string[] = [];
  for (let i = 0; i < count; i++) {
    const { armingId } = await sensor.armed();
    const taken = await sensor.take(`key-${newId()}`, smallOffer(armingId), smallSamples(++seed));
    pictures.push(taken.pictureId);
  }
  return { visitId, trayId, pictures };
}
const shownIn = async (visitId: string) =>
  (await visitView(clinic.caller(), visitId)).pictures.map(({ pictureId }) => pictureId);
const inBin = async (pictureIds: string[]) =>
  (await binOf(clinic.caller(), clinic.patientId)).filter(({ picture }) =>
    pictureIds.includes(picture.pictureId)
  );
const remove = (pictureIds: string[], reason = 'Not of this patient') =>
  takeAway(assistant(), newId(), 'bin', { pictureIds, reason });
const finding = (pictureId: string) =>
  keepAct(assistant(), pictureId, newId(), {
    changes: [
      { kind: 'finding' as 'grade', item: newId(), body: { place: null, words: 'Crack' }, version: 1 }
    ]
  });

describe('the bin of a chart', () => {
  it('takes a picture out of everything that shows pictures, and gives it back as it was, where it lay', async () => {
    const { visitId, trayId, pictures } = await visitWith(2);
    await finding(pictures[0]);
    const before = (await clinic.trayOf(visitId)).tray;
    await remove([pictures[0]]);
    expect(await shownIn(visitId)).toEqual([pictures[1]]);
    const seen = await chart(clinic.caller(), clinic.patientId);
    expect(seen.pictures.map(({ pictureId }) => pictureId)).not.toContain(pictures[0]);
    expect(seen.bin).toEqual({ count: 1, days: 90 });
    await expect(finding(pictures[0])).rejects.toMatchObject({ code: 'in-the-bin' });
    const [lying] = await inBin(pictures);
    expect(lying).toMatchObject({ by: 'The assistant', reason: 'Not of this patient' });
    expect(lying.picture.layers.items).toHaveLength(1);
    expect(lying.picture.slot?.name).toBe('Right molars');

    await bringBackPictures(assistant(), newId(), { pictureIds: [pictures[0]] });
    const after = (await clinic.trayOf(visitId)).tray;
    expect(after.wells).toEqual(before.wells);
    expect(after.bench).toEqual(before.bench);
    expect((await visitView(clinic.caller(), visitId)).pictures[0].layers.items).toHaveLength(1);
    expect(await inBin(pictures)).toEqual([]);
    await expect(
      bringBackPictures(assistant(), newId(), { pictureIds: [pictures[0]] })
    ).rejects.toMatchObject({ code: 'not-in-the-bin' });
    expect((await clinic.trayOf(visitId)).trayId).toBe(trayId);
    expect((await clinic.inside(checkAudit)).wrong).toEqual([]);
  });

  it('leaves a confirmed picture to a clinician, and a slot’s confirmed picture in its place on the way back', async () => {
    const { visitId, trayId, pictures } = await visitWith(1);
    const { tray } = await clinic.trayOf(visitId);
    const slotId = tray.route[0];
    await wishOfTray(clinic.caller(), trayId, newId(), {
      kind: 'keeper-confirmed',
      slotId,
      takeId: pictures[0]
    });
    await expect(remove([pictures[0]])).rejects.toMatchObject({ code: 'confirmed-takes' });
    expect(await shownIn(visitId)).toEqual(pictures);
    await takeAway(clinic.caller('clinician'), newId(), 'bin', { pictureIds: pictures, reason: 'Twice' });
    expect(await shownIn(visitId)).toEqual([]);
  });

  it('takes a picture once, whoever else deletes it at the same moment', async () => {
    const { visitId, pictures } = await visitWith(2);
    const both = await Promise.allSettled([
      remove(pictures, 'Twice'),
      takeAway(clinic.caller(), newId(), 'bin', { pictureIds: pictures.toReversed(), reason: 'Twice' })
    ]);
    expect(both.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected']);
    expect(both.find(({ status }) => status === 'rejected')).toMatchObject({
      reason: { code: 'in-the-bin' }
    });
    expect(await shownIn(visitId)).toEqual([]);
    expect(await inBin(pictures)).toHaveLength(2);
  });

  it('is refused to the front desk, and takes nothing where one of several can’t go', async () => {
    const { visitId, pictures } = await visitWith(1);
    await expect(
      takeAway(clinic.caller('front-desk'), newId(), 'bin', { pictureIds: pictures, reason: 'Twice' })
    ).rejects.toMatchObject({ code: 'not-allowed' });
    await expect(remove([pictures[0], newId()])).rejects.toMatchObject({ code: 'not-found' });
    expect(await shownIn(visitId)).toEqual(pictures);
  });

  it('is emptied when its days are over: the bytes go, others of the same bytes stay, and it stands in the record', async () => {
    const { visitId, pictures } = await visitWith(2);
    await finding(pictures[0]);
    await remove(pictures.slice(0, 1), 'Blank');
    const bytesOf = async (pictureId: string) =>
      (
        await clinic.owner.query<{ count: number }>(
          `select count(*)::int as count from blob b join picture p on p.original_sha256 = b.sha256 where p.picture_id = $1`,
          [pictureId]
        )
      ).rows[0].count;
    const digest = (
      await clinic.owner.query('select original_sha256 as d from picture where picture_id = $1', [
        pictures[0]
      ])
    ).rows[0].d;
    await clinic.owner.query(`update blob set place = 'kept' where sha256 = $1`, [digest]);
    await emptyBins(clinic.clinicId);
    expect(await inBin(pictures)).toHaveLength(1);

    await clinic.owner.query(
      `update picture_away set at = now() - interval '91 days' where picture_id = $1`,
      [pictures[0]]
    );
    await emptyBins(clinic.clinicId);
    expect(await inBin(pictures)).toEqual([]);
    const { rows } = await clinic.owner.query('select 1 from blob where sha256 = $1', [digest]);
    expect(rows).toEqual([]);
    const { rows: steps } = await clinic.owner.query('select 1 from picture_step where picture_id = $1', [
      pictures[0]
    ]);
    expect(steps).toEqual([]);
    expect(await bytesOf(pictures[1])).toBe(1);
    expect(await shownIn(visitId)).toEqual([pictures[1]]);
    const { lines } = await recordOfPatient(clinic.caller(), clinic.patientId, null);
    expect(lines.map(({ words }) => words)).toEqual(
      expect.arrayContaining([expect.stringContaining('for good'), 'deleted a picture'])
    );
    await expect(
      bringBackPictures(assistant(), newId(), { pictureIds: [pictures[0]] })
    ).rejects.toMatchObject({ code: 'not-found' });
    expect((await clinic.inside(checkAudit)).wrong).toEqual([]);
  });
});

describe('taking the last place off a picture', () => {
  it('leaves it in its chart and its slot, showing no place, and is not deleting', async () => {
    const { visitId, pictures } = await visitWith(1);
    const countOf = async () => (await chart(clinic.caller(), clinic.patientId)).counts;
    const [picture] = (await visitView(clinic.caller(), visitId)).pictures;
    const key = placeKey(picture.slot!.places[0]);
    const before = await countOf();
    await linkToPlaces(assistant(), newId(), { links: [{ pictureId: pictures[0], places: [] }] });
    expect((await countOf())[key] ?? 0).toBe((before[key] ?? 0) - 1);
    expect(await shownIn(visitId)).toEqual(pictures);
    await linkToPlaces(assistant(), newId(), {
      links: [{ pictureId: pictures[0], places: toothPlaces([33]) }]
    });
    expect((await countOf())['tooth:33']).toBe((before['tooth:33'] ?? 0) + 1);
  });
});

describe('a picture that is taken back to Arrivals', () => {
  const waiting = async () => (await bundles(clinic.caller())).filter(({ source }) => source === 'chart');

  it('is nobody’s, goes to another chart with what was made on it, and both charts tell the way', async () => {
    const { visitId, pictures } = await visitWith(1);
    await finding(pictures[0]);
    await takeAway(assistant(), newId(), 'arrivals', { pictureIds: pictures, reason: 'Perhaps her sister' });
    expect(await shownIn(visitId)).toEqual([]);
    expect((await chart(clinic.caller(), clinic.patientId)).onDesk).toMatchObject([
      { by: 'The assistant', reason: 'Perhaps her sister' }
    ]);
    const [bundle] = await waiting();
    expect(bundle).toMatchObject({ count: 1 });
    const arrivals = await arrivalsOfBundle(clinic.caller(), bundle.bundleId);
    expect(arrivals[0].reason).toContain('Perhaps her sister');
    expect(arrivals[0].title).toBe('Right molars');

    const other = await clinic.newPatient('Skerry', 'Ada', 'REC-91');
    const target = await clinic.newVisit(other);
    const given = await giveArrivals(assistant(), newId(), {
      to: { visitId: target },
      each: [
        { arrivalId: arrivals[0].arrivalId, trayId: null, slotId: null, name: '', places: [], takenAt: null }
      ]
    });
    expect(given.pictureIds).toEqual(pictures);
    const [moved] = (await visitView(clinic.caller(), target)).pictures;
    expect(moved).toMatchObject({ pictureId: pictures[0], patientId: other });
    expect(moved.layers.items).toHaveLength(1);
    expect(moved.layers.about).toBeNull();
    expect((await chart(clinic.caller(), clinic.patientId)).moves[0]).toMatchObject({
      what: 'left',
      recordNumber: 'REC-91'
    });
    expect((await chart(clinic.caller(), other)).moves[0]).toMatchObject({ what: 'came' });
    expect((await chart(clinic.caller(), clinic.patientId)).onDesk).toEqual([]);
    expect((await clinic.inside(checkAudit)).wrong).toEqual([]);
  });

  it('goes back to where it lay by one press, and the chart says no more that it waits', async () => {
    const { visitId, pictures } = await visitWith(1);
    const before = (await clinic.trayOf(visitId)).tray;
    await takeAway(assistant(), newId(), 'arrivals', { pictureIds: pictures, reason: 'By mistake' });
    const [bundle] = await waiting();
    const arrivalIds = (await arrivalsOfBundle(clinic.caller(), bundle.bundleId)).map(
      ({ arrivalId }) => arrivalId
    );
    await expect(
      sortArrivals(clinic.caller('front-desk'), newId(), { kind: 'to-chart', arrivalIds })
    ).rejects.toMatchObject({ code: 'not-allowed' });
    await sortArrivals(assistant(), newId(), { kind: 'to-chart', arrivalIds });
    expect(await shownIn(visitId)).toEqual(pictures);
    expect((await clinic.trayOf(visitId)).tray.wells).toEqual(before.wells);
    expect((await chart(clinic.caller(), clinic.patientId)).onDesk).toEqual([]);
    expect(await waiting()).toEqual([]);
  });

  it('is never removed there when a device exposed it, however long it was put away', async () => {
    const { pictures } = await visitWith(1);
    await takeAway(assistant(), newId(), 'arrivals', { pictureIds: pictures, reason: 'Nobody knows' });
    const [bundle] = await waiting();
    const arrivals = await arrivalsOfBundle(clinic.caller(), bundle.bundleId);
    await sortArrivals(assistant(), newId(), {
      kind: 'put-away',
      arrivalIds: arrivals.map(({ arrivalId }) => arrivalId)
    });
    await clinic.owner.query(
      `update arrival set put_away_at = now() - interval '31 days' where picture_id = $1`,
      [pictures[0]]
    );
    await forgetPutAway(clinic.clinicId);
    const { rows } = await clinic.owner.query('select away from picture where picture_id = $1', [
      pictures[0]
    ]);
    expect(rows).toEqual([{ away: 'arrivals' }]);
  });
});
