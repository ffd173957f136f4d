import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { By, Key } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { password } from '../demo/clinic';
import { past } from '../demo/past';
import { Browser } from './harness/browser';
import { downloadedTo } from './harness/downloads';
import { picturesOnPaper, wordsOnPaper } from './harness/pdf';
import { RunningClinic } from './harness/running';

// Letters: what they begin with, whom they go to, what fills them, and what is told before they are made.
let clinic: RunningClinic;
let browser: Browser;
let visitId = '';
const downloads = fs.mkdtempSync(path.join(os.tmpdir(), 'yonder-letters-'));

beforeAll(async () => {
  clinic = await RunningClinic.start({ past: past.slice(0, 1), sensor: false });
  [{ visit_id: visitId }] = await clinic.rows<{ visit_id: string }>(
    'select visit_id from picture order by taken_at desc limit 1'
  );
  browser = await Browser.open(clinic.origin);
  await browser.driver.setDownloadPath(downloads);
  await browser.signIn('orsin', password);
});
afterAll(async () => {
  await browser?.close();
  await clinic?.stop();
  fs.rmSync(downloads, { recursive: true, force: true });
});

const one = async <Row extends object>(sql: string): Promise<Row> => (await clinic.rows<Row>(sql))[0];
const untilKept = (of = browser) => of.untilCount('[data-testid=kept-mark][data-state=kept]', 1);
const write = async (css: string, text: string) => (await browser.find(css)).sendKeys(text);
const onButton = async (words: string) =>
  (await browser.driver.findElement(By.xpath(`//button[normalize-space()='${words}']`))).click();
const downloaded = () => downloadedTo(downloads, browser);

describe('a template', () => {
  it('is made with fields and two places for pictures, aligned at once, and every change is kept', async () => {
    await browser.go('/letters');
    expect(await browser.violations()).toEqual([]);
    await browser.click('[data-testid=template-new]');
    await browser.click('[data-testid=new-empty]');
    await browser.untilCount('.letter-text', 1);
    const name = await browser.find('[data-testid=template-name]');
    await name.sendKeys(Key.chord(Key.CONTROL, 'a'), 'Two categories');
    await browser.click('.letter-text p');
    await browser.press('About ');
    await write('[data-testid=put-field]', 'The patient');
    await browser.press(Key.ENTER);
    await browser.untilCount('[data-field=patient]', 1);
    await browser.click('[data-testid=put-picture]');
    await browser.choose('place-category', 'Bitewings');
    await browser.click('[data-testid=put-picture]');
    await browser.untilCount('[data-place]', 2);
    await browser.choose('place-category', 'Before treatment');
    await browser.click('[data-testid=place-align]');
    await untilKept();
    const { body, number } = await one<{ body: object; number: number }>(
      'select v.body, v.number from letter_template_version v join letter_template t using (clinic_id, template_id, number)'
    );
    expect(number).toBe(1);
    const parts = (
      body as { content: { type: string; attrs?: { places: { widthMm: number; yMm: number }[] } }[] }
    ).content;
    const places = parts.find(({ type }) => type === 'pictures')!.attrs!.places;
    expect(places.map(({ widthMm, yMm }) => [widthMm, yMm])).toEqual([
      [84.5, 0],
      [84.5, 0]
    ]);
    expect(await browser.violations()).toEqual([]);
  });

  it('has its places moved by drag onto the lines of others, and by keys to the millimetre', async () => {
    const placesNow = async () =>
      (
        await one<{ places: { xMm: number; yMm: number; widthMm: number }[] }>(
          `select jsonb_path_query_first(v.body, '$.content[*] ? (@.type == "pictures").attrs.places') as places
           from letter_template_version v order by changed_at desc limit 1`
        )
      ).places;
    const second = '[data-place]:nth-of-type(2)';
    await browser.click('[data-place]');
    await (
      await browser.find(`[data-place]:not([aria-pressed=true])`)
    ).sendKeys(Key.ARROW_DOWN, Key.ARROW_DOWN);
    await untilKept();
    expect((await placesNow())[1].yMm).toBe(2);
    await (await browser.driver.switchTo().activeElement()).sendKeys(Key.chord(Key.ALT, Key.ARROW_LEFT));
    await untilKept();
    expect((await placesNow())[1].widthMm).toBe(83.5);
    // Pulled down a little it lies on a whole millimetre; a line shows where it goes onto another's edge.
    const box = await (await browser.driver.findElement(By.css(second))).getRect();
    const mmPx = box.width / 83.5;
    await browser.drag(second, [30, 30], [30, 30 - Math.round(1.2 * mmPx)], async () => {
      await browser.untilCount('[data-testid=snap-line]', 2);
    });
    await untilKept();
    expect((await placesNow())[1].yMm).toBe(0);
    await browser.click('[data-testid=place-done]');
  });

  it('goes out as a file and comes in again as the same; what is none is refused in words', async () => {
    await browser.go('/letters');
    await browser.click('[data-testid=template-export]');
    const file = await downloaded();
    const again = path.join(downloads, 'again.txt');
    fs.copyFileSync(file, again);
    await write('[data-testid=template-file]', again);
    await browser.untilCount('.letter-text', 1);
    const [first, second] = await clinic.rows<{ name: string; body: object }>(
      'select name, body from letter_template_version order by name'
    );
    expect([first.name, second.name]).toEqual(['Two categories', 'Two categories 2']);
    expect(second.body).toEqual(first.body);
    await browser.go('/letters');
    fs.writeFileSync(again, '{"what":"recipe"}');
    await write('[data-testid=template-file]', again);
    await browser.untilSays('[data-sonner-toast]', 'no letter template');
    expect((await one<{ count: string }>('select count(*) from letter_template')).count).toBe('2');
  });

  it('that somebody else changed meanwhile is not written over: mine becomes one of its own', async () => {
    const { template_id } = await one<{ template_id: string }>(
      `select template_id from letter_template where name = 'Two categories 2'`
    );
    await browser.go(`/letters/${template_id}`);
    await browser.untilCount('.letter-text', 1);
    const other = await Browser.open(clinic.origin);
    try {
      await other.signIn('mara', password);
      await other.go(`/letters/${template_id}`);
      await other.untilCount('.letter-text', 1);
      await other.click('.letter-text p');
      await other.press('Hers. ');
      await untilKept(other);
    } finally {
      await other.close();
    }
    await browser.click('.letter-text p');
    await browser.press('His. ');
    await browser.untilSays('[data-testid=keep-refused]', 'Mara Fennick has changed');
    await browser.click('[data-testid=keep-own]');
    await browser.until(
      'it stands alone',
      async () =>
        (await clinic.rows(`select 1 from letter_template where name = 'Two categories 2, Orsin Vael'`))
          .length === 1
    );
    const bodies = await clinic.rows<{ name: string; body: object }>(
      `select t.name, v.body from letter_template t join letter_template_version v using (clinic_id, template_id, number)
       where t.name like 'Two categories 2%' order by t.name`
    );
    expect(JSON.stringify(bodies[0].body)).toContain('Hers. ');
    expect(JSON.stringify(bodies[0].body)).not.toContain('His. ');
    expect(JSON.stringify(bodies[1].body)).toContain('His. ');
  });
});

