import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { password } from '../demo/clinic';
import { Browser } from './harness/browser';
import { RunningClinic } from './harness/running';

let clinic: RunningClinic;
let browser: Browser;

beforeAll(async () => {
  clinic = await RunningClinic.start({ sensor: false, practice: true });
  browser = await Browser.open(clinic.origin);
  await browser.signIn('dell', password);
});
afterAll(async () => {
  await browser?.close();
  await clinic?.stop();
});

const says = (css: string, words: string) => browser.untilSays(css, words);
const put = (path: string, body: object) =>
  fetch(`${clinic.practice}/${path}`, { method: 'PUT', body: JSON.stringify(body) });

describe('the practice system', () => {
  it('feeds Today while it is looked at, and says of when its list is while it is away', async () => {
    await says('[data-testid=practice]', 'From Harbour desk');
    const start = new Date();
    await put('Patient/new-1', {
      identifier: [{ system: 'urn:quill-sound:records', value: 'QS-2001' }],
      name: [{ use: 'official', family: 'Ravnsborg', given: ['Petra'] }],
      gender: 'female',
      birthDate: '1979-02-11'
    });
    const appointment = {
      status: 'booked',
      start: start.toISOString(),
      minutesDuration: 30,
      reasonCode: [{ text: 'Fell on the quay' }],
      participant: [
        { actor: { reference: 'Patient/new-1' } },
        { actor: { reference: 'Location/Bones', display: 'Bones' } }
      ]
    };
    await put('Appointment/new', appointment);
    await browser.find('[data-record=QS-2001]');
    await put('Appointment/new', { ...appointment, status: 'cancelled' });
    await browser.untilCount('[data-record=QS-2001]', 0);
    await put('faults', { away: true });
    await says('[data-testid=practice]', 'Harbour desk is away: this is its list of');
    await browser.find('[data-record=QS-1004]');
    await put('faults', { away: false });
    await says('[data-testid=practice]', 'From Harbour desk');
  });

  it('opens a chart by its link; in doubt nothing opens until the birth date is said', async () => {
    const link = (number: string, name: string, born: string) =>
      `/open?identifier=${encodeURIComponent(`urn:quill-sound:records|${number}`)}&name=${encodeURIComponent(name)}&birthdate=${born}`;
    await browser.go(link('QS-1004', 'Isolde Marrowby', '1987-03-14'));
    await says('body', 'Places with pictures');
    await browser.go(link('QS-1004', 'Isolde Marrowby', '1978-03-14'));
    await says('[data-testid=doubt]', 'another birth date');
    expect(await browser.text('main')).not.toContain('1987');
    await (await browser.find('[data-testid=born]')).sendKeys('14.3.1978');
    await browser.click('[data-testid=confirm-born]');
    await says('[role=alert]', 'Nobody with this number was born on that day');
    const field = await browser.find('[data-testid=born]');
    await field.clear();
    await field.sendKeys('14 Mar 1987');
    await browser.click('[data-testid=confirm-born]');
    await says('body', 'Places with pictures');
    await says('body', 'Isolde Marrowby');
  });

  it('leads somebody who has to sign in first to where the link led', async () => {
    await browser.signOut();
    await browser.go('/open?identifier=QS-1011');
    await (await browser.find('input[name=name]')).sendKeys('dell');
    await (await browser.find('input[name=password]')).sendKeys(password);
    await browser.click('form button.main');
    await says('body', 'Tobin Kestrelle');
  });
});
