import { randomUUID } from 'node:crypto';
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { useClinic } from '../../../../e2e/harness/clinic';
import { readyVisit } from '../../../../e2e/harness/testSensor';
import { mirrored, turned, upright } from '../../core/raster/orientation';
import { windowLook } from '../../core/raster/look/look';
import { actWish, keepAct } from './changes';
import { previewKey } from './previewWish';
import { makePreviews, previewAt, previewSoon } from './previews';

const clinic = useClinic();
const [width, height] = [160, 90];
/** Dark on the left, bright on the right, brighter still in the top right corner. */
const samples = Uint8Array.from({ length: width * height }, (_, i) => {
  const [x, y] = [i % width, Math.floor(i / width)];
  return x > 120 && y < 30 ? 250 : x < width / 2 ? 40 : 160;
});
const png = () =>
  sharp(samples, { raw: { width, height, channels: 1 } })
    .png()
    .toBuffer();
const bring = async () => clinic.bring(await clinic.newVisit(), 'a.png', await png());

async function seen(webp: Uint8Array) {
  const { data, info } = await sharp(webp).greyscale().raw().toBuffer({ resolveWithObject: true });
  const at = (x: number, y: number) =>
    data[(Math.round(y * (info.height - 1)) * info.width + Math.round(x * (info.width - 1))) * info.channels];
  return { width: info.width, height: info.height, at };
}
const kept = async (pictureId: string) =>
  (
    await clinic.owner.query<{ key: string }>('select key from picture_preview where picture_id = $1', [
      pictureId
    ])
  ).rows.map(({ key }) => key);

