import { execFileSync, spawnSync } from 'node:child_process';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import dicomParser from 'dicom-parser';
import { Key } from 'selenium-webdriver';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { password } from '../demo/clinic';
import { readParts } from '../standins/archive/multipart';
import { Browser, readingMs } from './harness/browser';
import { RunningClinic } from './harness/running';

let clinic: RunningClinic;
let browser: Browser;
const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'yonder-visit-'));

beforeAll(async () => {
  clinic = await RunningClinic.start();
  browser = await Browser.open(clinic.origin);
});
afterAll(async () => {
  await browser?.close();
  await clinic?.stop();
  fs.rmSync(folder, { recursive: true, force: true });
});

const lampIs = (lamp: string) =>
  browser.until(`the lamp says ${lamp}`, async () => (await browser.all(`[data-lamp=${lamp}]`)).length > 0);
const takesLeft = async (words: string) =>
  browser.until(words, async () => (await browser.text('[data-testid=station-acquire]')).includes(words));

async function expose(): Promise<void> {
  await lampIs('ready');
  await browser.click('[data-testid=demo-expose]');
}

/** All instances of all studies that the archive holds, as files, read back over WADO-RS. */
async function fromArchive(): Promise<Buffer[]> {
  const studies = (await (await fetch(`${clinic.archive}/studies`)).json()) as {
    '0020000D': { Value: string[] };
  }[];
  const files = [];
  for (const study of studies) {
    const answer = await fetch(`${clinic.archive}/studies/${study['0020000D'].Value[0]}`);
    files.push(
      ...(await readParts(answer.headers.get('content-type')!, Buffer.from(await answer.arrayBuffer()))).map(
        ({ bytes }) => bytes
      )
    );
  }
  return files;
}

function pixelsOf(file: Buffer): Buffer {
  const { dataOffset, length } = dicomParser.parseDicom(file).elements.x7fe00010;
  return file.subarray(dataOffset, dataOffset + length);
}

