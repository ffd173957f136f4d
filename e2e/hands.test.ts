import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { Key } from 'selenium-webdriver';
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';
import { password } from '../demo/clinic';
import { Browser } from './harness/browser';
import { TestDevice } from './harness/device';
import { RunningClinic } from './harness/running';

// Visits that are taken without a hand free: by the device alone, by keys alone, by the pedal alone.
let clinic: RunningClinic;
let browser: Browser;
let device: TestDevice;
let number = 0;

beforeAll(async () => {
  clinic = await RunningClinic.start({ sensor: false, worker: false });
  browser = await Browser.open(clinic.origin);
  device = new TestDevice(clinic, fs.mkdtempSync(path.join(os.tmpdir(), 'yonder-hands-')));
  await device.start();
  void device.sayLamp();
  await browser.signIn('orsin', password);
});
afterEach(() => browser.untilKept());
afterAll(async () => {
  device?.stop();
  await browser?.close();
  await clinic?.stop();
});

const next = () => browser.text('[data-testid=next-slot]');
const acquire = (words: string) =>
  browser.until(words, async () => (await browser.text('[data-testid=station-acquire]')).includes(words));
/** Exposes once for what the device is armed for, as soon as that is the slot that is next. */
async function expose(slot?: string): Promise<void> {
  if (slot)
    await browser.until(`the device waits for ${slot}`, async () => {
      const [armed] = await clinic.rows<{ arming_id: string; slot_id: string }>(
        `select arming_id, slot_id from arming join device d using (arming_id) where d.device_id = '${device.deviceId}'`
      );
      return armed?.slot_id === slot && armed.arming_id === device.armingId;
    });
  await browser.until('the device is armed', async () => device.armingId !== null);
  const { armingId } = device;
  device.expose(armingId!, ++number);
  await browser.until('it is armed anew, or rests', async () => device.armingId !== armingId);
}
/** Goes on by Tab until what has the focus fits. */
async function tabTo(css: string): Promise<void> {
  for (let i = 0; i < 80; i++) {
    if (await browser.run<boolean>('return document.activeElement?.matches(arguments[0]) ?? false', css))
      return;
    await browser.press(Key.TAB);
  }
  throw new Error(`Tab never reached ${css}`);
}
async function beginByKeys(record: string): Promise<void> {
  await browser.go('/');
  await browser.untilLive();
  await tabTo(`[data-record=${record}]`);
  await browser.press(Key.ENTER);
  await browser.find('[data-testid=pattern]');
}
/** What lies in each slot of the patient's newest tray: the numbers of its takes in order, the keeper's first. */
const standing = (record: string) =>
  clinic.rows<{ slot: string | null; keeper: boolean; number: number }>(
    `select s.slot_id as slot, s.keeper, p.number from standing s join picture p using (clinic_id, picture_id)
     join patient t on t.patient_id = p.patient_id where t.record_number = '${record}' order by p.number`
  );

describe('a visit by the pedal alone', () => {
  it('is got ready, anchored, gone on with, and taken again', async () => {
    const keys = { ready: 'F7', anchor: 'F8', 'next slot': 'F9', 'retake last': 'F10' };
    await clinic.rows(
      `update room set pedal = '${JSON.stringify(keys)}' where name = 'Teeth' and clinic_id =
         (select clinic_id from user_account where sign_in_name = 'orsin') returning 1`
    );
    await beginByKeys('QS-1052');
    await browser.run('document.activeElement.blur()');
    const pedal = { ready: Key.F7, anchor: Key.F8, next: Key.F9, retake: Key.F10 };
    await browser.press(pedal.anchor);
    await browser.untilKept();
    await browser.press(pedal.ready);
    for (let i = 0; i < 4; i++) await expose();
    await acquire('3 empty');
    await browser.press(pedal.anchor);
    await browser.until('it goes on', async () => (await next()) === 'Right premolars');
    await browser.press(pedal.next);
    await browser.until('one is passed over', async () => (await next()) === 'Left premolars');
    await expose('bw-left-premolars');
    await acquire('2 empty');
    await browser.press(pedal.retake);
    await browser.until('it is asked again', async () => (await next()) === 'Left premolars');
    await expose('bw-left-premolars');
    await browser.until('it goes on after it', async () => (await next()) === 'Left molars');
    for (let i = 0; i < 2; i++) await expose();
    await acquire('all taken');
    const takes = await standing('QS-1052');
    const counts = ['bw-right-molars', 'bw-left-premolars'].map(
      (slot) => takes.filter((each) => each.slot === slot).length
    );
    expect(counts).toEqual([4, 2]);
    expect(new Set(takes.map(({ slot }) => slot)).size).toBe(4);
  });
});

