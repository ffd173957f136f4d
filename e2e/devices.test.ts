import fs from 'node:fs';
import path from 'node:path';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { password } from '../demo/clinic';
import { Browser } from './harness/browser';
import { atTheChair } from './harness/chair';
import { RunningClinic } from './harness/running';

let clinic: RunningClinic;
let browser: Browser;
const { lampIs, begin } = atTheChair(() => browser);

beforeAll(async () => {
  clinic = await RunningClinic.start({ devices: ['Plates 1', 'Wide views', 'Panel 1'] });
  browser = await Browser.open(clinic.origin);
  await browser.signIn('mara', password);
});
afterAll(async () => {
  await browser?.close();
  await clinic?.stop();
});

const says = (css: string, words: string, of = browser) => of.untilSays(css, words);
async function lay(name: string): Promise<void> {
  await browser.click('[data-testid=pattern]');
  await browser.until(`${name} is laid`, async () => {
    for (const choice of await browser.all('[data-testid=pattern-choice]'))
      if ((await choice.getText()).startsWith(name)) {
        await choice.click();
        return true;
      }
    return false;
  });
}
/** The takes of a patient by slot, as the records have them. */
const takesOf = (record: string) =>
  clinic.rows<{ slot: string | null; source: string; media: string; plate: string | null }>(
    `select s.slot_id as slot, p.source, p.media_type as media, p.facts->>'plate' as plate from picture p
     join standing s using (clinic_id, picture_id) join patient t on t.patient_id = p.patient_id
     where t.record_number = '${record}' order by p.number`
  );

describe('a batch of plates', () => {
  it('shows each as it is read, fills slot after slot, lays one that was put in twice on the bench, and stops', async () => {
    await begin('QS-1004');
    await browser.click('[data-testid=fineness]');
    await browser.click('[role=option][data-value=quick]');
    await browser.click('[data-testid=wide-button]');
    await lampIs('ready');
    await browser.click('[data-testid=demo-plate-twice]');
    await says('[data-testid=plate-coming]', 'reads plate 101');
    await browser.until('the same plate lies on the bench', async () => {
      const takes = await takesOf('QS-1004');
      return takes.length === 2 && takes[1].slot === null && takes[1].plate === '101';
    });
    await says('main', 'Plate 101 was read in this visit before');
    await browser.click('[data-testid=demo-plates]');
    await browser.until(
      'all four slots have one plate each, one more lies on the bench',
      async () => {
        const takes = await takesOf('QS-1004');
        const slots = takes.flatMap(({ slot }) => slot ?? []);
        return takes.length === 6 && new Set(slots).size === 4 && slots.length === 4;
      },
      60_000
    );
    await says('[aria-label=Next]', 'lie on the bench');
    await browser.click('[data-testid=wide-button]');
    await lampIs('resting');
  });
});

describe('a watched folder', () => {
  it('brings a view into its slot, waits for a file that is being written, and takes one that comes twice once', async () => {
    await begin('QS-1031');
    await lay('Panoramic');
    await says('[data-testid=next-slot]', 'Panoramic');
    await browser.click('[data-testid=wide-button]');
    await lampIs('ready');
    await browser.click('[data-testid=demo-expose]');
    await browser.until(
      'it is in its slot',
      async () => (await takesOf('QS-1031')).some(({ slot }) => slot),
      60_000
    );
    const [wide] = await takesOf('QS-1031');
    expect(wide).toMatchObject({ source: 'file', media: 'image/png' });

    const files = path.join(clinic.deviceFolder('Wide views'), 'files');
    const stray = await sharp({ create: { width: 300, height: 200, channels: 3, background: '#806040' } })
      .png()
      .toBuffer();
    fs.writeFileSync(path.join(files, 'stray.png'), stray.subarray(0, 200));
    await new Promise((done) => setTimeout(done, 600));
    fs.appendFileSync(path.join(files, 'stray.png'), stray.subarray(200));
    fs.copyFileSync(path.join(files, 'stray.png'), path.join(files, 'the same again.png'));
    await browser.go('/arrivals');
    await browser.untilCount('[data-testid=arrival]', 1);
    await says('[aria-label="About it"]', 'while nobody waited for it');
    fs.renameSync(files, `${files} gone`);
    const lamp = () =>
      clinic.rows<{ lamp: string; lamp_words: string }>(
        `select lamp, lamp_words from device where name = 'Wide views'`
      );
    await browser.until('the folder that is gone is said', async () => (await lamp())[0].lamp === 'faulted');
    expect((await lamp())[0].lamp_words).toContain('The folder is gone');
    fs.renameSync(`${files} gone`, files);
    await browser.until('it is back', async () => (await lamp())[0].lamp === 'resting');
    expect(await clinic.rows('select 1 from arrival')).toHaveLength(1);
  });
});

