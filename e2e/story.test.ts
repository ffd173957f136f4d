import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { Key } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { password } from '../demo/clinic';
import { letterPdf } from '../demo/letter';
import { past } from '../demo/past';
import { plainDestination } from '../src/lib/core/parcel/destination';
import { Asking } from './harness/asking';
import { Browser } from './harness/browser';
import { picturesOnPaper, wordsOnPaper } from './harness/pdf';
import { RunningClinic } from './harness/running';

// What a visit is about, written by two; and two charts that turn out to be one patient.
let clinic: RunningClinic;
let clinician: Browser;
let assistant: Browser;
let visitId = '';
let patientId = '';

beforeAll(async () => {
  clinic = await RunningClinic.start({ past: past.slice(0, 1), sensor: false });
  [{ visit_id: visitId, patient_id: patientId }] = await clinic.rows<{
    visit_id: string;
    patient_id: string;
  }>('select visit_id, patient_id from picture order by taken_at desc limit 1');
  [clinician, assistant] = [await Browser.open(clinic.origin), await Browser.open(clinic.origin)];
  await clinician.signIn('orsin', password);
  await assistant.signIn('mara', password);
});
afterAll(async () => {
  await clinician?.close();
  await assistant?.close();
  await clinic?.stop();
});

const open = async (browser: Browser, where: string) => {
  await browser.go(where);
  await browser.untilLive();
};
const valueOf = (browser: Browser, part: string) =>
  browser.run<string>(`return document.querySelector('[data-testid="story-${part}"]').value`);
const type = async (browser: Browser, part: string, words: string) =>
  (await browser.find(`[data-testid="story-${part}"]`)).sendKeys(words);

describe('the story of a visit', () => {
  it('begins with the appointment’s reason; what one writes the other reads, and no wording is lost', async () => {
    for (const browser of [clinician, assistant]) await open(browser, `/visits/${visitId}/story`);
    expect(await valueOf(clinician, 'reason')).toBe('Check-up, four bitewings');
    await type(assistant, 'history', 'Sore since the boat came in.');
    await clinician.until(
      'the clinician reads it',
      async () => (await valueOf(clinician, 'history')) === 'Sore since the boat came in.'
    );
    await type(clinician, 'history', ' Worse at night.');
    await assistant.until('the assistant reads it', async () =>
      (await valueOf(assistant, 'history')).endsWith('Worse at night.')
    );
    await assistant.click('[data-testid=earlier-history]');
    await assistant.untilSays('[data-testid=wordings]', 'Sore since the boat came in.');
    await assistant.press(Key.ESCAPE);
  });

  it('keeps what was typed a moment before the page is left', async () => {
    await type(clinician, 'question', 'Is it the crown?');
    await clinician.click('[data-testid=station-check]');
    await clinician.find('[data-testid=stage]');
    await clinician.untilKept();
    await open(clinician, `/visits/${visitId}/story`);
    await clinician.until(
      'it is there',
      async () => (await valueOf(clinician, 'question')) === 'Is it the crown?'
    );
  });

  it('tells its pictures in an order of its own, one of them twice, seen in two ways', async () => {
    const tell = '[data-testid=tell-picture]';
    const names = () =>
      clinician.run<string[]>(
        `return [...document.querySelectorAll('${tell}')].map((each) => each.textContent.trim())`
      );
    await clinician.find(tell);
    const [first, second] = await names();
    for (const at of [1, 0, 1]) await (await clinician.all(tell))[at].click();
    await clinician.untilCount('[data-testid=story-pictures] > li', 3);
    await (await clinician.all('[data-testid=story-stays]'))[0].click();
    await clinician.untilKept();
    // Seen otherwise from now on: inverted.
    const [{ picture_id: inverted }] = await clinic.rows<{ picture_id: string }>(
      `select body->0->>'pictureId' as picture_id from visit_story where part = 'pictures' order by seq desc limit 1`
    );
    await open(clinician, `/visits/${visitId}/check?picture=${inverted}`);
    await clinician.find(`[data-testid=stage][data-picture="${inverted}"]`);
    await clinician.press('i');
    await clinician.untilKept();
    await clinician.until('the two are seen in two ways', async () => {
      await open(clinician, `/visits/${visitId}/story`);
      const sources = await clinician.run<string[]>(
        `return [...document.querySelectorAll('[data-testid=story-pictures] img')].map((each) => each.getAttribute('src'))`
      );
      return sources.length === 3 && sources[0] !== sources[2];
    });
    await open(clinician, `/visits/${visitId}/acquire`);
    await clinician.click('[data-testid=show-series]');
    const shown = [];
    for (let i = 0; i < 3; i++) {
      const words = await clinician.text('[data-testid=showing] p[aria-live]');
      shown.push(words);
      await clinician.press(Key.ARROW_RIGHT);
    }
    expect(shown.map((words) => words.split('\n')[0].replace(/\s*\d of 3$/, ''))).toEqual([
      second,
      first,
      second
    ]);
    await clinician.press(Key.ESCAPE);
  });
});