describe('eighteen slots', () => {
  it('are filled in the order of the route without anybody touching anything', async () => {
    await beginByKeys('QS-1060');
    await browser.press('p');
    await browser.until('the eighteen are laid', async () => {
      for (const choice of await browser.all('[data-testid=pattern-choice]'))
        if (/^Full mouth\s+18 slots/.test(await choice.getText())) {
          await choice.click();
          return true;
        }
      return false;
    });
    await acquire('18 empty');
    await browser.run('document.activeElement.blur()');
    await browser.press(' ');
    for (let i = 0; i < 18; i++) await expose();
    await acquire('all taken');
    const [{ route }] = await clinic.rows<{ route: string[] }>(
      `select r.slot_order as route from route r join pattern p using (clinic_id, pattern_id)
       where p.name = 'Full mouth' and r.clinic_id = (select clinic_id from user_account where sign_in_name = 'orsin')
       limit 1`
    );
    const takes = await standing('QS-1060');
    expect(takes.map(({ slot }) => slot)).toEqual(route);
    expect(takes.every(({ keeper }) => keeper)).toBe(true);
  });
});

describe('a visit by the keyboard alone', () => {
  it('is opened, taken, put in order, taken back, and confirmed', async () => {
    await beginByKeys('QS-1004');
    await browser.run('document.activeElement.blur()');
    await browser.press(' ');
    await expose();
    await expose();
    await acquire('2 empty');
    // The second again at once; then the first take is kept after all.
    await browser.press('r');
    await browser.until('the retake is next', async () => (await next()) === 'Right premolars');
    await expose('bw-right-premolars');
    await browser.press(Key.ARROW_LEFT);
    await browser.press('k');
    await browser.untilKept();
    expect((await standing('QS-1004')).map(({ keeper }) => keeper)).toEqual([true, true, false]);
    // The first to another slot, by name, and back.
    await browser.press(Key.HOME, Key.ARROW_LEFT);
    await browser.press('g');
    await (await browser.find('[data-testid=move-to]')).sendKeys('left molars');
    await browser.find('[role=option]');
    await browser.press(Key.ARROW_DOWN, Key.ENTER);
    await browser.untilKept();
    const slotOf = async (of: number) => (await standing('QS-1004')).find((each) => each.number === of)!.slot;
    await browser.until('it was moved', async () => (await slotOf(1)) === 'bw-left-molars');
    await browser.driver.actions().keyDown(Key.CONTROL).sendKeys('z').keyUp(Key.CONTROL).perform();
    await browser.until('it was taken back', async () => (await slotOf(1)) === 'bw-right-molars');
    // Through the bench into its place.
    await browser.press('b');
    await browser.until('it lies on the bench', async () => (await slotOf(1)) === null);
    await browser.press('g');
    await (await browser.find('[data-testid=move-to]')).sendKeys('right molars');
    await browser.find('[role=option]');
    await browser.press(Key.ARROW_DOWN, Key.ENTER);
    await browser.until('it is back', async () => (await slotOf(1)) === 'bw-right-molars');
    await expose();
    await expose();
    await acquire('all taken');
    await tabTo('[data-testid=station-check]');
    await browser.press(Key.ENTER);
    await browser.find('[data-testid=grade-limited]');
    await browser.press('l');
    await browser.find('[data-testid=reason]');
    await tabTo('[data-testid=confirm]');
    await browser.press(Key.ENTER);
    await browser.until('one keeper is confirmed', async () => {
      const [{ count }] = await clinic.rows<{ count: string }>(
        `select count(*) from standing s join picture p using (clinic_id, picture_id) join patient t on t.patient_id = p.patient_id
         where t.record_number = 'QS-1004' and s.confirmed`
      );
      return Number(count) === 1;
    });
    const [{ kinds }] = await clinic.rows<{ kinds: string[] }>(
      `select array_agg(kind) as kinds from picture_step where kind = 'grade'`
    );
    expect(kinds).toEqual(['grade']);
  });
});
