import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Key } from 'selenium-webdriver';
import { password } from '../demo/clinic';
import { Asking } from './harness/asking';
import { Browser } from './harness/browser';
import { letteredPng } from './harness/lettered';
import { RunningClinic } from './harness/running';

let clinic: RunningClinic;
let browser: Browser;
let patientId: string;
let visitId: string;
let family: string;

beforeAll(async () => {
  clinic = await RunningClinic.start({ sensor: false, claims: true });
  const mara = await Asking.as(clinic, 'mara', password);
  ({ patientId, visitId, family } = await mara.teethVisit('QS-1060'));
  for (const name of ['first', 'second']) {
    const url = `/api/visits/${visitId}/files?name=${name}.png`;
    const { said } = await mara.send('POST', url, new Uint8Array(await letteredPng()));
    await mara.send('POST', `/api/pictures/${String(said.pictureId)}/no-lettering`, {});
  }
  browser = await Browser.open(clinic.origin);
  await browser.resize(1280, 800);
  await browser.signIn('mara', password);
});
afterAll(async () => {
  await browser?.close();
  await clinic?.stop();
});

const write = async (field: string, words: string) =>
  (await browser.find(`[data-testid=${field}]`)).sendKeys(words);
async function choose(select: string, words: RegExp): Promise<void> {
  await browser.click(`[data-testid=${select}]`);
  await browser.find(`[data-testid=${select}-option]`);
  for (const option of await browser.all(`[data-testid=${select}-option]`))
    if (words.test(await option.getText())) return option.click();
  throw new Error(`no ${words} in ${select}`);
}
const stateOf = async (number: number) =>
  (await clinic.rows<{ state: string }>('select state from teaching_case where number = $1', [number]))[0]
    ?.state;

describe('a teaching case', () => {
  it('is made of picked pictures, with no name in its words, and is looked at before it tells what was found', async () => {
    await browser.go(`/patients/${patientId}`);
    await browser.untilLive();
    await browser.find('[data-testid=chart-picture]');
    await browser.run(`document.querySelector('[data-testid=chart-picture]').focus()`);
    await browser.press(' ', Key.ARROW_RIGHT, ' ');
    await browser.untilSays('[data-testid=picked-count]', '2 pictures');
    await browser.click('[data-testid=send-picked]');
    await browser.click('[data-testid=make-case]');
    await write('case-title', `What ${family} had`);
    await write('case-description', 'A round grey thing.');
    await write('case-key-words', 'round, grey');
    await write('case-findings', 'It is a disc.');
    expect(await browser.violations()).toEqual([]);
    await browser.click('[data-testid=keep-case]');
    await browser.untilSays('[data-testid=name-found]', `“${family.toLowerCase()}” in the title`);
    const title = await browser.find('[data-testid=case-title]');
    await title.sendKeys(Key.chord(Key.CONTROL, 'a'), 'A round thing');
    await browser.click('[data-testid=keep-case]');
    await browser.until('it is packed', async () => (await stateOf(1)) === 'ready');
    await browser.find('[data-testid=case-picture]');
    expect(await browser.text('main')).not.toContain('It is a disc.');
    await browser.press('f');
    await browser.untilSays('[data-testid=case-found]', 'It is a disc.');
    const first = await (await browser.find('[data-testid=case-picture]')).getAttribute('data-file');
    await browser.press(Key.ARROW_DOWN);
    await browser.until(
      'the second picture is seen',
      async () =>
        (await (await browser.find('[data-testid=case-picture]')).getAttribute('data-file')) !== first
    );
    expect(await browser.violations()).toEqual([]);
  });

  it('hides its title from who wants to look first, is found on the shelf, reordered, and taken off', async () => {
    await browser.go('/shelf');
    await browser.untilLive();
    expect(await browser.text('[data-testid=contents-row]')).toContain('A round thing');
    await browser.click('[data-testid=look-first]');
    await browser.until(
      'titles are hidden',
      async () => !(await browser.text('main')).includes('A round thing')
    );
    expect(await browser.violations()).toEqual([]);
    await browser.click('[data-testid=spine]');
    await browser.untilSays('[data-testid=case-heading]', 'What do you see?');
    await browser.click('[data-testid=show-found]');
    await browser.untilSays('[data-testid=case-heading]', 'A round thing');
    await browser.click('[data-testid=edit-case]');
    await browser.run(`document.querySelectorAll('[data-testid=case-order] [role=checkbox]')[1].click()`);
    expect(await browser.violations()).toEqual([]);
    await browser.click('[data-testid=keep-case-change]');
    await browser.until(
      'one is left out',
      async () => (await browser.all('[data-testid=case-entry]')).length === 0
    );
    await browser.go('/shelf?words=nothing%20like%20it');
    await browser.untilSays('main', 'No case is found by that.');
    await browser.go('/shelf');
    await browser.untilLive();
    await browser.click('[data-testid=spine]');
    await browser.click('[data-testid=drop-case]');
    await browser.click('[data-testid=drop-case-go]');
    await browser.untilSays('main', 'The shelf is empty.');
  });
});

it('a claims office is told of each picture, and its tracking number stands at File and is found in Dispatch', async () => {
  await browser.go(`/visits/${visitId}/file`);
  await browser.untilLive();
  await choose('destination', /Mutual of the Isles/);
  await browser.untilCount('[data-testid=claim]', 2);
  await choose('claim-kind', /Ultrasound/);
  await browser.click('[data-testid=claim-left-left]');
  await write('claim-remark', 'Before the crown');
  expect(await browser.violations()).toEqual([]);
  await browser.click('[data-testid=send]');
  await browser.until(
    'both are there',
    async () => (await browser.all('[data-testid=delivery][data-state=delivered]')).length === 2
  );
  const tracked = await clinic.rows<{
    tracking: string;
    told: { leftIsAt: string; kind: string; remark: string };
  }>(
    `select d.tracking, i.told from delivery d join parcel_item i using (parcel_id, picture_id)
     where d.tracking <> '' order by i.position`
  );
  expect(tracked.map(({ told }) => [told.kind, told.leftIsAt, told.remark])).toEqual([
    ['ultrasound', 'left', 'Before the crown'],
    ['photograph', 'right', '']
  ]);
  const said = await browser.text('main');
  for (const { tracking } of tracked) expect(said).toContain(tracking);
  await browser.go('/dispatch');
  await browser.untilLive();
  await write('find-parcel', tracked[1].tracking);
  await browser.untilSays('[data-testid=parcel-tracking]', tracked[1].tracking);
  expect(await browser.violations()).toEqual([]);
});
