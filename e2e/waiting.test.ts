import { afterAll, beforeAll, beforeEach, expect, it } from 'vitest';
import { password } from '../demo/clinic';
import { past } from '../demo/past';
import { Asking } from './harness/asking';
import { Browser } from './harness/browser';
import { RunningClinic } from './harness/running';

/** Longer than the mark of what waits in Arrivals rests. */
const slowMs = 6_000;
let clinic: RunningClinic;
let browser: Browser;
let visitId = '';
let pictureId = '';

beforeAll(async () => {
  clinic = await RunningClinic.start({ past: past.slice(0, 1), sensor: false });
  browser = await Browser.open(clinic.origin);
  [{ visit_id: visitId, picture_id: pictureId }] = await clinic.rows<{
    visit_id: string;
    picture_id: string;
  }>(`select visit_id, picture_id from picture order by taken_at desc, number limit 1`);
  await browser.signIn('orsin', password);
});
afterAll(async () => {
  await browser?.close();
  await clinic?.stop();
});
beforeEach(async () => {
  await browser.block();
  await onTable();
  await browser.untilKept();
});

async function onTable(): Promise<void> {
  await browser.go(`/visits/${visitId}/check?picture=${pictureId}`);
  await browser.untilLive();
  await browser.find(`[data-testid=stage][data-picture="${pictureId}"]`);
}

const look = () => browser.text('[data-testid=look-words]');
const says = (words: RegExp) =>
  browser.until(`the note says ${words}`, async () => {
    const [shown] = await browser.all('[data-testid=waiting]');
    return shown !== undefined && words.test(await shown.getText());
  });
const quiet = () => browser.untilCount('[data-testid=waiting]', 0);
const steps = async () =>
  Number((await clinic.rows<{ count: string }>('select count(*) from picture_step'))[0].count);
const acts = '*/acts';

it('a change made without a network is shown, waits over a reload, and is kept once', async () => {
  const [before, was] = [await steps(), await look()];
  await browser.block(acts);
  await browser.click('[data-testid=invert]');
  await says(/1 change waits until Yonder Tray answers. They are kept on this machine/);
  expect(await look()).not.toBe(was);
  await browser.click('[data-testid=turn-left]');
  await says(/2 changes wait/);
  await onTable();
  await says(/2 changes wait/);
  expect(await look()).toContain('inverted');
  expect(await steps()).toBe(before);
  await browser.block();
  await browser.untilKept();
  await quiet();
  expect(await steps()).toBe(before + 2);
  expect(await look()).toContain('inverted');
  await onTable();
  expect(await look()).toContain('inverted');
});

it('an answer that is lost on its way leaves one change, not two', async () => {
  const before = await steps();
  // The server hears it and the page does not: what is offered again has the same key.
  await browser.run(`
    const real = window.fetch;
    let lost = 2;
    window.fetch = async (url, options) => {
      const answer = await real(url, options);
      if (String(url).endsWith('/acts') && lost-- > 0) throw new TypeError('lost');
      return answer;
    };`);
  await browser.click('[data-testid=invert]');
  await says(/1 change waits/);
  await browser.untilKept();
  expect(await steps()).toBe(before + 1);
});

it('what one person made waits through a sign-out, and never goes in another’s name', async () => {
  const before = await steps();
  await browser.block(acts);
  await browser.click('[data-testid=mirror]');
  await says(/1 change waits/);
  await browser.signOut();
  await browser.block();
  await browser.until('the sign-in page says that something waits', async () =>
    (await browser.run<string>('return document.body.innerText')).includes(
      '1 change made on this machine waits'
    )
  );
  await browser.signIn('mara', password);
  await onTable();
  expect(await steps()).toBe(before);
  await browser.signOut();
  await browser.signIn('orsin', password);
  await browser.untilKept();
  const [row] = await clinic.rows<{ name: string }>(
    `select u.display_name as name from picture_step s join user_account u on u.user_id = s.made_by order by s.made_at desc limit 1`
  );
  expect([await steps(), row.name]).toEqual([before + 1, 'Orsin Vael']);
});

it('when the session is over the note says so, and signing in again sends what waited', async () => {
  const before = await steps();
  await clinic.rows('delete from user_session');
  await browser.click('[data-testid=turn-right]');
  await says(/1 change waits until you sign in again/);
  await browser.click('[data-testid=waiting] a');
  await (await browser.find('input[name=name]')).sendKeys('orsin');
  await (await browser.find('input[name=password]')).sendKeys(password);
  await browser.untilLive();
  await browser.click('form button.main');
  await browser.untilKept();
  expect(await steps()).toBe(before + 1);
  await browser.find(`[data-testid=stage][data-picture="${pictureId}"]`);
});

