import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { afterAll, beforeAll, beforeEach, expect, it } from 'vitest';
import { password } from '../demo/clinic';
import { past } from '../demo/past';
import { Browser } from './harness/browser';
import { Asking } from './harness/asking';
import { TestDevice } from './harness/device';
import { Readings, stage } from './harness/readings';
import { RunningClinic } from './harness/running';

let clinic: RunningClinic;
let assistant: Browser;
let clinician: Browser;
let device: TestDevice;
let visitId = '';
let trayId = '';
let deviceId = '';
const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'yonder-together-'));
const [first, second] = past[0].series.pattern.route.order;

beforeAll(async () => {
  clinic = await RunningClinic.start({ past: past.slice(0, 1), sensor: false });
  [{ visit_id: visitId, tray_id: trayId }] = await clinic.rows<{ visit_id: string; tray_id: string }>(
    `select visit_id, tray_id from tray join picture using (visit_id) order by taken_at desc limit 1`
  );
  device = new TestDevice(clinic, path.join(folder, 'device'), 'Sensor of two');
  await device.start();
  ({ deviceId } = device);
  [assistant, clinician] = [await Browser.open(clinic.origin), await Browser.open(clinic.origin)];
  await assistant.signIn('mara', password);
  await clinician.signIn('orsin', password);
});
afterAll(async () => {
  device?.stop();
  await assistant?.close();
  await clinician?.close();
  await clinic?.stop();
  fs.rmSync(folder, { recursive: true, force: true });
});

/** Opens a station and waits until the page is at rest, so that what it fetches afterwards is told apart. */
async function open(browser: Browser, station: string): Promise<void> {
  await browser.go(`/visits/${visitId}/${station}`);
  await browser.untilLive();
  let before = -1;
  await browser.until('the page is at rest', async () => {
    const now = (await fetched(browser)).length;
    await new Promise((done) => setTimeout(done, 700));
    const same = now === before;
    before = now;
    return same;
  });
}
const fetched = (browser: Browser) =>
  browser.run<string[]>(
    `return performance.getEntriesByType('resource').map((each) => new URL(each.name).pathname + new URL(each.name).search)`
  );

/** What a page fetches while something happens elsewhere, as it is shown. */
async function fetchedWhile(browser: Browser, act: () => Promise<unknown>, shown: () => Promise<unknown>) {
  const before = new Set(await fetched(browser));
  await act();
  await browser.until('it is shown', shown);
  await new Promise((done) => setTimeout(done, 400));
  return (await fetched(browser)).filter((each) => !before.has(each));
}
const state = async (browser: Browser, slotId: string) =>
  (await browser.find(`[data-testid=well-${slotId}]`)).getAttribute('data-state');
const ask = async (name: string, body: object) => {
  const { status, text } = await (
    await Asking.as(clinic, name, password)
  ).send('POST', `/api/trays/${trayId}`, body);
  expect(status, text).toBe(200);
};
const takeOf = async (slotId: string) =>
  (
    await clinic.rows<{ picture_id: string }>(
      `select picture_id from standing where tray_id = '${trayId}' and slot_id = '${slotId}' and keeper`
    )
  )[0].picture_id;

beforeEach(async () => {
  for (const browser of [assistant, clinician]) await browser.untilKept();
});

it('a lamp that changes changes the lamp: nothing is fetched for it', async () => {
  await open(assistant, 'acquire');
  const lamp = () =>
    assistant.run<string[]>(
      `return [...document.querySelectorAll('[data-lamp]')].map((each) => each.dataset.lamp)`
    );
  const report = (word: string) =>
    fetch(`${clinic.origin}/device/v1/lamp`, {
      method: 'PUT',
      headers: { 'content-type': 'application/json', authorization: `Bearer ${device.token}` },
      body: JSON.stringify({ lamp: word })
    });
  const before = (await lamp()).join();
  const other = before.includes('resting') ? 'faulted' : 'resting';
  const got = await fetchedWhile(
    assistant,
    () => report(other),
    async () => (await lamp()).join() !== before
  );
  expect(got).toEqual([]);
  await report('resting');
  expect(deviceId).not.toBe('');
});

it('what one confirms the other sees, without the visit being fetched again', async () => {
  await open(assistant, 'acquire');
  if ((await state(assistant, first)) === 'confirmed')
    await ask('orsin', { kind: 'confirmation-withdrawn', slotId: first });
  await assistant.until('it is not confirmed', async () => (await state(assistant, first)) !== 'confirmed');
  const takeId = await takeOf(first);
  const got = await fetchedWhile(
    assistant,
    () => ask('orsin', { kind: 'keeper-confirmed', slotId: first, takeId }),
    async () => (await state(assistant, first)) === 'confirmed'
  );
  expect(got).toEqual([]);
});

it('a swap by one takes the confirmation off before the other’s eyes, and says who is to look again', async () => {
  await ask('orsin', { kind: 'keeper-confirmed', slotId: first, takeId: await takeOf(first) });
  await ask('orsin', { kind: 'keeper-confirmed', slotId: second, takeId: await takeOf(second) });
  await open(clinician, 'acquire');
  expect([await state(clinician, first), await state(clinician, second)]).toEqual(['confirmed', 'confirmed']);
  const [one, other] = [await takeOf(first), await takeOf(second)];
  const got = await fetchedWhile(
    clinician,
    () => ask('mara', { kind: 'slots-swapped', slotId: first, otherSlotId: second }),
    async () => (await state(clinician, first)) === 'taken' && (await state(clinician, second)) === 'taken'
  );
  expect(got.filter((each) => each.startsWith('/api/visits/'))).toEqual([]);
  expect([await takeOf(first), await takeOf(second)]).toEqual([other, one]);
  await ask('mara', { kind: 'slots-swapped', slotId: first, otherSlotId: second });
});

