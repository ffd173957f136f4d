import { randomUUID } from 'node:crypto';
import { describe, expect, it } from 'vitest';
import sharp from 'sharp';
import { useClinic } from '../../../../e2e/harness/clinic';
import { visitView } from '../visits/visits';
import { bringIn } from './bringIn';
import { stepWish } from './layers';
import { linkToTeeth } from './links';
import { addStep, takeBack } from './steps';

const clinic = useClinic();

async function newPicture() {
  const visitId = await clinic.newVisit();
  const bytes = new Uint8Array(
    await sharp({ create: { width: 20, height: 10, channels: 3, background: '#456' } })
      .png()
      .toBuffer()
  );
  const { pictureId } = await bringIn(clinic.caller(), {
    visitId,
    slotId: null,
    fileName: 'p.png',
    bytes,
    key: randomUUID()
  });
  const now = async () => (await visitView(clinic.caller(), visitId)).pictures[0];
  return { pictureId, now };
}
const look = (center: number) => ({ window: { center, width: 50 }, inverted: false });
const step = (layer: string, body: unknown) =>
  stepWish.parse({ key: randomUUID(), layer, body }) as { key: string; layer: string; body: unknown };

describe('what people make of a picture', () => {
  it('is kept as it is made, and taken back step by step to the first look', async () => {
    const { pictureId, now } = await newPicture();
    const first = (await now()).look;
    await addStep(clinic.caller(), pictureId, step('look', look(10)));
    await addStep(clinic.caller(), pictureId, step('orientation', { quarterTurns: 1, mirrored: false }));
    await addStep(clinic.caller(), pictureId, step('look', look(20)));
    expect(await now()).toMatchObject({
      look: look(20),
      orientation: { quarterTurns: 1 },
      canTakeBack: true
    });
    const taken = [];
    for (;;) {
      const layer = await takeBack(clinic.caller(), pictureId, randomUUID());
      if (layer === null) break;
      taken.push(layer);
    }
    expect(taken).toEqual(['look', 'orientation', 'look']);
    expect(await now()).toMatchObject({ look: first, orientation: { quarterTurns: 0 }, canTakeBack: false });
  });

  it('sent twice with one key is kept once', async () => {
    const { pictureId } = await newPicture();
    const wish = step('look', look(30));
    await Promise.all([1, 2, 3].map(() => addStep(clinic.caller(), pictureId, wish)));
    expect(await takeBack(clinic.caller(), pictureId, randomUUID())).toBe('look');
    expect(await takeBack(clinic.caller(), pictureId, randomUUID())).toBeNull();
  });

  it('keeps readings apart, each with its own history', async () => {
    const { pictureId, now } = await newPicture();
    const ends = (x: number) => [
      { x: 0, y: 0, uncertaintyPx: 1 },
      { x, y: 0, uncertaintyPx: 1 }
    ];
    const [one, two] = [`reading:${randomUUID()}`, `reading:${randomUUID()}`];
    await addStep(clinic.caller(), pictureId, step(one, { kind: 'length', ends: ends(5) }));
    await addStep(clinic.caller(), pictureId, step(two, { kind: 'length', ends: ends(7) }));
    await addStep(clinic.caller(), pictureId, step(one, null));
    expect((await now()).readings.map((each) => each.reading.ends[1].x)).toEqual([7]);
    await takeBack(clinic.caller(), pictureId, randomUUID());
    expect((await now()).readings).toHaveLength(2);
  });

  it('is checked before it is kept', () => {
    for (const [layer, body] of [
      ['look', { window: { center: 1, width: 0 }, inverted: false }],
      ['orientation', { quarterTurns: 5, mirrored: false }],
      ['reading:not-an-id', { kind: 'length', ends: [] }],
      ['anything', {}]
    ]) {
      expect(stepWish.safeParse({ key: randomUUID(), layer, body }).success, String(layer)).toBe(false);
    }
  });

  it('may not be changed by the front desk or from another clinic', async () => {
    const { pictureId } = await newPicture();
    await expect(
      addStep(clinic.caller('front-desk'), pictureId, step('look', look(1)))
    ).rejects.toMatchObject({ status: 403 });
    await expect(addStep(clinic.stranger, pictureId, step('look', look(1)))).rejects.toMatchObject({
      code: 'not-found'
    });
  });

  it('links pictures to exactly the teeth that were named', async () => {
    const { pictureId, now } = await newPicture();
    await linkToTeeth(clinic.caller('front-desk'), { pictureIds: [pictureId], teeth: [16, 17, 16] });
    await linkToTeeth(clinic.caller('front-desk'), { pictureIds: [pictureId], teeth: [17, 46] });
    expect((await now()).teeth).toEqual([17, 46]);
  });
});
