import { randomUUID } from 'node:crypto';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { useClinic } from '../../../../e2e/harness/clinic';
import { readyVisit } from '../../../../e2e/harness/testSensor';
import { plainDestination } from '../../core/parcel/destination';
import { keepDestination } from '../dispatch/destinations';
import { deliver } from '../dispatch/deliver';
import { dispatch, dispatchParcel } from '../dispatch/dispatchViews';
import { sendParcel } from '../dispatch/parcels';
import { closeVisits } from './closing';
import { visitView } from './visits';

const clinic = useClinic();
const shared = fs.mkdtempSync(path.join(os.tmpdir(), 'yonder-closing-'));
process.env.YONDER_SHARED_FOLDERS = shared;
afterAll(() => fs.rmSync(shared, { recursive: true, force: true }));

const close = (
  visitIds: string[],
  how: Parameters<typeof closeVisits>[2]['how'],
  key: string = randomUUID()
) => closeVisits(clinic.caller('front-desk'), key, { visitIds, how });
const isClosed = async (visitId: string) => (await visitView(clinic.caller(), visitId)).closedAt !== null;
async function visit(pictures: number): Promise<string> {
  const { visitId, sensor } = await readyVisit(clinic);
  for (let i = 0; i < pictures; i++) await sensor.expose(i);
  return visitId;
}
const parcelsOf = async (visitId: string) =>
  (await dispatch(clinic.caller(), { show: 'all', visit: visitId })).parcels;

describe('a visit', () => {
  it('is closed with others by one answer, opened again, and twice is once', async () => {
    const both = [await visit(1), await visit(0)];
    const key = randomUUID();
    const first = await close(both, 'close', key);
    expect(first.visits.map(({ closed, sent }) => [closed, sent])).toEqual([
      [true, 0],
      [true, 0]
    ]);
    await close(both, 'close', key);
    expect(await Promise.all(both.map(isClosed))).toEqual([true, true]);
    const { rows } = await clinic.owner.query(
      `select 1 from audit_line where act = 'visit closed' and subject = any($1)`,
      [both]
    );
    expect(rows).toHaveLength(2);
    await close([both[0]], 'open again');
    expect(await Promise.all(both.map(isClosed))).toEqual([false, true]);
  });
  it('sends what stands in it to the usual archive first, where that is wished', async () => {
    await clinic.setDestination('http://127.0.0.1:9');
    const visitId = await visit(2);
    expect((await close([visitId], 'send and close')).visits).toMatchObject([
      { closed: true, sent: 2, problem: '' }
    ]);
    expect(await parcelsOf(visitId)).toMatchObject([{ pictures: 2, identity: 'identified' }]);
  });
  it('is closed by itself once all that stands in it has arrived, where a destination is set so', async () => {
    const { destinationId } = await keepDestination(clinic.caller('administrator'), randomUUID(), {
      name: 'Closes',
      settings: { ...plainDestination({ kind: 'folder', folder: shared }), closes: true }
    });
    const visitId = await visit(2);
    const ids = (await visitView(clinic.caller(), visitId)).pictures.map(({ pictureId }) => pictureId);
    for (const [i, pictureId] of ids.entries()) {
      const { parcelId } = await sendParcel(clinic.caller(), visitId, randomUUID(), {
        destinationId,
        pictureIds: [pictureId],
        warned: true
      });
      const { items } = await dispatchParcel(clinic.caller(), parcelId!);
      await deliver(clinic.clinicId, items[0].deliveryId);
      expect(await isClosed(visitId)).toBe(i === ids.length - 1);
    }
  });
  it('sends by itself where a destination is set so, and stays open where something can’t go', async () => {
    await keepDestination(clinic.caller('administrator'), randomUUID(), {
      name: 'By itself',
      settings: {
        ...plainDestination({ kind: 'folder', folder: shared }),
        byItself: true,
        identity: 'deidentified'
      }
    });
    const visitId = await visit(1);
    expect((await close([visitId], 'close')).visits).toMatchObject([{ closed: true, sent: 1 }]);
    expect(await parcelsOf(visitId)).toMatchObject([
      { destination: { name: 'By itself' }, state: 'checking' }
    ]);
    const doubtful = await clinic.newVisit();
    await clinic.bring(
      doubtful,
      'a.png',
      Buffer.from(
        'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAAAAAA6fptVAAAACklEQVR4nGNgAAAAAgABSK+kcQAAAABJRU5ErkJggg==',
        'base64'
      )
    );
    const [said] = (await close([doubtful], 'close')).visits;
    expect(said).toMatchObject({ closed: false, problem: expect.stringMatching(/nobody has said/) });
    expect(await isClosed(doubtful)).toBe(false);
  });
});