describe('the camera', () => {
  it('takes stills by key into the slots that want them, drops one, and brings it back', async () => {
    await begin('QS-1052');
    await lay('Photographs of the mouth');
    await browser.click('[data-testid=open-camera]');
    const seen = () => browser.run<number>('return document.querySelector("video")?.videoWidth ?? 0');
    await browser.until('the camera shows something', async () => (await seen()) > 0);
    await browser.run('document.activeElement.blur()');
    // The second right after the first, before that one can be stored.
    await browser.press(' ', ' ');
    await browser.untilCount('[data-testid=still]', 2);
    await browser.press(' ');
    await browser.untilCount('[data-testid=still]', 3);
    const slots = (await takesOf('QS-1052')).map(({ slot }) => slot);
    expect(new Set(slots).size).toBe(3);
    expect(slots).not.toContain(null);
    await browser.click('[data-testid=drop-still]');
    await browser.untilCount('[data-testid=still]', 2);
    await browser.press('\uE00C');
    await browser.untilCount('[data-testid=camera]', 0);
    await says('[data-testid=dropped]', 'Dropped: 1');
    await browser.click('[data-testid=dropped]');
    await browser.click('[role=menuitem]');
    await browser.untilCount('[data-testid=bench-take]', 1);
  });

  it('that the browser does not give is said, with what to do', async () => {
    await browser.run(
      `navigator.mediaDevices.getUserMedia = () => Promise.reject(new DOMException('no', 'NotAllowedError'))`
    );
    await browser.press('c');
    await says('[data-testid=camera]', 'does not let this page use a camera');
    await browser.press('\uE00C');
    await browser.untilCount('[data-testid=camera]', 0);
  });
});

describe('an exposure that nobody was ready for', () => {
  it('comes to Arrivals, and is given to the visit that went on there, into its slot', async () => {
    await begin('QS-1068');
    await browser.click('[data-testid=wide-button]');
    await lampIs('ready');
    await browser.click('[data-testid=wide-button]');
    await lampIs('resting');
    await browser.click('[data-testid=demo-expose]');
    await browser.go('/arrivals');
    await says('[data-testid=arrivals]', 'From Panel 1');
    await browser.click('[data-testid=arrival]');
    await says('[aria-label="About it"]', 'Nobody had got Panel 1 ready');
    await browser.click('[data-testid=near]');
    await browser.click('[data-testid=place]');
    await browser.until('an empty slot is offered', async () => {
      for (const option of await browser.all('[data-testid=place-option]'))
        if ((await option.getText()).includes('Empty')) {
          await option.click();
          return true;
        }
      return false;
    });
    const before = (await browser.all('[data-testid=arrival]')).length;
    await browser.click('[data-testid=give]');
    await browser.untilCount('[data-testid=arrival]', before - 1);
    const [take] = await takesOf('QS-1068');
    expect(take).toMatchObject({ source: 'device' });
    expect(take.slot).not.toBeNull();
  });
});

describe('the phone', () => {
  it('pairs by a code, keeps a picture while it has no network, and sends it once when it has', async () => {
    await browser.go('/arrivals');
    await browser.untilLive();
    const before = (await browser.all('[data-testid=arrival]')).length;
    await browser.click('[data-testid=pair-phone]');
    await browser.click('[data-testid=show-code]');
    const code = (await browser.text('[data-testid=phone-code]')).replaceAll(' ', '');
    const phone = await Browser.open(clinic.origin);
    try {
      await phone.resize(390, 844);
      await phone.go(`/phone#${code}`);
      await phone.find('[data-testid=take]');
      const picture = path.join(clinic.deviceFolder('Wide views'), 'letter.jpg');
      await sharp({ create: { width: 600, height: 800, channels: 3, background: '#f0f0e8' } })
        .jpeg()
        .toFile(picture);
      // The page itself opens without a network too, once its worker has it.
      await phone.until('the worker holds the page', () =>
        phone.run('return navigator.serviceWorker.ready.then((ready) => ready.active?.state === "activated")')
      );
      await phone.driver.setNetworkConditions({
        offline: true,
        latency: 0,
        download_throughput: 0,
        upload_throughput: 0
      });
      await phone.driver.navigate().refresh();
      await phone.untilLive();
      await (await phone.find('[data-testid=phone-camera]')).sendKeys(picture);
      await (await phone.find('[data-testid=title]')).sendKeys('Letter of the insurance');
      await phone.click('[data-testid=send]');
      await phone.untilCount('[data-testid=box] [data-state=waiting]', 1);
      await phone.driver.navigate().refresh();
      await phone.untilLive();
      await phone.untilCount('[data-testid=box] [data-state=waiting]', 1);
      await phone.driver.deleteNetworkConditions();
      await phone.untilCount('[data-testid=box] [data-state=sent]', 1);
      await browser.go('/arrivals');
      await browser.untilCount('[data-testid=arrival]', before + 1);
      await says('[data-testid=arrivals]', 'Letter of the insurance');
      // Its pairing ends: what is taken then waits, and nothing is lost.
      await clinic.rows(`update phone set paired_until = now() - interval '1 second' returning 1`);
      await (await phone.find('[data-testid=phone-camera]')).sendKeys(picture);
      await phone.click('[data-testid=send]');
      await says('main', 'The pairing has ended', phone);
      await phone.untilCount('[data-testid=box] [data-state=waiting]', 1);
    } finally {
      await phone.close();
    }
  });
});