describe('the papers of a visit', () => {
  const files = () => clinician.find('[data-testid=paper-files]');
  const titles = (browser: Browser) =>
    browser.run<string[]>(
      `return [...document.querySelectorAll('[data-testid=paper]')].map((each) => each.textContent.trim())`
    );

  it('are brought in, seen by the other, named, put away and brought back', async () => {
    for (const browser of [clinician, assistant]) await open(browser, `/visits/${visitId}/story`);
    const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'yonder-papers-'));
    const letter = path.join(folder, 'From the harbour nurse.pdf');
    fs.writeFileSync(
      letter,
      await letterPdf({ fileName: '', from: 'Tern Quay', paragraphs: ['Seen today.'] }, '')
    );
    const note = path.join(folder, 'Note.pdf');
    fs.writeFileSync(note, 'not a paper at all');
    await (await files()).sendKeys([letter, note].join('\n'));
    await clinician.untilSays('[data-testid=papers]', 'From the harbour nurse');
    await clinician.untilSays('[data-testid=papers]', '1 page');
    await clinician.untilSays('[data-testid=coming-refused]', 'This file is not a PDF.');
    await clinician.click('[data-testid=coming-refused] button[aria-label="Remove Note.pdf"]');
    await assistant.until('the assistant sees it', async () => (await titles(assistant)).length === 1);
    // What opens is the paper as it came.
    const [type, size] = await assistant.driver.executeAsyncScript<[string, number]>(
      `const done = arguments[0];
       fetch(document.querySelector('[data-testid=paper]').href).then(async (answer) =>
         done([answer.headers.get('content-type'), (await answer.arrayBuffer()).byteLength]));`
    );
    expect([type, size]).toEqual(['application/pdf', fs.statSync(letter).size]);

    await assistant.click('[data-testid=name-paper]');
    await (await assistant.find('[data-testid=paper-name]')).sendKeys('First aid at the landing', Key.ENTER);
    await clinician.until('the other reads the new name', async () =>
      (await titles(clinician))[0].startsWith('First aid at the landing')
    );
    await clinician.click('[data-testid=put-paper-away]');
    await clinician.until('it is gone', async () => (await titles(clinician)).length === 0);
    await clinician.click('[data-testid=papers-away]');
    await (await clinician.find('[role=menuitem]')).click();
    await clinician.until('it is back', async () => (await titles(clinician)).length === 1);
    await clinician.untilKept();
    await open(clinician, `/patients/${patientId}`);
    await clinician.untilLive();
    await clinician.click('[data-testid=papers]');
    await clinician.untilSays('[data-testid=chart-papers]', 'First aid at the landing');
  });
});

/** What can be read on the sheets of a report once it is made and drawn. */
async function reportSays(browser: Browser, words: string): Promise<string> {
  const read = () =>
    browser.run<string>(
      `return [...document.querySelectorAll('[data-testid=sheet] p')].map((each) => each.textContent).join(' ').replace(/\\s+/g, ' ')`
    );
  await browser.until(`the report says ${words}`, async () => (await read()).includes(words));
  return read();
}

