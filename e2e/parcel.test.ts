import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { pathToFileURL } from 'node:url';
import { Key } from 'selenium-webdriver';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import yauzl from 'yauzl';
import { password } from '../demo/clinic';
import { Asking } from './harness/asking';
import { Browser, readingMs } from './harness/browser';
import { RunningClinic } from './harness/running';

let clinic: RunningClinic;
let browser: Browser;
let visitId: string;
const unpackedIn = fs.mkdtempSync(path.join(os.tmpdir(), 'yonder-package-'));

/** A view with a name in it, as a device that burns one in would write. */
async function written(letters: string): Promise<Buffer> {
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="640" height="420"><rect width="100%" height="100%" fill="#222"/><circle cx="380" cy="260" r="110" fill="#888"/><text x="24" y="52" font-family="sans-serif" font-size="30" fill="#fff">${letters}</text></svg>`;
  return sharp(Buffer.from(svg)).greyscale().png().toBuffer();
}
const parcel = (state: string) => `[data-testid=parcel][data-state=${state}]`;
async function openStation(station: string, query = ''): Promise<void> {
  await browser.go(`/visits/${visitId}/${station}${query}`);
  await browser.untilLive();
}

beforeAll(async () => {
  clinic = await RunningClinic.start({ sensor: false });
  const dell = await Asking.as(clinic, 'dell', password);
  const [{ patient_id: patientId, family_name: family, given_name: given }] = await clinic.rows<{
    patient_id: string;
    family_name: string;
    given_name: string;
  }>(
    `select patient_id, family_name, given_name from patient where kind = 'person' and length(family_name) > 6 limit 1`
  );
  const [{ room_id: roomId }] = await clinic.rows<{ room_id: string }>(
    `select room_id from room where name = 'Teeth' and clinic_id = (select clinic_id from user_account where sign_in_name = 'orsin')`
  );
  const mara = await Asking.as(clinic, 'mara', password);
  const opened = await mara.send('POST', '/api/visits', { patientId, roomId });
  visitId = String(opened.said.visitId);
  for (const [name, letters] of [
    ['named.png', `${family} ${given}`.toUpperCase()],
    ['plain.png', '']
  ])
    await dell.send(
      'POST',
      `/api/visits/${visitId}/files?name=${name}`,
      new Uint8Array(await written(letters))
    );
  browser = await Browser.open(clinic.origin);
  await browser.signIn('mara', password);
});
afterAll(async () => {
  await browser?.close();
  await clinic?.stop();
  fs.rmSync(unpackedIn, { recursive: true, force: true });
});

describe('what leaves', () => {
  it('has its writing found and read, and one that was not veiled stops the parcel with where it stands', async () => {
    await openStation('de-identify');
    // Somebody says that nothing stands in it, and did not look well.
    for (const which of [1, 2]) {
      await browser.click(`li:nth-of-type(${which}) [data-testid=leaving-picture]`);
      await browser.click('[data-testid=say-looked]');
      await browser.find('[data-testid=looked]');
    }
    await openStation('file', '?identity=deidentified');
    await browser.click('[data-testid=destination]');
    await browser.run(
      `[...document.querySelectorAll('[data-testid=destination-option]')].find((each) => /file for me/.test(each.textContent)).scrollIntoView()`
    );
    const options = await browser.all('[data-testid=destination-option]');
    await options.at(-1)!.click();
    await browser.click('[data-testid=send]');
    await browser.go('/dispatch');
    await browser.untilCount(parcel('stopped'), 1, readingMs);
    expect(await browser.text(parcel('stopped'))).toMatch(/something was found that must not leave/);
    await browser.click('[data-testid=open-parcel]');
    expect(await browser.text('[data-testid=found-names]')).toMatch(/in the picture itself, which reads/);
    expect(await browser.violations()).toEqual([]);
    await browser.press(Key.ESCAPE);
  });

  it('is veiled where writing was found, moved by keys, and then packed', async () => {
    await openStation('de-identify');
    await browser.click('li:nth-of-type(1) [data-testid=leaving-picture]');
    await browser.click('[data-testid=find-writing]');
    await browser.find('[data-testid=found-writing]');
    await browser.find('[data-testid=proposed-veil]');
    await browser.run(`document.querySelector('[data-testid=found-writing] .button').click()`);
    await browser.untilSays('[data-testid=found-words]', 'All the writing that was found is masked.');
    const veil = () =>
      browser.run<{ left: number; top: number; width: number; height: number }[]>(
        `return fetch('/api/visits/${visitId}').then((r) => r.json()).then((v) => v.pictures.flatMap((p) => p.layers.veils?.veils ?? []))`
      );
    await browser.until('the veil is kept', async () => (await veil()).length === 1);
    const [before] = await veil();
    await browser.run(`document.querySelector('[data-testid=veil]').focus()`);
    await browser.press(Key.ARROW_LEFT);
    await browser.until('it was moved', async () => {
      const [now] = await veil();
      return now.left < before.left;
    });
    await browser.click('[data-testid=say-looked]');
    await browser.find('[data-testid=looked]');
    expect(await browser.violations()).toEqual([]);
    await openStation('file', '?identity=deidentified');
    await browser.click('[data-testid=destination]');
    await (await browser.all('[data-testid=destination-option]')).at(-1)!.click();
    await browser.click('[data-testid=send]');
    await browser.go('/dispatch');
    await browser.untilCount(`${parcel('open')} [data-testid=fetch-parcel]`, 1, readingMs);
    expect(await browser.violations()).toEqual([]);
  });

  it('says of itself what somebody types, held against its kind, and goes so', async () => {
    await openStation('file');
    await browser.click('li:nth-of-type(2) [data-testid=file-picture]');
    await browser.click('[data-testid=file-attributes]');
    await browser.click('[data-testid=add-attribute]');
    const field = await browser.find('[data-testid=attribute-to-add]');
    await field.sendKeys('weight patient');
    await browser.untilSays('[role=option]', 'Patient Weight');
    await browser.press(Key.ARROW_DOWN, Key.ENTER);
    const value = await browser.find('[data-testid=said-value]');
    await value.sendKeys('3,5');
    await browser.untilSays('[data-testid=said-wrong]', '“3,5” is not');
    expect(await browser.violations()).toEqual([]);
    await value.sendKeys(Key.BACK_SPACE, Key.BACK_SPACE, '.5', Key.ENTER);
    await browser.untilSays('[data-testid="say-00101030"]', '3.5');
    // What is proposed is changed as well, given up with Escape, and taken back.
    await browser.click('[data-testid="say-00080080"]');
    await browser.press('x', Key.ESCAPE);
    await browser.untilSays('[data-testid="say-00080080"]', 'Quill Sound');
    // Whoever goes on to another value keeps the first, and is not thrown out of the second; as proposed, it fits.
    await browser.click('[data-testid="say-00080080"]');
    await browser.press(Key.END, ', pier 4');
    await browser.run(`document.querySelector('[data-testid="say-00080008"]').scrollIntoView()`);
    await browser.click('[data-testid="say-00080008"]');
    await browser.untilSays('[data-testid="say-00080080"]', ', pier 4');
    expect(
      await browser.run(
        `return document.querySelector('[data-testid=said-value]').getAttribute('aria-label')`
      )
    ).toBe('Image Type');
    await browser.untilCount('[data-testid=said-wrong]', 0);
    await browser.press(Key.ESCAPE);
    await browser.click('[data-testid="take-back-00080080"]');
    await browser.untilCount('[data-testid="take-back-00080080"]', 0);
    await browser.click('[data-testid="take-back-00101030"]');
    await browser.untilCount('[data-testid="say-00101030"]', 0);
    expect(await browser.violations()).toEqual([]);
    await browser.press(Key.ESCAPE);
  });

  it('is told when its visit is closed, and goes nowhere where that is all that is wished', async () => {
    await openStation('file');
    await browser.click('[data-testid=close-visit]');
    expect(await browser.text('[data-testid=closable-visit]')).toMatch(/Left: .*2 not sent/);
    expect(await browser.violations()).toEqual([]);
    await browser.click('[data-testid=close-only]');
    await browser.untilSays('[data-testid=visit-closed]', 'Closed');
    await browser.click('[data-testid=visit-closed] button');
    await browser.find('[data-testid=close-visit]');
  });

  it('is a package that opens from the file system in any browser, without this product', async () => {
    await browser.go('/dispatch');
    await browser.find('[data-testid=fetch-parcel]');
    const href = await browser.run<string>(
      `return document.querySelector('[data-testid=fetch-parcel]').getAttribute('href')`
    );
    const mara = await Asking.as(clinic, 'mara', password);
    const zip = Buffer.from(await mara.bytes(href));
    const folder = path.join(unpackedIn, 'package');
    const names = await unpackedInto(zip, folder);
    expect(names).toEqual(expect.arrayContaining(['DICOMDIR', 'index.html', 'what was checked.pdf']));
    const html = fs.readFileSync(path.join(folder, 'index.html'), 'utf8');
    const [{ family_name: family }] = await clinic.rows<{ family_name: string }>(
      `select p.family_name from patient p join visit v using (patient_id) where v.visit_id = $1`,
      [visitId]
    );
    expect(html).not.toContain(family);
    await browser.driver.get('about:blank');
    await clinic.kill('server');
    await browser.driver.get(pathToFileURL(path.join(folder, 'index.html')).href);
    const shown = () =>
      browser.run<number[]>(
        `const i = document.querySelector('figure img'); return [i?.naturalWidth ?? 0, document.querySelectorAll('nav button').length, [...document.querySelectorAll('nav button')].findIndex((b) => b.getAttribute('aria-current') === 'true')]`
      );
    await browser.until('the first picture is there', async () => (await shown())[0] > 100);
    expect((await shown()).slice(1)).toEqual([2, 0]);
    await browser.press(Key.ARROW_DOWN);
    await browser.until('the second is there', async () => {
      const [wide, , at] = await shown();
      return wide > 100 && at === 1;
    });
    expect(await browser.violations()).toEqual([]);
  });
});

/** Unpacks a ZIP; gives back what is in it. */
async function unpackedInto(zip: Buffer, folder: string): Promise<string[]> {
  const file = await yauzl.fromBufferPromise(zip);
  const names: string[] = [];
  for await (const entry of file.eachEntry()) {
    const name = String(entry.fileName);
    names.push(name);
    const at = path.join(folder, name);
    fs.mkdirSync(path.dirname(at), { recursive: true });
    const chunks: Buffer[] = [];
    for await (const chunk of await file.openReadStreamPromise(entry)) chunks.push(chunk as Buffer);
    fs.writeFileSync(at, Buffer.concat(chunks));
  }
  return names;
}