it('both change one picture: each sees the other’s change, and takes back the own one alone', async () => {
  for (const browser of [assistant, clinician]) {
    await browser.go(`/visits/${visitId}/check?picture=${await takeOf(first)}`);
    await browser.untilLive();
    await browser.find(`[data-testid=stage][data-picture="${await takeOf(first)}"]`);
  }
  const words = (browser: Browser) => browser.text('[data-testid=look-words]');
  const was = await words(clinician);
  await assistant.click('[data-testid=invert]');
  await clinician.until('the clinician sees it inverted', async () =>
    (await words(clinician)).includes('inverted')
  );
  expect(await (await clinician.find('[data-testid=take-back]')).isEnabled()).toBe(false);
  const turnedBy = () =>
    clinic.rows<{ kind: string; by: string }>(
      `select s.kind, u.sign_in_name as by from picture_step s join user_account u on u.user_id = s.made_by
       where picture_id = (select picture_id from standing where tray_id = '${trayId}' and slot_id = '${first}' and keeper)
       order by seq`
    );
  await clinician.click('[data-testid=turn-left]');
  await clinician.untilKept();
  await assistant.until('the assistant may take the own change back', async () =>
    (await assistant.find('[data-testid=take-back]')).isEnabled()
  );
  await assistant.click('[data-testid=take-back]');
  await clinician.until('it is as it was for both', async () => (await words(clinician)) === was);
  await assistant.untilKept();
  expect((await turnedBy()).slice(-3).map(({ kind, by }) => `${by} ${kind}`)).toEqual([
    'mara look',
    'orsin orientation',
    'mara look'
  ]);
  await clinician.click('[data-testid=take-back]');
  await clinician.untilKept();
});

it('both draw on one picture: each sees the other’s drawing at once, and takes back the own alone', async () => {
  const takeId = await takeOf(first);
  for (const browser of [assistant, clinician]) {
    await browser.go(`/visits/${visitId}/measure?picture=${takeId}`);
    await browser.untilLive();
    await browser.find(`${stage}[data-picture="${takeId}"]`);
  }
  const [hers, his] = [new Readings(() => assistant), new Readings(() => clinician)];
  const before = (await hers.rows('length')).length;
  await assistant.click('[data-testid=tool-length]');
  await assistant.drag(stage, [160, 120], [460, 120]);
  await his.untilRows('length', before + 1);
  await clinician.click('[data-testid=tool-length]');
  await clinician.drag(stage, [160, 520], [360, 520]);
  await hers.untilRows('length', before + 2);
  const [longer] = await hers.value('length', before);
  const [shorter] = await hers.value('length', before + 1);
  expect(longer / shorter).toBeCloseTo(1.5, 1);
  // What the assistant did last is her own line, though his is newer.
  await assistant.click('[data-testid=take-back]');
  await his.untilRows('length', before + 1);
  expect((await his.value('length', before))[0]).toBe(shorter);
  await clinician.click('[data-testid=take-back]');
  await hers.untilRows('length', before);
  await assistant.click('[data-testid=bring-back]');
  await his.untilRows('length', before + 1);
  expect((await his.value('length', before))[0]).toBe(longer);
  await assistant.click('[data-testid=take-back]');
  await his.untilRows('length', before);
});

it('a picture brought in by one comes to the other’s bench by itself, with nothing but itself fetched', async () => {
  await open(clinician, 'acquire');
  const bench = async () => (await clinician.all('[data-testid=bench-take]')).length;
  const before = await bench();
  const { default: sharp } = await import('sharp');
  const png = await sharp(Buffer.alloc(900, 90), { raw: { width: 30, height: 30, channels: 1 } })
    .png()
    .toBuffer();
  const asking = await Asking.as(clinic, 'mara', password);
  const got = await fetchedWhile(
    clinician,
    () => asking.send('POST', `/api/visits/${visitId}/files?name=brought.png`, new Uint8Array(png)),
    async () => (await bench()) === before + 1
  );
  expect(got.filter((each) => !each.startsWith('/api/pictures/'))).toEqual([]);
});

it('a day’s page hears of a visit that somebody opens', async () => {
  await clinician.go('/');
  await clinician.untilLive();
  const [{ appointment_id: appointmentId, record }] = await clinic.rows<Record<string, string>>(
    `select a.appointment_id, p.record_number as record from appointment a join patient p using (patient_id)
     join clinic c on c.clinic_id = a.clinic_id where a.visit_id is null and c.name like 'Quill%'
     and a.starts_at::date = now()::date limit 1`
  );
  const shown = () => clinician.text(`[data-record="${record}"]`);
  const before = await shown();
  const asking = await Asking.as(clinic, 'mara', password);
  const { status, said } = await asking.send('POST', '/api/visits', { appointmentId });
  expect(status).toBe(200);
  await clinician.until('the page shows that it is open', async () => (await shown()) !== before);
  expect(await clinic.rows(`select 1 from visit where visit_id = '${String(said.visitId)}'`)).toHaveLength(1);
});
