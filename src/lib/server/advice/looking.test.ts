import { randomUUID } from 'node:crypto';
import { describe, expect, it } from 'vitest';
import { useClinic } from '../../../../e2e/harness/clinic';
import { type TestSensor, readyVisit, smallOffer } from '../../../../e2e/harness/testSensor';
import { seededRandom } from '../../core/random';
import { dataset } from '../../core/dicom/dataset';
import { exampleFacts } from '../../core/dicom/objects/exampleFacts.test-data';
import { datasetForPicture } from '../../core/dicom/objects/forPicture';
import { writeDicomFile } from '../../core/dicom/write';
import { markerPicture } from '../../core/phantom/foreign/markerPicture';
import { layLetter } from '../../core/phantom/xray/leadLetter';
import { standingAdvice } from '../../core/picture/adviceView';
import type { ShippedPattern } from '../../core/tray/shipped/shippedPattern';
import { leftWrist, rightWrist } from '../../core/tray/shipped/wrist';
import { changeTray, heldFirstTray } from '../trays/trays';
import { pictureSeen } from '../pictures/changes';
import { denyAdvice } from './denying';
import { lookAt } from './looking';

const clinic = useClinic();
const side = 240;

/** Noise around one grey, or a slope from dark to light with noise: nothing on it, and something. */
function samples(kind: 'nothing' | 'something', seed: number): Uint8Array {
  const random = seededRandom(seed);
  const values = Uint16Array.from({ length: side * side }, (_, i) => {
    const noise = (random.uniform() - 0.5) * 300;
    if (kind === 'nothing') return 60_000 + noise;
    const [x, y] = [i % side, Math.floor(i / side)];
    const blob = 22_000 * Math.exp(-((x - 120) ** 2 + (y - 90) ** 2) / 2500);
    return 6_000 + 90 * y + blob + noise + 4_000 * Math.sin(x / 6) * Math.sin(y / 5);
  });
  return new Uint8Array(values.buffer);
}
async function shoot(sensor: TestSensor, bytes: Uint8Array): Promise<string> {
  const { armingId } = await sensor.armed();
  const offer = smallOffer(armingId, { width: side, height: side });
  return (await sensor.take(`key-${randomUUID()}`, offer, bytes)).pictureId;
}
const adviceOf = async (pictureId: string) => (await pictureSeen(clinic.caller(), pictureId)).advice;
const look = (pictureId: string) => lookAt({ clinicId: clinic.clinicId, pictureId });

