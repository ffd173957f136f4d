import { afterAll, beforeAll, expect, it } from 'vitest';
import { password } from '../demo/clinic';
import { Asking } from './harness/asking';
import { Browser } from './harness/browser';
import { archiveOf, throughFaults, visitOfMany } from './harness/faultyArchive';
import { letteredPng } from './harness/lettered';
import { RunningClinic } from './harness/running';

let clinic: RunningClinic;
let browser: Browser;
let mara: Asking;
let visitId: string;
const many = 40;

beforeAll(async () => {
  clinic = await RunningClinic.start({ sensor: false, env: { YONDER_JOB_SECONDS: '8' } });
  mara = await Asking.as(clinic, 'mara', password);
  visitId = await visitOfMany(clinic, mara, many);
  browser = await Browser.open(clinic.origin);
  await browser.signIn('mara', password);
});
afterAll(async () => {
  await browser?.close();
  await clinic?.stop();
});

it('forty pictures arrive once each at an archive that fails a third of what it is asked, in five ways, with the worker killed again and again', async () => {
  await browser.go('/dispatch');
  await browser.untilLive();
  const { times, sentAgain } = await throughFaults(clinic, mara, visitId, async () => {
    await browser.click('[data-testid=open-parcel]');
    await browser.click('[data-testid=try-all]');
  });
  expect(times).toHaveLength(many);
  expect(times.filter((count) => count !== 1)).toEqual([]);
  expect(sentAgain).toBeGreaterThan(0);
});

it('a parcel is held and goes on, and what was said on the wire is seen without its secrets', async () => {
  const { said } = await mara.send(
    'POST',
    `/api/visits/${visitId}/files?name=late.png`,
    new Uint8Array(await letteredPng('late'))
  );
  await clinic.archiveFault('refuse');
  const parcel = await mara.send('POST', `/api/visits/${visitId}/parcels`, {
    destinationId: await archiveOf(clinic),
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
