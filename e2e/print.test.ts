import { execFileSync } from 'node:child_process';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { Key } from 'selenium-webdriver';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { password } from '../demo/clinic';
import { past } from '../demo/past';
import { Asking } from './harness/asking';
import { Browser } from './harness/browser';
import { downloadedTo } from './harness/downloads';
import { picturesOnPaper } from './harness/pdf';
import { RunningClinic } from './harness/running';

// Pictures on paper: as large as they are, many on a sheet, as they lie on the tray.
let clinic: RunningClinic;
let browser: Browser;
let visitId = '';
/** A picture of it, and the page that prints it alone: a sheet of one is made in a moment. */
let [first, ofOne] = ['', ''];
const downloads = fs.mkdtempSync(path.join(os.tmpdir(), 'yonder-prints-'));

beforeAll(async () => {
  clinic = await RunningClinic.start({ past: past.slice(0, 1), sensor: false, film: true });
  [{ visit_id: visitId }] = await clinic.rows<{ visit_id: string }>(
    'select visit_id from picture order by taken_at desc limit 1'
  );
  [{ picture_id: first }] = await clinic.rows<{ picture_id: string }>(
    `select picture_id from standing where visit_id = '${visitId}' and keeper order by picture_id limit 1`
  );
  ofOne = `/visits/${visitId}/print?picture=${first}`;
  browser = await Browser.open(clinic.origin);
  await browser.driver.setDownloadPath(downloads);
  await browser.signIn('orsin', password);
});
afterAll(async () => {
  await browser?.close();
  await clinic?.stop();
  fs.rmSync(downloads, { recursive: true, force: true });
});

const words = () =>
  browser.run<string>(
    `return [...document.querySelectorAll('[data-testid=sheet] p')].map((each) => each.textContent).join(' ').replace(/\\s+/g, ' ')`
  );
const untilWords = (asked: string) =>
  browser.until(`a sheet says ${asked}`, async () => (await words()).includes(asked));
/** The newest file that came, once all of it is there. */
async function downloaded(): Promise<string> {
  await browser.click('[data-testid=paper-download]');
  await browser.click('[data-testid=share-accept]');
  return downloadedTo(downloads, browser);
}