describe('a whole visit, from exposure to archive', () => {
  const grey = Uint16Array.from({ length: 300 * 200 }, (_, i) => (i * 53) % 65536);
  const reading = () => browser.text('[data-testid=reading]');
  let pseudonym = '';

  it('opens from Today, with the patient’s name in the band', async () => {
    await browser.signIn('orsin', password);
    await browser.click('[data-record=QS-1004]');
    await browser.find('[data-testid=next-slot]');
    expect(await browser.text('[data-testid=band-name]')).toBe('Isolde Marrowby');
  });

  it('takes a series that begins at the second slot and goes round to the first by itself', async () => {
    await browser.click('[data-testid=well-bw-right-premolars]');
    await browser.until(
      'the next slot follows',
      async () => (await browser.text('[data-testid=next-slot]')) === 'Right premolars'
    );
    await browser.press(' ');
    const order = [];
    for (const left of ['3 empty', '2 empty', '1 empty', 'all taken']) {
      order.push(await browser.text('[data-testid=next-slot]'));
      await expose();
      await takesLeft(left);
    }
    expect(order).toEqual(['Right premolars', 'Left premolars', 'Left molars', 'Right molars']);
    expect(await browser.text('[data-testid=shown-name]')).toBe('Right molars');
  });

  it('keeps both takes of a slot that is taken again, and either can be the keeper', async () => {
    await browser.click('[data-testid=retake]');
    await takesLeft('1 empty');
    await browser.click('[data-testid=wide-button]');
    await expose();
    await takesLeft('all taken');
    await browser.until('both takes are there', async () =>
      (await (await browser.find('[data-testid=well-bw-right-molars]')).getAttribute('aria-label'))?.includes(
        '2 takes'
      )
    );
    await browser.click('[aria-label^="Take 1"]');
    await browser.click('[data-testid=keep]');
    await browser.until(
      'the first take is the keeper',
      async () => (await browser.all('[aria-label^="Take 1"][aria-label$="the keeper"]')).length === 1
    );
  });

  it('takes a file in beside them', async () => {
    const file = path.join(folder, 'from elsewhere.png');
    fs.writeFileSync(
      file,
      await sharp(grey, { raw: { width: 300, height: 200, channels: 1 } })
        .toColourspace('grey16')
        .png()
        .toBuffer()
    );
    await (await browser.find('[data-testid=file-picker]')).sendKeys(file);
    await browser.untilCount('[data-testid=bench-take]', 1);
  });

  const takeInHand = (name: string) =>
    browser.until(`${name} is pressed`, () =>
      browser.run<boolean>(
        `const found = [...document.querySelectorAll('[data-testid=table-picture]')].find((each) => each.innerText.includes(arguments[0]));
         found?.click();
         return found !== undefined`,
        name
      )
    );

  it('has every keeper confirmed, each confirmation leading to the next open one', async () => {
    await browser.click('[data-testid=station-check]');
    for (let left = 4; left > 0; left--) {
      await browser.until(`${left} to confirm`, async () =>
        (await browser.text('[data-testid=station-check]')).includes(`${left} to confirm`)
      );
      await browser.click('[data-testid=confirm]');
    }
    await browser.until('all confirmed', async () =>
      (await browser.text('[data-testid=station-check]')).includes('confirmed')
    );
  });

  it('gives the picture without a scale one from a line over a known length', async () => {
    await browser.click('[data-testid=station-scale]');
    await browser.until('one is unscaled', async () =>
      (await browser.text('[data-testid=station-scale]')).includes('1 unscaled')
    );
    await takeInHand('elsewhere');
    await browser.until('it is shown', async () => (await browser.text('h1')).includes('from elsewhere.png'));
    await browser.until(
      'it is drawn',
      async () =>
        (await (await browser.find('[data-testid=stage]')).getAttribute('data-picture')) ===
        (await browser.run('return new URLSearchParams(location.search).get("picture")'))
    );
    await browser.click('[data-testid=draw-known]');
    await browser.drag('[data-testid=stage]', [150, 150], [450, 150], async () => {
      expect(await browser.all('[data-testid=magnifier]')).toHaveLength(1);
    });
    await (await browser.find('[data-testid=known-mm]')).sendKeys('30,0');
    await browser.click('[data-testid=use-scale]');
    await browser.until(
      'all scaled',
      async () =>
        (await browser.text('[data-testid=station-scale]')).includes('scaled') &&
        !(await browser.text('[data-testid=station-scale]')).includes('unscaled')
    );
  });

  it('measures the same stretch as those 30 mm; keys move its end, and it is taken back and brought back', async () => {
    await browser.click('[data-testid=station-measure]');
    await takeInHand('elsewhere');
    await browser.until(
      'it is drawn',
      async () =>
        (await browser.all('[data-testid=stage][data-picture]:not([data-picture=""])')).length > 0 &&
        (await browser.text('h1')).includes('elsewhere')
    );
    await browser.click('[data-testid=tool-length]');
    await browser.drag('[data-testid=stage]', [150, 250], [450, 250]);
    await browser.until('the length is read', async () => /^30\.\d+ ± \d\.\d+ mm$/.test(await reading()));
    const before = parseFloat(await reading());
    await browser.run('document.querySelector(`[data-handle][data-index="1"]`).focus()');
    await browser.driver.actions().keyDown(Key.SHIFT).sendKeys(Key.ARROW_RIGHT).keyUp(Key.SHIFT).perform();
    await browser.until('the end has moved', async () => parseFloat(await reading()) > before + 0.5);
    await browser.click('[data-testid=take-back]');
    await browser.until(
      'it is taken back',
      async () => Math.abs(parseFloat(await reading()) - before) < 0.011
    );
    await browser.click('[data-testid=bring-back]');
    await browser.until('it is brought back', async () => parseFloat(await reading()) > before + 0.5);
    await browser.click('[data-testid=take-back]');
    await browser.until(
      'it is taken back again',
      async () => Math.abs(parseFloat(await reading()) - before) < 0.011
    );
    await browser.untilKept();
    await browser.run('location.reload()');
    await browser.until(
      'it is still there after loading again',
      async () => Math.abs(parseFloat(await reading()) - before) < 0.011
    );
    await browser.untilLive();
    await browser.click('[data-testid=confirm-readings]');
    await browser.untilCount('[data-testid=confirm-readings]', 0);
    await browser.untilKept();
  });

  it('tells in words what would leave, and every attribute behind them', async () => {
    await browser.click('[data-testid=station-de-identify]');
    pseudonym = await browser.text('[data-testid=pseudonym]');
    expect(pseudonym).toMatch(/^YT-/);
    const told = await browser.text('[data-testid=leaving-words]');
    for (const words of [
      /Replaced[^]*name, record number/,
      /Moved[^]*date of the visit/,
      /Dropped[^]*birth date/
    ])
      expect(told).toMatch(words);
    await browser.click('[data-testid=show-attributes]');
    await browser.until(
      'the attributes are there',
      async () => (await browser.all('[data-testid=change-replaced]')).length > 4
    );
    await browser.click('[data-testid=only-kept]');
    await browser.untilCount('[data-testid=change-replaced]', 0);
    await browser.press(Key.ESCAPE);
    await browser.untilCount('[role=dialog]', 0);
  });

  it('is linked, then sent both ways once somebody has looked at what may hold a name', async () => {
    await browser.click('[data-testid=station-file]');
    await browser.click('[data-testid=link-offered]');
    await browser.until(
      'all linked',
      async () => !(await (await browser.find('[data-testid=link-offered]')).isEnabled())
    );
    await browser.click('[data-testid=send]');
    await browser.untilCount('[data-testid=delivery][data-state=delivered]', 5);
    await browser.find('[data-testid=clear]');
    await browser.click('[data-testid=identity-deidentified]');
    await browser.click('[data-testid=send]');
    await browser.until('it waits for somebody to look', async () =>
      /nobody has said that none do/.test(await browser.run<string>('return document.body.innerText'))
    );
    await browser.click('[data-testid=station-de-identify]');
    await browser.click('li:nth-of-type(5) [data-testid=leaving-picture]');
    await browser.click('[data-testid=must-look] button');
    await browser.untilCount('[data-testid=must-look]', 0);
    await browser.click('[data-testid=station-file]');
    await browser.click('[data-testid=identity-deidentified]');
    await browser.click('[data-testid=send]');
    await browser.untilCount('[data-testid=delivery][data-state=delivered]', 10, readingMs);
  });

  it('stands in the archive as valid objects, bit for bit, once each, the hidden ones without a name', async () => {
    const files = await fromArchive();
    expect(files).toHaveLength(10);
    expect(Object.values(await clinic.receipts()).every((count) => count === 1)).toBe(true);
    const originals = [...(await clinic.originals()), Buffer.from(grey.buffer)];
    for (const [i, bytes] of files.entries()) {
      const target = path.join(folder, `${i}.dcm`);
      fs.writeFileSync(target, bytes);
      const verdict = spawnSync('dciodvfy', [target], { encoding: 'utf8' });
      expect(
        verdict.stderr.split('\n').filter((line) => line.startsWith('Error')),
        verdict.stderr
      ).toEqual([]);
      execFileSync('dcmdump', ['-q', '+P', 'PatientID', target]);
      const pixels = pixelsOf(bytes);
      expect(
        originals.some((original) => original.equals(pixels)),
        `pixels of file ${i}`
      ).toBe(true);
    }
    const names = files.map((bytes) => dicomParser.parseDicom(bytes).string('x00100010'));
    expect(names.filter((name) => name === 'Marrowby^Isolde')).toHaveLength(5);
    expect(names.filter((name) => name === pseudonym)).toHaveLength(5);
    const hidden = files.filter((bytes) => !bytes.toString('latin1').includes('Marrowby'));
    expect(hidden.every((bytes) => !/Isolde|QS-1004|Quill Sound/.test(bytes.toString('latin1')))).toBe(true);
  });
});
