import { afterAll, beforeAll, expect, it } from 'vitest';
import { password } from '../demo/clinic';
import { Asking } from './harness/asking';
import { Browser } from './harness/browser';
import { letteredPng } from './harness/lettered';
import { RunningClinic } from './harness/running';

let clinic: RunningClinic;
let browser: Browser;
let mara: Asking;
let visitId: string;
let archiveId: string;
const many = 200;

beforeAll(async () => {
  clinic = await RunningClinic.start({ sensor: false, env: { YONDER_JOB_SECONDS: '12' } });
  mara = await Asking.as(clinic, 'mara', password);
  const [archive] = await clinic.rows<{ destination_id: string }>(
    `select destination_id from destination where name = 'Mainland archive'`
  );
  archiveId = archive.destination_id;
  ({ visitId } = await mara.teethVisit('QS-1060'));
  await mara.send('POST', `/api/visits/${visitId}/files?name=one.png`, new Uint8Array(await letteredPng()));
  await clinic.rows(
    `insert into picture (picture_id, clinic_id, patient_id, visit_id, original_sha256, media_type, file_name, source, kind,
        width, height, channels, bits_stored, sample_offset, frames, facts, first_look, taken_at, instance_uid, number)
     select gen_random_uuid(), p.clinic_id, p.patient_id, p.visit_id, p.original_sha256, p.media_type, 'many ' || n, p.source,
       p.kind, p.width, p.height, p.channels, p.bits_stored, p.sample_offset, p.frames, p.facts, p.first_look, p.taken_at,
       '2.25.' || (770000 + n), n + 1000
     from generate_series(2, $2::int) n, (select * from picture where visit_id = $1 limit 1) p`,
    [visitId, many]
  );
  browser = await Browser.open(clinic.origin);
  await browser.resize(1280, 800);
  await browser.signIn('mara', password);
});
afterAll(async () => {
  await browser?.close();
  await clinic?.stop();
});

const counts = async () =>
  Object.fromEntries(
    (
      await clinic.rows<{ state: string; count: number }>(
        'select state, count(*)::int as count from delivery group by state'
      )
    ).map(({ state, count }) => [state, count])
  );

it('two hundred pictures arrive once each at an archive that fails a third of what it is asked, in five ways, with the worker killed again and again', async () => {
  await clinic.archiveFault('mixed');
  const ids = await clinic.rows<{ picture_id: string }>(
    'select picture_id from picture where visit_id = $1',
    [visitId]
  );
  const { said } = await mara.send('POST', `/api/visits/${visitId}/parcels`, {
    destinationId: archiveId,
    identity: 'identified',
    pictureIds: ids.map((row) => row.picture_id)
  });
  expect(said).toMatchObject({ sent: many, left: 0 });
  await browser.go('/dispatch');
  await browser.untilLive();
  for (const there of [20, 60, 110]) {
    await browser.until(
      `${there} are there`,
      async () => ((await counts()).delivered ?? 0) >= there,
      120_000
    );
    await clinic.kill('worker');
    clinic.startWorker();
  }
  // What the archive's keeper has put right, a person sends again; all else goes by itself.
  let pressed = false;
  await browser.until(
    'all are there',
    async () => {
      const now = await counts();
      if (now.failed && !now.waiting && !now.sending) {
        await clinic.archiveFault('none');
        await browser.click('[data-testid=open-parcel]');
        await browser.click('[data-testid=try-all]');
        pressed = true;
      }
      return now.delivered === many;
    },
    240_000
  );
  expect(pressed).toBe(true);
  const receipts = Object.values(await clinic.receipts());
  expect(receipts).toHaveLength(many);
  expect(receipts.filter((count) => count !== 1)).toEqual([]);
});

it('a parcel is held and goes on, and what was said on the wire is seen without its secrets', async () => {
  const { said } = await mara.send(
    'POST',
    `/api/visits/${visitId}/files?name=late.png`,
    new Uint8Array(await letteredPng('late'))
  );
  await clinic.archiveFault('refuse');
  const parcel = await mara.send('POST', `/api/visits/${visitId}/parcels`, {
    destinationId: archiveId,
    identity: 'identified',
    pictureIds: [String(said.pictureId)]
  });
  const parcelId = String(parcel.said.parcelId);
  const stateOf = async () =>
    (await clinic.rows<{ state: string }>('select state from delivery where parcel_id = $1', [parcelId]))[0]
      .state;
  await browser.go('/dispatch');
  await browser.untilLive();
  await browser.click('[data-testid=open-parcel]');
  await browser.untilSays('[data-testid=parcel-dialog]', 'refused for now (503)');
  await browser.until('it is held', async () => {
    await browser.click('[data-testid=hold]').catch(() => null);
    return (await stateOf()) === 'held';
  });
  await clinic.archiveFault('none');
  await browser.click('[data-testid=show-wire]');
  await browser.untilSays('[data-testid=wire]', 'POST http://');
  expect(await browser.violations()).toEqual([]);
  expect(await stateOf()).toBe('held');
  await browser.click('[data-testid=go-on]');
  await browser.untilSays('[data-testid=parcel-dialog]', 'read back the same');
});