describe('pictures on paper', () => {
  it('are had from the picture on the table, as large as they are, with a ruler and what is not sure', async () => {
    await browser.go(`/visits/${visitId}/check`);
    await browser.untilLive();
    await browser.click('[data-testid=take-out]');
    await browser.click('[data-testid=out-print]');
    await untilWords('100 mm, across and upright: measure them');
    await untilWords('100 mm on it are 100 ±');
    const told = /(\d+) × (\d+) mm, ± [\d.]+ %/.exec(
      await browser.text('[data-testid=print-pictures] li:has([data-state=checked])')
    )!;
    const [image] = picturesOnPaper(await downloaded());
    // Whole dots an inch and whole millimetres are told.
    expect(Math.abs(image.widthMm - Number(told[1]))).toBeLessThan(0.8);
    expect(Math.abs(image.heightMm - Number(told[2]))).toBeLessThan(0.8);
    expect(await browser.violations()).toEqual([]);
  });

  it('come out so much larger on a printer that was measured', async () => {
    const before = picturesOnPaper(await downloaded())[0];
    await browser.click('[data-testid=measure-printer]');
    const type = async (field: string, value: string) =>
      (await browser.find(`[data-testid=${field}]`)).sendKeys(Key.chord(Key.CONTROL, 'a'), value);
    await type('printer-name', 'Front desk');
    await type('printer-across', '80');
    await type('printer-down', '100,4');
    await browser.press(Key.ENTER);
    await browser.untilSays('[data-sonner-toaster]', 'can’t come out shorter than 90');
    await type('printer-across', '95');
    await browser.press(Key.ENTER);
    await untilWords('as measured on Front desk');
    const after = picturesOnPaper(await downloaded())[0];
    expect(after.widthMm / before.widthMm).toBeCloseTo(100 / 95, 1);
    expect(after.widthMm).toBeGreaterThan(before.widthMm * 1.03);
    expect(after.heightMm).toBeLessThan(before.heightMm * 1.01);
  });

  it('lie on one sheet as on the tray, and in rows of a number; none chosen is said', async () => {
    await browser.go(`/visits/${visitId}/print`);
    await browser.untilLive();
    await browser.click('[data-testid=print-way-tray]');
    const count = (
      await clinic.rows<{ count: number }>(
        `select count(*)::int as count from standing where visit_id = '${visitId}'`
      )
    )[0].count;
    await browser.untilCount('[data-testid=sheet]', 1);
    expect(picturesOnPaper(await downloaded())).toHaveLength(count);
    await browser.click('[data-testid=print-way-grid]');
    await browser.click('[data-testid=print-across]');
    await browser.press('1');
    await browser.press(Key.ENTER);
    await browser.untilCount('[data-testid=sheet]', Math.ceil(count / 3));
    for (const tick of await browser.all('[data-testid=print-picture]')) await tick.sendKeys(Key.SPACE);
    await untilSaid('Choose at least one picture.');
    expect(await browser.violations()).toEqual([]);
  });
  const untilSaid = (asked: string) =>
    browser.until(asked, async () =>
      (await browser.run<string>('return document.body.innerText')).includes(asked)
    );

  it('are told of for a claim: their kind and day, whose left is where, and the patient by name', async () => {
    await browser.go(ofOne);
    await browser.untilLive();
    await browser.click('[data-testid=print-way-claim]');
    await untilWords('X-ray of teeth, taken');
    const right = /patient’s right patient’s left 1\. /;
    await browser.until('the patient is faced', async () => right.test(await words()));
    expect(await words()).not.toContain('Tracking number');
    await browser.click('[data-testid=print-tell]');
    await browser.click('[data-testid=claim-left-left]');
    await (await browser.find('[data-testid=claim-remark]')).sendKeys('Turned at the scanner');
    await browser.press(Key.ESCAPE);
    await untilWords('Turned at the scanner');
    expect(await words()).toMatch(/patient’s left patient’s right 1\. /);
    const [{ name }] = await clinic.rows<{ name: string }>(
      `select trim(given_name || ' ' || family_name) as name from patient p join visit v using (patient_id)
       where v.visit_id = '${visitId}'`
    );
    expect(await words()).toContain(name);
    expect(await browser.violations()).toEqual([]);
    // A tracking number stands under the picture that an office has.
    await clinic.rows(
      `with office as (
         insert into destination (destination_id, clinic_id, name, kind, url) select gen_random_uuid(), clinic_id, 'Isles Mutual', 'claims', ''
         from picture where picture_id = $1 returning destination_id, clinic_id),
       sent as (
         insert into parcel (parcel_id, clinic_id, visit_id, destination_id, identity, made_by, key, state)
         select gen_random_uuid(), o.clinic_id, p.visit_id, o.destination_id, 'identified', u.user_id, 'claim test', 'open'
         from office o join picture p on p.picture_id = $1 join user_account u on u.sign_in_name = 'orsin' returning parcel_id, clinic_id),
       held as (
         insert into parcel_item (clinic_id, parcel_id, picture_id, position, told)
         select clinic_id, parcel_id, $1, 1, '{"kind":"wide","taken":"2026-01-02","leftIsAt":"right","remark":""}' from sent)
       insert into delivery (delivery_id, clinic_id, parcel_id, picture_id, state, delivered_at, tracking)
         select gen_random_uuid(), clinic_id, parcel_id, $1, 'delivered', now(), 'AT-7' from sent`,
      [first]
    );
    await browser.go(ofOne);
    await browser.untilLive();
    await browser.click('[data-testid=print-way-claim]');
    await untilWords('Tracking number AT-7 (Isles Mutual)');
    await untilWords('Panoramic or skull x-ray, taken 2 Jan 2026');
  });

  it('stand under a head of one’s own, which is kept as a layout and stays chosen', async () => {
    await browser.go(ofOne);
    await browser.untilLive();
    await browser.click('[data-testid=print-way-grid]');
    await browser.click('[data-testid=edit-layout]');
    await (await browser.find('[data-testid=layout-name]')).sendKeys('Harbour sheets');
    await browser.click('[data-testid=layout-add]');
    await browser.click('[data-testid=layout-add-words]');
    await (await browser.find('[data-testid=layout-words]')).sendKeys('Pictures for the harbour bench');
    const type = async (field: string, value: string) =>
      (await browser.find(`[data-testid=${field}]`)).sendKeys(Key.chord(Key.CONTROL, 'a'), value, Key.TAB);
    await type('layout-left', '60');
    await type('layout-top', '12');
    await type('layout-width', '90');
    await type('layout-pt', '14');
    await browser.click('[data-testid=layout-bold]');
    await untilWords('Pictures for the harbour bench');
    expect(await browser.violations()).toEqual([]);
    await browser.click('[data-testid=layout-keep]');
    await browser.untilSays('[data-testid=print-layout]', 'Harbour sheets');
    await browser.go(ofOne);
    await browser.untilLive();
    await browser.untilSays('[data-testid=print-layout]', 'Harbour sheets');
    await untilWords('Pictures for the harbour bench');
    const file = await downloaded();
    const [, left, top] = /xMin="([\d.]+)" yMin="([\d.]+)"[^>]*>Pictures</.exec(
      execFileSync('pdftotext', ['-bbox', file, '-']).toString()
    )!;
    // The printer that was measured is still the one, and it prints short across: 60 mm are asked for as so much less.
    expect(Math.abs((Number(left) / 72) * 25.4 - (105 - (45 * 100) / 95))).toBeLessThan(0.5);
    expect(Math.abs((Number(top) / 72) * 25.4 - 12)).toBeLessThan(2);
    await browser.click('[data-testid=edit-layout]');
    await browser.click('[data-testid=layout-drop]');
    await browser.untilSays('[data-testid=print-layout]', 'As usual');
    await browser.until('its words are gone', async () => !(await words()).includes('harbour bench'));
  });

  it('go onto film: looked at before, told of, printed, and followed in Dispatch', async () => {
    await browser.go(ofOne);
    await browser.untilLive();
    await browser.click('[data-testid=print-onto-film]');
    await browser.click('[data-testid=print-way-grid]');
    await browser.until('films are made', async () =>
      /^\d+ films?, as/.test(await browser.text('[data-testid=paper-state]'))
    );
    await browser.choose('film-size', 'A4');
    await browser.choose('film-copies', '2');
    await browser.until('one film is made', async () =>
      (await browser.text('[data-testid=paper-state]')).startsWith('1 film, as')
    );
    expect(await browser.violations()).toEqual([]);
    await browser.click('[data-testid=film-print]');
    await browser.untilSays(
      '[data-testid=film-warning]',
      '1 film, 2 times each, to Film printer, back office.'
    );
    await browser.click('[data-testid=film-accept]');
    await browser.untilSays('[data-sonner-toaster]', '1 film is on the way');
    await browser.go('/dispatch?show=all');
    await browser.untilSays('[data-testid=parcel-state]', 'there');
    await browser.click('[data-testid=open-parcel]');
    await browser.untilSays('[data-testid=parcel-dialog]', 'film 1 of 1');
    const lying = fs.readdirSync(clinic.films).filter((name) => name.endsWith('.png'));
    expect(lying).toHaveLength(2);
    const film = await sharp(path.join(clinic.films, lying[0])).metadata();
    expect([film.width, film.height]).toEqual([840, 1188]);
  });

  it('are refused true to scale in words where one has no scale, and none that is gone is printed', async () => {
    const asking = await Asking.as(clinic, 'orsin', password);
    const ids = await clinic.rows<{ picture_id: string }>(
      `select picture_id from picture where visit_id = '${visitId}' order by number`
    );
    const wish = {
      pictureIds: ids.map(({ picture_id: id }) => id),
      way: 'true',
      across: 2,
      down: 2,
      paper: 'A5',
      lying: false,
      names: 'initials',
      captions: true,
      drawn: false,
      inkSaving: true,
      printerId: null
    };
    const ask = (more: object) => asking.send('POST', `/api/visits/${visitId}/print`, { ...wish, ...more });
    expect((await ask({})).status).toBe(200);
    const gone = await ask({ pictureIds: [crypto.randomUUID()] });
    expect([gone.status, gone.text]).toEqual([409, expect.stringContaining('None of these pictures')]);
    expect((await ask({ pictureIds: [] })).text).toContain('Choose at least one picture.');
    expect((await ask({ printerId: crypto.randomUUID() })).status).toBe(404);
    await clinic.rows(`update picture set facts = facts - 'imagerPixelSpacing' where picture_id = $1`, [
      wish.pictureIds[0]
    ]);
    const without = await ask({});
    expect(without.status).toBe(409);
    expect(without.text).toMatch(/has no scale, so nobody knows how large it is/);
    expect(without.text).toContain('Set the scale at Scale first');
  });
});