describe('a letter', () => {
  it('says what is missing before it is begun and before it is made; one is picked, one more put in, and it is made', async () => {
    await browser.go(`/visits/${visitId}/story`);
    await browser.click('[data-testid=to-letters]');
    await browser.untilSays(
      '[data-testid=missing]',
      'Picture 2 is empty: the chart has no picture, filed under Before treatment.'
    );
    expect(await browser.violations()).toEqual([]);
    await browser.click('[data-testid=letter-begin]');
    await browser.untilCount('.letter-text', 1);
    await browser.untilCount('[data-place][data-filled=yes]', 1);
    expect(await browser.violations()).toEqual([]);
    await browser.click('[data-testid=letter-make]');
    await browser.untilSays('[role=dialog]', 'This letter is not whole yet');
    await browser.click('[data-testid=letter-back]');
    // The empty one is filled by hand.
    await browser.click('[data-place][data-filled=no]');
    await browser.click('[data-testid=place-pick]');
    await browser.click('[data-testid=pick]');
    await browser.untilCount('[data-place][data-filled=yes]', 2);
    await browser.click('[data-testid=place-done]');
    // One more, and words, in this letter alone.
    await onButton('Put in');
    await browser.click('[data-testid=put-picture]');
    await browser.untilCount('[data-place]', 3);
    await browser.click('[data-testid=place-pick]');
    await browser.click('[data-testid=pick]');
    await browser.untilCount('[data-place][data-filled=yes]', 3);
    await browser.click('.letter-text p');
    await browser.press(' Only here.');
    await untilKept();
    await browser.click('[data-testid=letter-make]');
    await browser.untilCount('[data-testid=paper-download]:not([disabled])', 1);
    expect(await browser.violations()).toEqual([]);
    await browser.click('[data-testid=paper-download]');
    await browser.click('[data-testid=share-accept]');
    const pdf = await downloaded();
    const text = wordsOnPaper(pdf);
    expect(text).toMatch(/About T\. K\.\s+Only here\./);
    expect(picturesOnPaper(pdf)).toHaveLength(3);
    const { body } = await one<{ body: object }>(
      `select v.body from letter_template t join letter_template_version v using (clinic_id, template_id, number)
       where t.name = 'Two categories'`
    );
    expect(JSON.stringify(body)).not.toContain('Only here');
  });

  it('names whom it goes to, who is proposed for the same patient next time', async () => {
    await browser.go(`/visits/${visitId}/letters`);
    await browser.click('[data-testid=letter-colleague]');
    await write('[data-testid=colleague-name]', 'Dr Isaud Penrow the Elder');
    await write('[data-testid=colleague-greeting]', 'Dear Isaud,');
    await browser.click('[data-testid=colleague-keep]');
    await browser.untilSays('[data-testid=letter-to]', 'the Elder');
    await browser.click('[data-testid=choose-referral]');
    await browser.click('[data-testid=letter-begin]');
    await browser.untilSays('[data-field=greeting]', 'Dear Isaud,');
    await browser.go(`/visits/${visitId}/letters`);
    await browser.untilSays('[data-testid=letter-to]', 'the Elder');
    await browser.untilCount('[data-testid=letter]', 2);
  });
});
