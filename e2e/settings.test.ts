import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { By, Key } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { password, timeZone } from '../demo/clinic';
import { settingsParts } from '../src/lib/ui/settings/parts';
import { Browser } from './harness/browser';
import { RunningClinic } from './harness/running';

// The clinic's settings: one place, found by words, changed, taken back; and who comes in at all.
let clinic: RunningClinic;
let wren: Browser;
const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'yonder-settings-'));

beforeAll(async () => {
  clinic = await RunningClinic.start({ past: [], sensor: false });
  wren = await Browser.open(clinic.origin);
  await wren.signIn('wren', password);
});
afterAll(async () => {
  await wren?.close();
  await clinic?.stop();
  fs.rmSync(folder, { recursive: true, force: true });
});
const open = async (where: string) => {
  await wren.go(where);
  await wren.untilLive();
};
const write = async (css: string, text: string) => (await wren.find(css)).sendKeys(text);

describe('the settings', () => {
  it('are each reached and gone through by keys alone, with no axe violation', async () => {
    const own = settingsParts.filter(({ href }) => !href);
    for (const { key, words } of own) {
      await open('/settings');
      await write('[data-testid=settings-search]', words);
      await wren.press(Key.ENTER);
      await wren.untilCount(`[data-testid=part-${key}][aria-current=page]`, 1);
      expect(await wren.violations(), words).toEqual([]);
      // From the search by Tab into the part itself, and through all that is in it.
      await wren.run(
        `for (const each of document.querySelectorAll('[role=region] :is(a[href], button, input, textarea)'))
           if (!each.disabled && each.offsetParent !== null && each.tabIndex >= 0 && each.type !== 'hidden' && !(each.type === 'radio' && !each.checked))
             each.dataset.unreached = (each.getAttribute('aria-label') ?? (each.textContent.trim() || each.name || each.type)).slice(0, 40)`
      );
      for (let i = 0, out = false; i < 150 && !out; i++) {
        await wren.press(Key.TAB);
        out = await wren.run<boolean>(
          `delete document.activeElement.dataset.unreached; return document.activeElement === document.body`
        );
      }
      expect(
        await wren.run(
          `return [...document.querySelectorAll('[data-unreached]')].map((each) => each.dataset.unreached)`
        ),
        words
      ).toEqual([]);
    }
  });

  it('are found by what they hold; nothing found is said', async () => {
    await open('/settings');
    await write('[data-testid=settings-search]', 'logo');
    await wren.untilCount('nav[aria-label=Settings] a', 1);
    await wren.press(Key.ENTER);
    await wren.untilCount('[data-testid=paper-head]', 1);
    const search = await wren.find('[data-testid=settings-search]');
    await search.sendKeys(Key.chord(Key.CONTROL, 'a'), 'quince');
    await wren.untilSays('nav[aria-label=Settings]', 'Nothing is called so.');
  });

  it('keep a logo, refuse one of 40 MB in words, and have the address taken back with one press', async () => {
    await open('/settings/papers');
    const before = await (await wren.find('[data-testid=head-address]')).getAttribute('value');
    const area = await wren.find('[data-testid=head-address]');
    await area.sendKeys(Key.chord(Key.CONTROL, 'a'), 'Another quay', Key.TAB);
    await wren.untilSays('[data-testid=head-shown]', 'Another quay');
    const svg = path.join(folder, 'logo.svg');
    fs.writeFileSync(
      svg,
      '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><script>1</script><circle cx="4" cy="4" r="4"/></svg>'
    );
    await write('[data-testid=logo-file]', svg);
    await wren.until(
      'it is kept',
      async () =>
        (
          await clinic.rows<{ at: number }>(
            'select length(logo) as at from letterhead where logo is not null'
          )
        ).length === 1
    );
    const large = path.join(folder, 'large.png');
    fs.writeFileSync(large, Buffer.alloc(40_000_000, 1));
    await write('[data-testid=logo-file]', large);
    await wren.untilSays('[data-sonner-toast]', '40 MB; at most 8');
    await open('/settings/changes');
    const address = By.xpath(`//*[@data-testid='setting-change'][contains(., 'the address')]//button`);
    await (await wren.driver.findElement(address)).click();
    await wren.untilSays('[data-testid=setting-changes]', 'taken back');
    await open('/settings/papers');
    expect(await (await wren.find('[data-testid=head-address]')).getAttribute('value')).toBe(before);
  });
});