describe('a small picture', () => {
  it('is made when a file comes, and shows what the picture shows', async () => {
    const pictureId = await bring();
    expect(await kept(pictureId)).toHaveLength(1);
    const small = await seen(await previewAt(clinic.clinicId, pictureId, 0, upright));
    expect([small.width, small.height]).toEqual([width, height]);
    expect(small.at(0.1, 0.5)).toBeLessThan(small.at(0.6, 0.8));
    expect(small.at(0.6, 0.8)).toBeLessThan(small.at(0.95, 0.1));
    expect(await kept(pictureId)).toHaveLength(1);
  });

  it('is turned and mirrored as it is asked for', async () => {
    const pictureId = await bring();
    const quarter = await seen(await previewAt(clinic.clinicId, pictureId, 0, turned(upright, 1)));
    expect([quarter.width, quarter.height]).toEqual([height, width]);
    // The top right corner comes to the bottom right by a quarter turn clockwise.
    expect(quarter.at(0.95, 0.95)).toBeGreaterThan(quarter.at(0.1, 0.95));
    expect(quarter.at(0.5, 0.1)).toBeLessThan(quarter.at(0.5, 0.6));
    const other = await seen(await previewAt(clinic.clinicId, pictureId, 0, mirrored(upright)));
    expect(other.at(0.05, 0.1)).toBeGreaterThan(other.at(0.95, 0.1));
  });

  it('is tilted as it is asked for, with nothing but dark beside it, and shows a crop alone', async () => {
    const pictureId = await bring();
    const tilt = await seen(await previewAt(clinic.clinicId, pictureId, 0, { ...upright, tiltDeg: 45 }));
    const side = Math.round((width + height) * Math.SQRT1_2);
    expect([tilt.width, tilt.height]).toEqual([side, side]);
    for (const [x, y] of [
      [0.02, 0.02],
      [0.98, 0.02],
      [0.02, 0.98]
    ])
      expect(tilt.at(x, y)).toBeLessThan(30);
    // The bright corner at the top right comes to the right.
    const [cornerX, cornerY] = [width - 12, 12].map((at, i) => at - [width, height][i] / 2);
    const seenAt = [cornerX - cornerY, cornerX + cornerY].map((at) => (at * Math.SQRT1_2) / side + 0.5);
    expect(tilt.at(seenAt[0], seenAt[1])).toBeGreaterThan(230);
    const window = { left: 120, top: 0, width: 40, height: 30 };
    const cropped = { kind: 'crop', item: null, body: { window, orientation: upright } };
    await keepAct(clinic.caller(), pictureId, randomUUID(), actWish.parse({ changes: [cropped] }));
    const crop = await seen(await previewAt(clinic.clinicId, pictureId, 1, upright));
    expect([crop.width, crop.height]).toEqual([40, 30]);
    expect(crop.at(0.1, 0.5)).toBeGreaterThan(230);
    const whole = await seen(await previewAt(clinic.clinicId, pictureId, 0, upright));
    expect([whole.width, whole.height]).toEqual([width, height]);
  });

  it('shows the look of the step that it is asked for, also an earlier one, and is made once for each', async () => {
    const pictureId = await bring();
    const change = (center: number) =>
      keepAct(clinic.caller(), pictureId, randomUUID(), {
        changes: actWish.parse({
          changes: [{ kind: 'look', item: null, body: windowLook({ center, width: 40 }) }]
        }).changes
      });
    await change(40);
    await change(160);
    const dark = async (seq: number) =>
      (await seen(await previewAt(clinic.clinicId, pictureId, seq, upright))).at(0.2, 0.8);
    const right = async (seq: number) =>
      (await seen(await previewAt(clinic.clinicId, pictureId, seq, upright))).at(0.6, 0.8);
    // About 40 the left is middle grey and the right white; about 160 the left is black and the right middle grey.
    expect(await dark(1)).toBeGreaterThan(100);
    expect(await right(1)).toBeGreaterThan(245);
    expect(await dark(2)).toBeLessThan(10);
    expect(await right(2)).toBeLessThan(150);
    const before = await kept(pictureId);
    await Promise.all([1, 2, 2, 1].map((seq) => previewAt(clinic.clinicId, pictureId, seq, upright)));
    expect(await kept(pictureId)).toEqual(before);
    expect(before).toContain(
      previewKey({ look: windowLook({ center: 40, width: 40 }), orientation: upright })
    );
  });

  it('of an exposure is made ahead as it lies in its slot and upright, once each', async () => {
    const { sensor } = await readyVisit(clinic);
    const pictureId = await sensor.expose(8);
    await makePreviews(clinic.clinicId, pictureId);
    const first = await kept(pictureId);
    expect(first.length).toBeGreaterThanOrEqual(1);
    await makePreviews(clinic.clinicId, pictureId);
    expect(await kept(pictureId)).toEqual(first);
  });

  it('asked for by many at once is the same for all', async () => {
    const pictureId = await bring();
    const all = await Promise.all(
      Array.from({ length: 12 }, () => previewAt(clinic.clinicId, pictureId, 0, turned(upright, 3)))
    );
    for (const each of all) expect(Buffer.compare(Buffer.from(each), Buffer.from(all[0]))).toBe(0);
    expect(await kept(pictureId)).toHaveLength(2);
  });

  it('that takes long keeps no connection: it is said to be in the making, and made once for all who ask', async () => {
    const pictureId = await bring();
    const before = await kept(pictureId);
    const wish: Parameters<typeof previewSoon>[0] = [clinic.clinicId, pictureId, 0, turned(upright, 2)];
    const asked = await Promise.allSettled(Array.from({ length: 6 }, () => previewSoon(wish, 0)));
    expect(
      asked.map((each) => each.status === 'rejected' && (each.reason as { status: number }).status)
    ).toEqual(Array(6).fill(503));
    expect((await previewSoon(wish, 60_000)).length).toBeGreaterThan(50);
    expect(await kept(pictureId)).toHaveLength(before.length + 1);
  });

  it('of another clinic’s picture is not found', async () => {
    const pictureId = await bring();
    await expect(previewAt(clinic.otherClinicId, pictureId, 0, upright)).rejects.toMatchObject({
      status: 404
    });
  });
});
