import { describe, expect, it } from 'vitest';
import { useClinic } from '../../../../e2e/harness/clinic';
import { readyVisit, smallOffer, smallSamples } from '../../../../e2e/harness/testSensor';
import sharp from 'sharp';
import { type Place, toothPlaces } from '../../core/anatomy/place';
import { type PictureSearch, everyPicture } from '../../core/picture/pictureSearch';
import { newId } from '../ids';
import { chart, chartPictures } from '../visits/patients';
import { wishOfTray } from '../trays/wishes';
import { takeAway } from './away';
import { categories, dropCategory, fileAllByRule, filePictures, keepCategory } from './categories';
import { keepAct } from './changes';
import { linkToPlaces } from './links';
import { type PicturePage, searchPictures } from './search';

const clinic = useClinic();
const day = 86_400_000;
let shade = 0;

const pngFile = (grey: number) =>
  sharp({ create: { width: 24, height: 16, channels: 3, background: { r: grey, g: 90, b: 90 } } })
    .png()
    .toBuffer();

/** Pictures of a new patient, each some days old, with its places, its name and who brought it in. */
async function patientWith(
  pictures: { days: number; places?: Place[]; name?: string; as?: 'assistant' | 'clinician' }[]
) {
  const patientId = await clinic.newPatient('Found', `Nr${++shade}`, `REC-F${shade}`);
  const visitId = await clinic.newVisit(patientId);
  const ids: string[] = [];
  for (const { days, places = [], name, as = 'assistant' } of pictures) {
    const id = await clinic.bring(visitId, `file-${days}.png`, await pngFile(++shade), {
      as: clinic.caller(as)
    });
    await clinic.owner.query('update picture set taken_at = $2 where picture_id = $1', [
      id,
      new Date(Date.now() - days * day)
    ]);
    if (places.length > 0)
      await linkToPlaces(clinic.caller(), newId(), { links: [{ pictureId: id, places }] });
    if (name)
      await keepAct(clinic.caller(), id, newId(), {
        changes: [{ kind: 'about' as 'grade', item: null, body: { name, remark: '' }, version: 1 }]
      });
    ids.push(id);
  }
  return { patientId, visitId, ids };
}
const found = async (patientId: string, search: Partial<PictureSearch>) =>
  (await chartPictures(clinic.caller(), patientId, { ...everyPicture, ...search }, null)).pictures.map(
    ({ pictureId }) => pictureId
  );

describe('a chart’s pictures', () => {
  it('are found by place, day, words, who brought them and nothing at all, and counted', async () => {
    const { patientId, ids } = await patientWith([
      { days: 1, places: toothPlaces([16, 17]), name: 'Crack in 100 % of light' },
      { days: 10, places: toothPlaces([17]), as: 'clinician' },
      { days: 100 }
    ]);
    const [a, b, c] = ids;
    expect(await found(patientId, {})).toEqual([a, b, c]);
    expect(await found(patientId, { up: true })).toEqual([c, b, a]);
    expect(await found(patientId, { places: ['tooth:17'] })).toEqual([a, b]);
    expect(await found(patientId, { places: ['tooth:16', 'tooth:17'] })).toEqual([a, b]);
    expect(await found(patientId, { beside: 'no place' })).toEqual([c]);
    expect(await found(patientId, { until: new Date(Date.now() - 5 * day).toISOString() })).toEqual([b, c]);
    expect(
      await found(patientId, {
        places: ['tooth:17'],
        from: new Date(Date.now() - 5 * day).toISOString()
      })
    ).toEqual([a]);
    expect(await found(patientId, { words: '100 %' })).toEqual([a]);
    expect(await found(patientId, { words: 'file_' })).toEqual([]);
    expect(await found(patientId, { who: 'The clinician' })).toEqual([b]);
    expect(await found(patientId, { sort: 'who', up: true })).toEqual([a, c, b]);
    const { facets, found: count } = await chart(clinic.caller(), patientId, {
      ...everyPicture,
      places: ['tooth:17']
    });
    expect(count).toBe(2);
    expect(facets.people).toEqual({ 'The assistant': 2, 'The clinician': 1 });
    await takeAway(clinic.caller(), newId(), 'bin', { pictureIds: [a], reason: 'Twice' });
    expect(await found(patientId, { places: ['tooth:16'] })).toEqual([]);
    expect((await chart(clinic.caller(), patientId)).found).toBe(2);
  });

  it('come page by page without one twice or left out, also where several were taken at one moment', async () => {
    const { patientId, ids } = await patientWith(Array.from({ length: 7 }, () => ({ days: 3 })));
    await clinic.owner.query(
      `update picture set taken_at = '2025-01-02T03:04:05.678901Z' where patient_id = $1`,
      [patientId]
    );
    for (const search of [{}, { up: true }, { sort: 'name' as const }, { sort: 'who' as const, up: true }]) {
      const seen: string[] = [];
      let after: string | null = null;
      do {
        const at: string | null = after;
        const page: PicturePage = await clinic.inside((tx) =>
          searchPictures(tx, clinic.caller(), patientId, { ...everyPicture, ...search }, at, 3)
        );
        seen.push(...page.pictures.map(({ pictureId }) => pictureId));
        after = page.older;
      } while (after !== null && seen.length < 20);
      expect(seen.toSorted(), JSON.stringify(search)).toEqual(ids.toSorted());
    }
    await expect(chartPictures(clinic.caller(), patientId, everyPicture, 'the next')).rejects.toMatchObject({
      code: 'not-understood'
    });
  });

  it('are found over all charts by place and kind, and never in another clinic', async () => {
    const { ids } = await patientWith([{ days: 2, places: toothPlaces([38]) }]);
    const search = {
      ...everyPicture,
      places: ['tooth:38'],
      kinds: ['photograph' as const, 'other' as const]
    };
    const { pictures } = await clinic.inside((tx) =>
      searchPictures(tx, clinic.caller(), null, search, null, 10)
    );
    expect(pictures.map(({ pictureId }) => pictureId)).toEqual(ids);
    await expect(
      chartPictures(clinic.stranger, pictures[0].patientId, everyPicture, null)
    ).rejects.toMatchObject({ code: 'not-found' });
  });
});

