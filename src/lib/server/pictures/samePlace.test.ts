import sharp from 'sharp';
import { expect, it } from 'vitest';
import { useClinic } from '../../../../e2e/harness/clinic';
import { toothPlaces } from '../../core/anatomy/place';
import { linkToPlaces } from './links';
import { randomUUID } from 'node:crypto';
import { actWish, keepAct } from './changes';
import { earlierWithGuides } from './earlierGuides';
import { samePlacePictures } from './samePlace';

const clinic = useClinic();

async function picture(visitId: string, teeth: number[], shade: number): Promise<string> {
  const bytes = await sharp({
    create: { width: 20, height: 10, channels: 3, background: { r: shade, g: 0, b: 0 } }
  })
    .png()
    .toBuffer();
  const pictureId = await clinic.bring(visitId, 'p.png', bytes);
  const places = toothPlaces(teeth as Parameters<typeof toothPlaces>[0]);
  await linkToPlaces(clinic.caller(), randomUUID(), { links: [{ pictureId, places }] });
  return pictureId;
}

it('pictures of the same place are those of the patient’s other visits that share one, newest first', async () => {
  const visits = [await clinic.newVisit(), await clinic.newVisit(), await clinic.newVisit()];
  const before = await picture(visits[0], [36, 37], 1);
  await picture(visits[0], [11], 2);
  const now = await picture(visits[2], [36], 3);
  await picture(visits[2], [36], 4);
  const between = await picture(visits[1], [36], 5);
  const other = await clinic.newPatient('Sund', 'Ea', 'S-9');
  await picture(await clinic.newVisit(other), [36], 6);
  const found = (await samePlacePictures(clinic.caller(), now)).map(({ pictureId }) => pictureId);
  expect(new Set(found)).toEqual(new Set([before, between]));
  const unlinked = await clinic.bring(
    visits[2],
    'q.png',
    await sharp({ create: { width: 9, height: 9, channels: 3, background: '#123' } })
      .png()
      .toBuffer()
  );
  expect(await samePlacePictures(clinic.caller(), unlinked)).toEqual([]);
  await expect(samePlacePictures(clinic.stranger, now)).rejects.toMatchObject({ status: 404 });
});

it('earlier pictures with a guide are those of the patient’s other visits, and of nobody else', async () => {
  const visits = [await clinic.newVisit(), await clinic.newVisit()];
  const [before, plain] = [await picture(visits[0], [11], 11), await picture(visits[0], [12], 12)];
  const own = await picture(visits[1], [11], 13);
  const other = await clinic.newPatient('Holm', 'Ib', 'S-11');
  const strange = await picture(await clinic.newVisit(other), [11], 14);
  for (const pictureId of [before, own, strange]) {
    const points = { apex: { x: 1, y: 2, uncertaintyPx: 1 } };
    const body = { set: randomUUID(), guide: 'working-length', version: 1, view: 'tooth', points };
    const wish = actWish.parse({ changes: [{ kind: 'guide', item: body.set, body }] });
    await keepAct(clinic.caller(), pictureId, randomUUID(), wish);
  }
  const found = (await earlierWithGuides(clinic.caller(), visits[1])).map(({ pictureId }) => pictureId);
  expect(found).toEqual([before]);
  expect(found).not.toContain(plain);
  await expect(earlierWithGuides(clinic.stranger, visits[1])).rejects.toMatchObject({ status: 404 });
});