describe('the report of a visit', () => {
  const downloads = fs.mkdtempSync(path.join(os.tmpdir(), 'yonder-reports-'));
  afterAll(() => fs.rmSync(downloads, { recursive: true, force: true }));
  const found = 'Caries reaching the dentine, mesial';
  const part = (key: string) => `[data-testid=report-part][data-key="${key}"]`;
  const keys = () =>
    clinician.run<string[]>(
      `return [...document.querySelectorAll('[data-testid=report-part]')].map((each) => each.dataset.key)`
    );

  it('makes itself, is looked at, and is had in four presses from the story; what is had is what was seen', async () => {
    const [{ picture_id: noted }] = await clinic.rows<{ picture_id: string }>(
      `select picture_id from standing where keeper order by slot_id limit 1`
    );
    const asking = await Asking.as(clinic, 'orsin', password);
    const { status } = await asking.send('POST', `/api/pictures/${noted}/acts`, {
      changes: [
        {
          kind: 'finding',
          item: crypto.randomUUID(),
          body: { place: { kind: 'tooth', tooth: 16 }, words: found }
        }
      ]
    });
    expect(status).toBe(200);
    await clinician.driver.setDownloadPath(downloads);
    await open(clinician, `/visits/${visitId}/acquire`);

    await clinician.click('[data-testid=story]');
    await clinician.click('[data-testid=to-report]');
    const seen = await reportSays(clinician, found);
    await clinician.click('[data-testid=paper-download]');
    await clinician.click('[data-testid=share-accept]');

    const name = await clinician.text('[data-testid=band-name]');
    expect(seen).toContain('upper right first molar');
    expect(seen).toContain('Sore since the boat came in. Worse at night.');
    expect(seen).not.toContain(name);
    // A paper's name may be the patient's: it stands there with the full name only.
    expect(seen).toContain('Paper 1');
    expect(seen).not.toContain('First aid at the landing');
    let files: string[] = [];
    await clinician.until('it is there', async () => {
      files = fs.readdirSync(downloads).filter((each) => each.endsWith('.pdf'));
      return files.length === 1;
    });
    expect(files[0]).not.toContain(name);
    const had = path.join(downloads, files[0]);
    const text = wordsOnPaper(had);
    expect(text).toContain(found);
    // Four keepers, two of them in the story as well, one of those twice.
    expect(picturesOnPaper(had)).toHaveLength(5);
    const [{ details }] = await clinic.rows<{ details: { as: string; names: string; way: string } }>(
      `select details from audit_line where act = 'taken out' order by seq desc limit 1`
    );
    expect(details).toMatchObject({ as: 'report', names: 'initials', way: 'downloaded' });
  });

  it('loses what is taken out, is put in another order by keys, and is so for the next one who looks', async () => {
    expect((await keys()).slice(0, 3)).toEqual(['story', 'findings', 'told']);
    await clinician.click(`${part('findings')} [data-testid=part-in]`);
    await clinician.until(
      'the finding is gone',
      async () => !(await reportSays(clinician, 'Why')).includes(found)
    );
    await (await clinician.find(`${part('told')} [data-testid=part-up]`)).sendKeys(Key.ENTER);
    await clinician.until('it went up', async () => (await keys())[1] === 'told');
    await clinician.click(`${part('story')} [data-testid=part-open]`);
    await clinician.click(`${part('story')} [aria-label="Before stands in the report"]`);
    await clinician.untilSays(part('story'), 'of ');
    await clinician.click('[data-testid=across-3]');
    expect(await clinician.violations()).toEqual([]);
    await clinician.until('the last of it is kept', async () => {
      const [kept] = await clinic.rows<{ across: string }>(
        `select body->>'across' as across from visit_report`
      );
      return kept?.across === '3';
    });

    await open(assistant, `/visits/${visitId}/report`);
    const seen = await reportSays(assistant, 'Why');
    expect(seen).not.toContain(found);
    expect(seen).not.toContain('Sore since the boat came in.');
    expect(
      await assistant.run(
        `return [...document.querySelectorAll('[data-testid=report-part]')].map((each) => each.dataset.key).slice(0, 3)`
      )
    ).toEqual(['story', 'told', 'findings']);
  });

  it('names the patient where that is asked for, and says so before it is shared; in the chart it is the same paper', async () => {
    const name = await clinician.text('[data-testid=band-name]');
    await clinician.click('[data-testid=names-full]');
    await reportSays(clinician, name);
    await clinician.click('[data-testid=paper-print]');
    await clinician.untilSays('[data-testid=share-warning]', `It names ${name} in full.`);
    await clinician.press(Key.ESCAPE);
    await clinician.click('[data-testid=paper-to-chart]');
    let papers: { title: string; pages: number; bytes: number }[] = [];
    await clinician.until('it lies with the papers', async () => {
      papers = await clinic.rows(
        `select p.title, p.pages, b.size as bytes from paper p join blob b using (clinic_id, sha256)
         where p.title like 'Report%'`
      );
      return papers.length === 1;
    });
    expect(papers[0].title).toContain(name);
    expect(papers[0].pages).toBe(
      await clinician.run(`return document.querySelectorAll('[data-testid=sheet]').length`)
    );
  });

  it('is sent as one of the visit’s papers; where it can’t go, Dispatch says why', async () => {
    const wren = await Asking.as(clinic, 'wren', password);
    const settings = plainDestination({ kind: 'mail', to: 'nurse@harbour.example' });
    const { status } = await wren.send('POST', '/api/destinations', { name: 'Harbour nurse', settings });
    expect(status).toBe(200);
    await open(clinician, `/visits/${visitId}/report`);
    await reportSays(clinician, 'Why');
    await clinician.click('[data-testid=paper-send-to]');
    await (await clinician.find('[data-testid=paper-words]')).sendKeys('As we said.');
    expect(await clinician.violations()).toEqual([]);
    await clinician.click('[data-testid=paper-send]');
    await clinician.untilCount('[data-testid=send-paper-form]', 0);
    const sent = await clinic.rows<{ title: string }>(
      'select title from parcel_paper join paper using (clinic_id, paper_id)'
    );
    expect(sent.map(({ title }) => title)).toEqual([expect.stringMatching(/^Report /)]);
    await open(clinician, '/dispatch');
    await clinician.untilSays('[data-testid=open-parcel]', '1 paper, PDF');
    // This clinic has no mail server.
    await clinician.until('it says why', async () =>
      (await clinician.run<string>('return document.body.innerText')).includes('No mail server is set up.')
    );
  });

  it('tells of a name that stands in its words while it has initials alone', async () => {
    const [{ given_name: given }] = await clinic.rows<{ given_name: string }>(
      `select given_name from patient where patient_id = '${patientId}'`
    );
    await open(clinician, `/visits/${visitId}/story`);
    await type(clinician, 'question', `What does ${given} want to know?`);
    await clinician.untilKept();
    await clinician.click('[data-testid=to-report]');
    await clinician.click('[data-testid=names-initials]');
    await reportSays(clinician, 'want to know?');
    await clinician.until('the patient has initials', async () => {
      const head = await clinician.run<string>(
        `return document.querySelector('[data-testid=sheet] p').textContent`
      );
      return !head.includes(await clinician.text('[data-testid=band-name]'));
    });
    await clinician.click('[data-testid=paper-download]');
    await clinician.untilSays('[data-testid=share-named]', given.toLowerCase());
    expect(await clinician.violations()).toEqual([]);
    await clinician.press(Key.ESCAPE);
  });
});