describe('what a slot says of its takes', () => {
  it('is searched and sorted by, and counts for a take that stands for nothing too', async () => {
    const { visitId, sensor } = await readyVisit(clinic);
    const taken: string[] = [];
    for (let i = 0; i < 3; i++) {
      const { armingId } = await sensor.armed();
      taken.push(
        (await sensor.take(`key-${newId()}`, smallOffer(armingId), smallSamples(++shade))).pictureId
      );
    }
    const { tray } = await clinic.trayOf(visitId);
    const slotOf = (id: string) => tray.route.find((slot) => tray.wells[slot].takes.includes(id))!;
    const names = taken.map((id) => tray.wells[slotOf(id)].slot.name);
    const own = async (search: Partial<PictureSearch>) =>
      (await found(clinic.patientId, search)).filter((id) => taken.includes(id));
    expect(new Set(names).size).toBe(3);
    for (const [i, name] of names.entries())
      expect(await own({ words: name.toUpperCase() })).toEqual([taken[i]]);
    const inOrder = taken.toSorted((a, b) => names[taken.indexOf(a)].localeCompare(names[taken.indexOf(b)]));
    expect(await own({ sort: 'name', up: true })).toEqual(inOrder);
    // Taken again: the first one stands for nothing any more, and lies in its slot as before.
    const { trayId } = await clinic.trayOf(visitId);
    await wishOfTray(clinic.caller(), trayId, newId(), {
      kind: 'take-moved',
      takeId: taken[1],
      slotId: slotOf(taken[0])
    });
    expect(await own({ beside: 'no place' })).toEqual([]);
    const { beside } = (await chart(clinic.caller(), clinic.patientId)).facets;
    expect(beside['no place']).toBeUndefined();
  });
});

describe('categories', () => {
  it('hold what people and rules file; what a person says of a picture no rule changes', async () => {
    const { patientId, ids } = await patientWith([
      { days: 1, name: 'Before treatment' },
      { days: 2, name: 'Before the bridge' },
      { days: 3, name: 'After' }
    ]);
    const [a, b, c] = ids;
    const { categoryId } = await keepCategory(clinic.caller(), newId(), null, {
      name: 'Before treatment',
      rule: { kinds: [], views: [], devices: [], words: ['before'] }
    });
    await fileAllByRule(clinic.clinicId, categoryId);
    expect(await found(patientId, { categoryId })).toEqual([a, b]);
    await filePictures(clinic.caller(), newId(), categoryId, { pictureIds: [b], filed: false });
    await filePictures(clinic.caller(), newId(), categoryId, { pictureIds: [c], filed: true });
    await fileAllByRule(clinic.clinicId, categoryId);
    expect(await found(patientId, { categoryId })).toEqual([a, c]);
    // A new remark is looked at by the rules at once.
    await keepAct(clinic.caller(), a, newId(), {
      changes: [{ kind: 'about' as 'grade', item: null, body: { name: 'Wax-up', remark: '' }, version: 1 }]
    });
    expect(await found(patientId, { categoryId })).toEqual([c]);
    await expect(
      keepCategory(clinic.caller(), newId(), null, { name: 'BEFORE treatment', rule: null })
    ).rejects.toMatchObject({ code: 'name-taken' });
    await expect(
      filePictures(clinic.stranger, newId(), categoryId, { pictureIds: [c], filed: true })
    ).rejects.toMatchObject({ code: 'not-found' });
    await dropCategory(clinic.caller(), newId(), categoryId);
    expect(await categories(clinic.caller())).toEqual([]);
    expect(await found(patientId, {})).toEqual(ids);
  });
});