describe('looking at a take', () => {
  it('is asked for with the exposure, for when it has been drawn, and what it saw is shown with the picture', async () => {
    const { sensor } = await readyVisit(clinic);
    const pictureId = await shoot(sensor, samples('nothing', 1));
    const { rows } = await clinic.owner.query(
      `select start_after - created_on as after from pgboss.job where name = 'advise' and data->>'pictureId' = $1`,
      [pictureId]
    );
    expect(rows).toMatchObject([{ after: { seconds: 1 } }]);
    expect(await adviceOf(pictureId)).toBeNull();
    await look(pictureId);
    expect(await adviceOf(pictureId)).toMatchObject([{ kind: 'nothing exposed', deniedBy: null }]);
    // Looking again changes nothing.
    await look(pictureId);
    expect(await adviceOf(pictureId)).toHaveLength(1);
  });

  it('knows the same picture when it comes twice, from whichever slot', async () => {
    const { sensor } = await readyVisit(clinic);
    const first = await shoot(sensor, samples('something', 2));
    const again = await shoot(sensor, samples('something', 2));
    await look(first);
    await look(again);
    expect((await adviceOf(first))!.map(({ kind }) => kind)).not.toContain('same again');
    expect((await adviceOf(again))!.map(({ kind }) => kind)).toContain('same again');
  });

  it('repeats what the device’s own index says of the dose, read from the file', async () => {
    const { raster } = markerPicture(
      {
        transfer: 'logarithmic',
        marker: 'none',
        width: 300,
        height: 320,
        imaging: { bits: 12, bitsStored: 12, counts: 20_000, lift: 0, denseBright: true }
      },
      seededRandom(5)
    );
    const { data, ...shape } = raster;
    const bytes = new Uint8Array(data.buffer, data.byteOffset, data.byteLength);
    const pixels = { ...shape, frames: 1, frameMs: null, bytes };
    const kindsSaid = async (index: string) => {
      const set = [
        ...datasetForPicture(exampleFacts({ slot: null, places: [], pixels })),
        ...dataset({ ExposureIndex: index, TargetExposureIndex: '400' })
      ].sort((a, b) => (a.tag < b.tag ? -1 : 1));
      const visitId = await clinic.newVisit();
      const pictureId = await clinic.bring(visitId, 'wrist.dcm', Buffer.from(writeDicomFile(set)));
      await look(pictureId);
      return (await adviceOf(pictureId))!.map(({ kind }) => kind);
    };
    expect(await kindsSaid('420')).toEqual([]);
    expect(await kindsSaid('2000')).toEqual(['over-exposed']);
    expect(await kindsSaid('100')).toEqual(['under-exposed']);
  });

  it('holds the letter of lead against the side of the slot that it was taken for', async () => {
    const size = { width: 400, height: 500 };
    const lead = new Float32Array(size.width * size.height);
    layLetter(lead, size, 0.4, 'R', 3);
    const random = seededRandom(8);
    const data = Uint16Array.from(lead, (depth, i) => {
      const [x, y] = [i % size.width, Math.floor(i / size.width)];
      const bone = 9000 * Math.exp(-(((x - 200) / 60) ** 2)) * (1 + 0.2 * Math.sin(y / 11));
      return 5000 + bone + 9000 * depth + 150 * random.normal();
    });
    const pixels = {
      ...size,
      channels: 1 as const,
      bitsStored: 16,
      offset: 0,
      frames: 1,
      frameMs: null,
      bytes: new Uint8Array(data.buffer)
    };
    const file = writeDicomFile(datasetForPicture(exampleFacts({ slot: null, places: [], pixels })));
    const saidOf = async ({ pattern, route }: ShippedPattern) => {
      const visitId = await clinic.newVisit();
      const { trayId } = await clinic.inside(async (tx) =>
        changeTray(
          tx,
          await heldFirstTray(tx, visitId),
          [{ kind: 'tray-laid', pattern: pattern.ref, route: route.ref }],
          clinic.caller()
        )
      );
      const slotId = pattern.slots[0].id;
      const pictureId = await clinic.bring(visitId, 'wrist.dcm', Buffer.from(file), { trayId, slotId });
      await look(pictureId);
      return (await adviceOf(pictureId))!.map(({ kind }) => kind);
    };
    expect(await saidOf(rightWrist)).not.toContain('other side');
    expect(await saidOf(leftWrist)).toContain('other side');
  });

  it('learns what dose is usual from what people confirm, and tells of a take with much less', async () => {
    const { sensor } = await readyVisit(clinic);
    /** Greys whose noise is a share of what they span: the more dose, the smaller. */
    const grainy = (noise: number, seed: number) => {
      const random = seededRandom(seed);
      const values = Uint16Array.from({ length: side * side }, (_, i) => {
        const [x, y] = [i % side, Math.floor(i / side)];
        const shapes = 12_000 * Math.sin(x / 37) * Math.cos(y / 29) + 4_000 * Math.sin((x + 2 * y) / 23);
        return 30_000 + shapes + noise * random.normal();
      });
      return new Uint8Array(values.buffer);
    };
    const first = await shoot(sensor, grainy(300, 50));
    await look(first);
    const { rows } = await clinic.owner.query<{ span: number; view: string }>(
      `select dose_span as span, dose_view as view from picture_advice where picture_id = $1`,
      [first]
    );
    const [{ span, view }] = rows;
    expect(span).toBeGreaterThan(30);
    // Nine others of this device and view say what is usual once people have confirmed them, and nothing before.
    const others: string[] = [];
    for (let visit = 0; visit < 3; visit++) {
      const { sensor: another } = await readyVisit(clinic);
      for (let i = 0; i < 3; i++) others.push(await another.expose(4));
    }
    const taken = async (confirmed: boolean) => {
      await clinic.owner.query(
        `insert into picture_advice (clinic_id, picture_id, version, found, dose_span, dose_view)
         select $1, unnest($2::uuid[]), 1, '[]', $3, $4
         on conflict (clinic_id, picture_id) do update set dose_span = $3, dose_view = $4`,
        [clinic.clinicId, others, 3 * span, view]
      );
      await clinic.owner.query(
        `update standing set keeper = true, confirmed = $2 where picture_id = any($1::uuid[])`,
        [others, confirmed]
      );
      await look(first);
      return (await adviceOf(first))!.find(({ kind }) => kind === 'under-exposed');
    };
    expect(await taken(false)).toBeUndefined();
    expect((await taken(true))?.description).toMatch(/about 10 % of the usual dose/);
  });

  it('is answered by a person: not so, under the name, and taken back', async () => {
    const { sensor } = await readyVisit(clinic);
    const pictureId = await shoot(sensor, samples('nothing', 3));
    await look(pictureId);
    const answer = (denied: boolean) =>
      denyAdvice(clinic.caller('assistant'), pictureId, randomUUID(), { kind: 'nothing exposed', denied });
    await answer(true);
    const advice = await adviceOf(pictureId);
    expect(advice![0].deniedBy).toBe(clinic.caller('assistant').name);
    expect(standingAdvice(advice)).toEqual([]);
    await answer(false);
    expect(standingAdvice(await adviceOf(pictureId))).toHaveLength(1);
    await expect(
      denyAdvice(clinic.caller('front-desk'), pictureId, randomUUID(), { kind: 'moved', denied: true })
    ).rejects.toMatchObject({ status: 403 });
  });

  it('of a picture too small to tell from says nothing', async () => {
    const { sensor } = await readyVisit(clinic);
    const pictureId = await sensor.expose(4);
    await look(pictureId);
    expect(await adviceOf(pictureId)).toEqual([]);
  });
});