describe('two charts that are one patient', () => {
  it('are compared line by line, joined, found by either number, and parted again', async () => {
    const [other] = await clinic.rows<{ patient_id: string; record_number: string; given_name: string }>(
      `select patient_id, record_number, given_name from patient
       where kind = 'person' and record_number like 'QS-%' and patient_id <> '${patientId}' order by record_number limit 1`
    );
    await open(clinician, `/patients/${patientId}`);
    await clinician.click('[data-testid=join-charts]');
    await clinician.until('the search has the focus', () =>
      clinician.run(`return document.activeElement?.matches('[data-testid=whose]')`)
    );
    await clinician.press(...other.record_number);
    await clinician.find('[role=option]');
    await clinician.press(Key.ARROW_DOWN, Key.ENTER);
    await clinician.untilSays('[data-testid=both-charts]', other.record_number);
    await clinician.find('[data-testid=births-differ]');
    expect(await (await clinician.find('[data-testid=join]')).isEnabled()).toBe(false);
    await (await clinician.find('[data-testid=join-reason]')).sendKeys('Entered twice');
    await clinician.click('[data-testid=join]');
    await clinician.untilSays('[data-testid=joined-chart]', other.record_number);
    await open(assistant, `/patients/${other.patient_id}`);
    const [{ record_number }] = await clinic.rows<{ record_number: string }>(
      `select record_number from patient where patient_id = '${patientId}'`
    );
    expect(await assistant.text('[data-testid=band-number]')).toContain(record_number);
    // An assistant reads that it happened, and does not undo it.
    await assistant.find('[data-testid=joined-chart]');
    expect(await assistant.all('[data-testid=part-charts]')).toHaveLength(0);
    await clinician.click('[data-testid=part-charts]');
    await (await clinician.find('[data-testid=part-reason]')).sendKeys('Two cousins');
    await clinician.click('[data-testid=part]');
    await clinician.until('the other chart is its own again', async () =>
      (await clinician.text('[data-testid=band-number]')).includes(other.record_number)
    );
    await clinician.untilSays('[data-testid=joined-chart]', 'Two cousins');
  });
});