describe('dates and numbers', () => {
  it('are written in another language on every screen, and as before when that is taken back', async () => {
    const dateOfToday = () => wren.text('[data-testid=written]');
    await open('/settings/clinic');
    expect(await dateOfToday()).toContain('12.4 ± 0.3 mm');
    await wren.choose('language', 'Deutsch');
    await wren.untilSays('[data-testid=written]', '12,4 ± 0,3 mm');
    await wren.click('form button.main');
    await wren.untilSays('form [role=status]', 'Saved');
    await open('/settings/changes');
    const inGerman = new Intl.DateTimeFormat('de', {
      day: 'numeric',
      month: 'short',
      year: 'numeric',
      timeZone
    });
    await wren.untilSays('[data-testid=setting-changes]', inGerman.format(new Date()));
    await wren.untilSays('[data-testid=setting-change]', 'what dates and numbers are written in');
    await wren.click('[data-testid=setting-change] button');
    await wren.until(
      'it is as before',
      async () => (await clinic.rows(`select 1 from clinic where language <> 'en-GB'`)).length === 0
    );
    await open('/settings/clinic');
    expect(await dateOfToday()).toContain('12.4 ± 0.3 mm');
  });
});

describe('looks', () => {
  it('are seen as greys, called otherwise, dropped, and brought back', async () => {
    const [{ clinic_id, user_id }] = await clinic.rows<{ clinic_id: string; user_id: string }>(
      `select clinic_id, user_id from user_account where sign_in_name = 'orsin'`
    );
    const body = { version: 1, look: { from: 0.1, to: 0.6, steps: [{ kind: 'invert' }] } };
    await clinic.rows(
      'insert into own_look (clinic_id, look_id, name, body, made_by) values ($1, gen_random_uuid(), $2, $3, $4) returning 1',
      [clinic_id, 'Apex', body, user_id]
    );
    // The clinician is who keeps looks.
    const orsin = await Browser.open(clinic.origin);
    try {
      await orsin.signIn('orsin', password);
      await orsin.go('/settings/looks');
      await orsin.untilLive();
      await orsin.untilSays('[data-testid=look]', 'window 10 to 60 %, invert');
      await orsin.click('[data-testid=rename-look]');
      const name = await orsin.find('[data-testid=look-name]');
      await name.sendKeys(Key.chord(Key.CONTROL, 'a'), 'Root tips', Key.ENTER);
      await orsin.untilSays('[data-testid=look]', 'Root tips');
      expect(await orsin.violations()).toEqual([]);
      await orsin.click('[data-testid=drop-look]');
      await orsin.untilSays('[data-testid=looks]', 'None yet');
    } finally {
      await orsin.close();
    }
    await open('/settings/changes');
    await wren.untilSays('[data-testid=setting-change]', 'Root tips');
    await wren.click('[data-testid=setting-change] button');
    await wren.until('it is back', async () => (await clinic.rows('select 1 from own_look')).length === 1);
    await open('/settings/looks');
    await wren.untilSays('[data-testid=look]', 'Root tips');
  });
});

describe('people', () => {
  it('are invited by a link, come in by it, are kept out at once, and change their own password', async () => {
    await open('/settings/people');
    await wren.click('[data-testid=invite]');
    await write('[data-testid=staff-name]', 'Tova Lind');
    await write('[data-testid=staff-sign-in]', 'tova');
    await wren.choose('staff-role', 'Clinician');
    await wren.click('[data-testid=staff-keep]');
    const link = await wren.text('[data-testid=invite-link]');
    expect(await wren.violations()).toEqual([]);
    await wren.press(Key.ESCAPE);
    const tova = await Browser.open(clinic.origin);
    try {
      await tova.driver.get(link);
      await (await tova.find('[data-testid=new-password]')).sendKeys('short', Key.ENTER);
      await tova.untilSays('main', 'at least 10 letters');
      expect(await tova.violations()).toEqual([]);
      await (await tova.find('[data-testid=new-password]')).sendKeys(' is not enough', Key.ENTER);
      await tova.until('she can sign in', async () => /sign-in/.test(await tova.driver.getCurrentUrl()));
      await tova.driver.get(link);
      await tova.untilSays('body', 'This link is not good any more');
      await tova.signIn('tova', 'short is not enough');
      await tova.go('/settings/people');
      await tova.untilLive();
      await (await tova.find('[data-testid=password-before]')).sendKeys('short is not enough');
      await (await tova.find('[data-testid=password-after]')).sendKeys('lanterns on the quay');
      await tova.click('[data-testid=password-keep]');
      await tova.untilSays('[data-sonner-toast]', 'your password from now on');
      await open('/settings/people');
      const menu = By.xpath(
        `//*[@data-testid='staff'][contains(., 'Tova Lind')]//*[@data-testid='staff-menu']`
      );
      await (await wren.driver.findElement(menu)).click();
      await wren.click('[data-testid=staff-disable]');
      await wren.untilSays('[data-testid=people]', 'kept out');
      await tova.until('she is out', async () => {
        await tova.driver.get(`${clinic.origin}/dispatch`);
        return /sign-in/.test(await tova.driver.getCurrentUrl());
      });
    } finally {
      await tova.close();
    }
  });
});