it('a change that the server can never take is shown as such and stays until it is put away', async () => {
  const before = await steps();
  await browser.block(acts);
  await browser.click('[data-testid=invert]');
  await says(/1 change waits/);
  const was = await look();
  await clinic.rows(`update user_account set role = 'front-desk' where sign_in_name = 'orsin'`);
  await browser.block();
  await says(/1 change could not be kept/);
  expect(await look()).not.toBe(was);
  await onTable();
  await says(/1 change could not be kept/);
  await browser.click('[data-testid=waiting] button');
  expect(await browser.text('[data-testid=waiting-change]')).toMatch(
    /Look[^]*To change pictures takes the role assistant or clinician/
  );
  await browser.click('[data-testid=waiting-change] button:last-of-type');
  await browser.untilCount('[data-testid=waiting-change]', 0);
  await browser.click('[aria-label=Close]');
  await quiet();
  await clinic.rows(`update user_account set role = 'clinician' where sign_in_name = 'orsin'`);
  expect(await steps()).toBe(before);
});

it('the stations of a visit can be gone through while nothing answers', async () => {
  await browser.block('*/api/*', '*__data.json*', '*/levels/*', '*.js', '*.css');
  for (const [station, there] of [
    ['measure', 'tool-length'],
    ['scale', 'scale-words'],
    ['file', 'send'],
    ['acquire', 'bench'],
    ['check', 'tool-window']
  ]) {
    await browser.click(`[data-testid=station-${station}]`);
    await browser.find(`[data-testid=${there}]`);
  }
});

it('confirming without a network is shown at once and kept when it is back', async () => {
  const left = () => browser.text('[data-testid=station-check]');
  const before = await left();
  await browser.block('*/api/trays/*');
  await browser.click('[data-testid=confirm]');
  await says(/1 change waits/);
  const after = await left();
  expect(after).not.toBe(before);
  await browser.block();
  await browser.untilKept();
  expect(await left()).toBe(after);
  await quiet();
});

it('small pictures that the network lost come by themselves once it is back', async () => {
  const come = () =>
    browser.run<string[]>(
      `return [...document.querySelectorAll('[data-testid=small]')].map((small) => small.dataset.come)`
    );
  await browser.block('*/preview*');
  await browser.go(`/visits/${visitId}/story`);
  await browser.untilLive();
  await browser.find('[data-testid=small]');
  // It was tried again by now, in vain.
  await new Promise((done) => setTimeout(done, 1500));
  const before = await come();
  expect(before.length).toBeGreaterThan(2);
  expect(before.every((each) => each === 'no')).toBe(true);
  await browser.block();
  await browser.untilSmallPictures();
  expect((await come()).every((each) => each === 'yes')).toBe(true);
});

it('a station and at once a picture are pressed: that picture lies there; two presses of a key lead on by two', async () => {
  const inHand = () => browser.run<string>('return location.pathname + location.search');
  const [first, , third] = await browser.run<string[]>(
    `return [...document.querySelectorAll('[data-testid=table-picture]')].map(({ dataset }) => dataset.picture)`
  );
  await browser.run(
    `document.querySelector('[data-testid=station-measure]').click();
     document.querySelector('[data-testid=table-picture][data-picture="${third}"]').click();`
  );
  await browser.find(`[data-testid=stage][data-picture="${third}"]`);
  expect(await inHand()).toBe(`/visits/${visitId}/measure?picture=${third}`);
  await browser.run(
    `for (const key of ['PageUp', 'PageUp']) document.body.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true }))`
  );
  await browser.find(`[data-testid=stage][data-picture="${first}"]`);
  // Back leads to the station that it came from.
  await browser.driver.navigate().back();
  await browser.until('Check is shown again', async () => (await inHand()).includes('/check?'));
});

it('what comes in meanwhile gives up nobody’s way to another page', async () => {
  const mara = await Asking.as(clinic, 'mara', password);
  const patient = await browser.run<string>(
    `return document.querySelector('a[href^="/patients/"]').pathname`
  );
  await browser.answerAfter(slowMs);
  await mara.send('POST', '/api/intakes', { name: 'A disc', said: 1 });
  await browser.run(`document.querySelector('a[href^="/patients/"]').click()`);
  await browser.until('the chart is shown', async () =>
    (await browser.run<string>('return location.pathname')).startsWith(patient)
  );
  await browser.answerAfter(0);
});
