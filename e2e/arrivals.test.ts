import { execFile } from 'node:child_process';
import fs from 'node:fs';
import path from 'node:path';
import { promisify } from 'node:util';
import nodemailer from 'nodemailer';
import { Key } from 'selenium-webdriver';
import sharp from 'sharp';
import { SMTPServer } from 'smtp-server';
import { simpleParser } from 'mailparser';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { password } from '../demo/clinic';
import { freePort } from '../scripts/cluster.mjs';
import { discFile, shade, zipped } from '../src/lib/server/arrivals/arriving.test-data';
import { Browser } from './harness/browser';
import { RunningClinic } from './harness/running';

const run = promisify(execFile);
let clinic: RunningClinic;
let browser: Browser;
let doors: { mail: number; dicom: number };
let folder = '';
/** What the clinic's mail goes through, and what arrived there. */
let mailServer: SMTPServer;
const mailed: { to: string; text: string; files: string[] }[] = [];

beforeAll(async () => {
  const mailPort = await freePort();
  mailServer = new SMTPServer({
    disabledCommands: ['AUTH', 'STARTTLS'],
    onData: (stream, { envelope }, done) =>
      void simpleParser(stream).then(({ text, attachments }) => {
        const files = attachments.map(({ filename }) => filename ?? '');
        mailed.push({ to: envelope.rcptTo[0].address, text: text ?? '', files });
        done();
      })
  });
  await new Promise<void>((up) => mailServer.listen(mailPort, '127.0.0.1', up));
  clinic = await RunningClinic.start({ sensor: false, env: { YONDER_SMTP_PORT: String(mailPort) } });
  doors = await clinic.startDoors();
  browser = await Browser.open(clinic.origin);
  folder = fs.mkdtempSync(path.join(inject('cluster').folder, 'discs-'));
  await browser.signIn('mara', password);
});
afterAll(async () => {
  await browser?.close();
  await clinic?.stop();
  await new Promise<void>((done) => mailServer.close(done));
});

/** A folder on this machine, as somebody has it in their hand. */
function disc(name: string, files: Record<string, Buffer>): string {
  for (const [file, bytes] of Object.entries(files)) {
    const whole = path.join(folder, name, file);
    fs.mkdirSync(path.dirname(whole), { recursive: true });
    fs.writeFileSync(whole, bytes);
  }
  return path.join(folder, name);
}
async function bring(testid: 'arrival-folder' | 'arrival-files', what: string): Promise<void> {
  await browser.go('/arrivals');
  await browser.untilLive();
  await (await browser.find(`[data-testid=${testid}]`)).sendKeys(what);
}
const bundles = () => browser.all('[data-testid=arrival]');
const says = (css: string, words: string) => browser.untilSays(css, words);
const keys = (...all: string[]) => browser.press(...all);
/** Everything on the desk is put away, so that the next test begins with an empty one. */
async function clear(): Promise<void> {
  await clinic.rows(`update arrival set put_away_at = now() where given_to is null returning 1`);
}

/** A script that drops its package onto the page, so many times at once. */
const drop = (times: number) => `
  const bytes = Uint8Array.from(atob(arguments[0]), (c) => c.charCodeAt(0));
  for (let n = 0; n < ${times}; n++) {
    const transfer = new DataTransfer();
    transfer.items.add(new File([bytes], 'from the mainland.zip'));
    document.body.dispatchEvent(new DragEvent('drop', { dataTransfer: transfer, bubbles: true, cancelable: true }));
  }`;

describe('a disc from elsewhere', () => {
  it('tells whose its pictures are before they have come, and how many of each are here', async () => {
    const files = Object.fromEntries(
      Array.from({ length: 14 }, (_, i) => [
        `IM${i}`,
        i < 9
          ? discFile({ name: 'Tarn^Isolde', birthDate: '19710304', study: '2.25.501', number: i })
          : discFile({ name: 'Tarn^Bram', study: '2.25.502', number: i })
      ])
    );
    await browser.block('*/files?path=*');
    await bring('arrival-folder', disc('ahead', files));
    try {
      await browser.untilSays('[data-testid=coming]', 'Bram Tarn');
      expect(await browser.text('[data-testid=coming]')).toMatch(
        /Isolde Tarn[^]*4 Mar 1971[^]*0 of 9[^]*Bram Tarn[^]*0 of 5/
      );
      expect(await bundles()).toHaveLength(0);
      expect(await browser.violations()).toEqual([]);
    } finally {
      await browser.block();
    }
    await browser.untilCount('[data-testid=coming]', 0);
    await browser.untilCount('[data-testid=arrival]', 2);
    await clear();
  });

  it('with nine spellings of three people: each is proposed with its reason, and given by keys alone', async () => {
    const spelt: [string, string, string, string][] = [
      ['DUNMALLOW^CORIN', '19581217', 'Corin Dunmallow', 'the same name'],
      ['Dunmallow Corin', '19581217', 'Corin Dunmallow', 'family name first'],
      ['Dunmalow^Corin', '19581217', 'Corin Dunmallow', 'spelt nearly the same'],
      ['Harrowgate Sund^Liv', '20010427', 'Liv Harrowgate-Sund', 'the same name'],
      ['Sund^Liv', '20010427', 'Liv Harrowgate-Sund', 'part of the double name'],
      ['HARROWGATE-SUND^L', '20010427', 'Liv Harrowgate-Sund', 'L. for Liv'],
      ['Kestrelle^Tobias', '19741102', 'Tobin Kestrelle', 'Tobias like Tobin'],
      ['Tobin^Kestrelle', '19741102', 'Tobin Kestrelle', 'family name first'],
      ['Kestrelle^T', '19741102', 'Tobin Kestrelle', 'T. for Tobin']
    ];
    const files = Object.fromEntries(
      spelt.map(([name, birthDate], i) => [
        `DICOM/IM${i + 1}`,
        discFile({ name, birthDate, description: 'Wrist right PA' })
      ])
    );
    await bring('arrival-folder', disc('nine', { ...files, 'VIEWER.EXE': Buffer.from('MZ') }));
    await says('[data-testid=intake-told]', '9 came in, 1 could not be read');
    await browser.untilCount('[data-testid=arrival]', 9);
    // What was looked at first stays so, while others came in above it.
    await keys(...Array<string>(8).fill(Key.ARROW_UP));
    const seen = new Set<string>();
    for (let i = 0; i < 9; i++) {
      if (i > 0) await keys(Key.ARROW_DOWN);
      // Both of one moment: while others still come in, the desk is drawn anew.
      let [said, proposed] = ['', ''];
      await browser.until('the next one’s proposal', async () => {
        [said, proposed] = await browser.run<[string, string]>(
          `return ['file-says', 'proposed'].map((id) => document.querySelector('[data-testid=' + id + ']')?.innerText ?? '')`
        );
        return said !== '' && !seen.has(said) && proposed !== '';
      });
      seen.add(said);
      const fits = spelt.find(([, , name, reason]) => proposed.includes(name) && proposed.includes(reason));
      expect(fits, `${said}: ${proposed}`).toBeDefined();
    }
    expect(seen.size).toBe(9);
    // The first proposal by one key, the giving by another.
    const last = await browser.text('[data-testid=proposed]');
    await keys(Key.ENTER);
    await browser.find('[data-testid=whom]');
    await says('[data-testid=shown-places]', 'right wrist');
    await browser.until('the visit is proposed', async () =>
      (await browser.text('[data-testid=visit]')).includes('11 Jun 2025')
    );
    await keys(Key.ENTER);
    await browser.untilCount('[data-testid=arrival]', 8);
    const [given] = await clinic.rows<{ name: string; day: string; place: string }>(
      `select t.given_name || ' ' || t.family_name as name, to_char(v.opened_at, 'YYYY-MM-DD') as day,
         (select place_key from picture_place pp where pp.picture_id = p.picture_id) as place
       from picture p join visit v using (visit_id) join patient t on t.patient_id = p.patient_id`
    );
    expect(last).toContain(given.name);
    expect(given).toMatchObject({ day: '2025-06-11', place: 'bone:person:wrist:right' });
  });

  it('tells what could not be read, file by file, with what to do', async () => {
    await browser.click('[data-testid=intake-told]');
    await says('[data-testid=intake-lines]', 'VIEWER.EXE');
    await says('[data-testid=intake-lines]', 'not a picture that can be opened');
    await keys(Key.ESCAPE);
  });

  it('has no axe violation, full or empty', async () => {
    expect(await browser.violations()).toEqual([]);
    await clear();
    await browser.go('/arrivals');
    await says('[data-testid=arrivals]', 'Drop a disc');
    expect(await browser.violations()).toEqual([]);
  });

  it('dropped as files and a ZIP anywhere comes in as well; what is here already is said', async () => {
    const package_ = await zipped({ 'a.dcm': discFile({ name: 'Quayle^Matthis', birthDate: '19900909' }) });
    await browser.go('/');
    await browser.untilLive();
    // The second is dropped while the first still comes in, and has its turn.
    await browser.run(drop(2), package_.toString('base64'));
    await browser.until('both are over', async () => {
      const of = `select 1 from intake where from_name = 'from the mainland.zip' and ended_at is not null`;
      return (await clinic.rows(of)).length === 2;
    });
    await browser.go('/arrivals');
    await says('[data-testid=intake-told]', '0 came in, 1 was here already');
    await browser.untilCount('[data-testid=arrival]', 1);
    await says('[data-testid=proposed]', 'Matthis Quayle');
    await says('[data-testid=proposed]', 'fits');
  });
});

describe('the sorting desk', () => {
  it('splits what is picked off, and joins two by drag', async () => {
    await clear();
    const study = '2.25.4242';
    await bring(
      'arrival-folder',
      disc(
        'bundle',
        Object.fromEntries(
          [1, 2, 3].map((number) => [`s${number}.dcm`, discFile({ name: 'Pike^Osmund', study, number })])
        )
      )
    );
    await browser.untilCount('[data-testid=of-bundle]', 3);
    const ticks = await browser.all('[data-testid=pick]');
    await ticks[1].click();
    await ticks[2].click();
    await says('[data-testid=split]', 'Split off 2');
    await browser.click('[data-testid=split]');
    await browser.untilCount('[data-testid=arrival]', 2);
    await browser.untilCount('[data-testid=of-bundle]', 2);
    const [upper, lower] = [
      await browser.middleOf('[data-testid=arrival]', 0),
      await browser.middleOf('[data-testid=arrival]', 1)
    ];
    const pointer = browser.driver.actions();
    await pointer
      .move({ x: lower[0], y: lower[1] })
      .press()
      .move({ x: lower[0], y: lower[1] - 12, duration: 80 })
      .move({ x: upper[0], y: upper[1] + 4, duration: 120 })
      .move({ x: upper[0], y: upper[1], duration: 80 })
      .release()
      .perform();
    await browser.untilCount('[data-testid=arrival]', 1);
    await browser.untilCount('[data-testid=of-bundle]', 3);
  });

  it('keeps what is looked at and what is ticked while more comes in above it', async () => {
    await clear();
    const looked = { 'l1.dcm': discFile({ name: 'Kell^Rona', study: '2.25.77', number: 1 }) };
    const beside = { 'l2.dcm': discFile({ name: 'Kell^Rona', study: '2.25.77', number: 2 }) };
    await bring('arrival-folder', disc('looked at', { ...looked, ...beside }));
    await browser.untilCount('[data-testid=of-bundle]', 2);
    await browser.click('[data-testid=pick]');
    await says('[data-testid=split]', 'Split off 1');
    const more = await zipped({ 'm.dcm': discFile({ name: 'Vane^Otto', study: '2.25.78' }) });
    await browser.run(drop(1), more.toString('base64'));
    await browser.untilCount('[data-testid=arrival]', 2);
    await says('[data-testid=split]', 'Split off 1');
    expect(await bundles().then((all) => all[0].getText())).toContain('Vane');
    expect(await browser.all('[data-testid=of-bundle]')).toHaveLength(2);
  });

  it('scrolls numbered slices in their true order, by keys', async () => {
    await clear();
    const slices: Record<string, Buffer> = {};
    for (const number of [3, 11, 1, 10, 2, 4, 5, 6, 7, 8, 9, 12])
      slices[`jaw ${number}.png`] = await shade(number * 20);
    await bring('arrival-folder', disc('jaw slices', slices));
    await says('[data-testid=frame-of]', '1 of 12');
    const grey = async () => {
      const url = await (await browser.find('[data-testid=arrival-shown]')).getAttribute('src');
      const bytes = await browser.run<number[]>(
        `return fetch(arguments[0]).then((r) => r.arrayBuffer()).then((b) => [...new Uint8Array(b)])`,
        url
      );
      return (await sharp(Buffer.from(bytes)).stats()).channels[0].mean;
    };
    let before = await grey();
    for (let i = 2; i <= 12; i++) {
      await keys(Key.ARROW_RIGHT);
      await says('[data-testid=frame-of]', `${i} of 12`);
      const now = await grey();
      expect(Math.abs(now - before - 20)).toBeLessThan(4);
      before = now;
    }
  });

  it('notes, puts away and brings back, by keys', async () => {
    await browser.click('[data-testid=write-note]');
    await browser.find('[role=dialog] input');
    await keys('Asked Teal Harbour whose.', Key.ENTER);
    await says('[aria-label="About it"]', 'Asked Teal Harbour whose.');
    await keys(Key.DELETE);
    await browser.untilCount('[data-testid=arrival]', 0);
    const [{ away }] = await clinic.rows<{ away: boolean }>(
      `select put_away_at is not null as away from arrival where remark = 'Asked Teal Harbour whose.' and part_of is null`
    );
    expect(away).toBe(true);
  });
});

describe('what is sent', () => {
  const send = async (subject: string, name: string) => {
    const [{ mail_name: to }] = await clinic.rows<{ mail_name: string }>(
      `select mail_name from user_account where sign_in_name = 'mara'`
    );
    return nodemailer.createTransport({ host: '127.0.0.1', port: doors.mail, ignoreTLS: true }).sendMail({
      from: 'Skerry <images@skerry.example>',
      to: `${to}@yonder.example`,
      subject,
      text: 'Her hand, two days ago.',
      attachments: [{ filename: 'hand.dcm', content: discFile({ name, birthDate: '19900909' }) }]
    });
  };

  it('by mail is told to whom it was sent, waits apart while nobody knows the sender, and no longer when somebody does', async () => {
    await clear();
    await browser.go('/arrivals');
    await browser.untilLive();
    await browser.click('[data-testid=bring-in]');
    await browser.click('[data-testid=by-mail]');
    await browser.until('the address is shown', async () =>
      /^mara\.\w{8}@yonder\.example$/.test(await browser.text('[data-testid=mail-address]'))
    );
    await keys(Key.ESCAPE);
    await browser.go('/');
    await browser.untilLive();
    await browser.until('the mail door is open', () =>
      send('A hand', 'Quayle^Matthis').then(
        () => true,
        () => false
      )
    );
    await says('body', 'sent you a file');
    await browser.go('/arrivals');
    await says('[data-testid=arrival]', 'to you');
    await browser.find('[data-testid=strangers]');
    await says('[data-testid=arrival-note]', 'Her hand, two days ago.');
    await browser.click('[data-testid=know-sender]');
    await browser.untilCount('[data-testid=strangers]', 0);
    await browser.untilCount('[data-testid=arrival]', 1);
  });

  it('by mail goes back to whoever sent it with a word, and is put away', async () => {
    await browser.click('[data-testid=send-back]');
    await says('[role=dialog]', '1 file goes to images@skerry.example unchanged');
    expect(await browser.violations()).toEqual([]);
    await (await browser.find('[data-testid=send-back-words]')).sendKeys(' Both hands, please.');
    await browser.click('[data-testid=send-back-now]');
    await says('body', 'Sent back to images@skerry.example');
    await browser.untilCount('[data-testid=arrival]', 0);
    expect(mailed).toMatchObject([
      {
        to: 'images@skerry.example',
        text: expect.stringMatching(/Both hands, please\.\s*$/),
        files: ['hand.dcm']
      }
    ]);
  });

  it('by systems that are known, by DIMSE and DICOMweb, comes in; others are turned away', async () => {
    await clear();
    const wren = await Browser.open(clinic.origin);
    let token: string;
    try {
      await wren.signIn('wren', password);
      await wren.go('/settings/arrivals');
      await wren.untilLive();
      const add = async (kind: string, name: string, how: string | null) => {
        await wren.run(
          `[...document.querySelectorAll('[data-testid=arrival-doors] button')].find((each) => each.textContent.trim() === arguments[0]).click()`,
          kind
        );
        await (await wren.find('[data-testid=sender-name]')).sendKeys(name);
        if (how) await (await wren.find('[data-testid=sender-how]')).sendKeys(how);
        await wren.click('[data-testid=add-sender]');
        await wren.untilSays('[data-testid=arrival-doors]', name);
      };
      await add('DIMSE', 'Mainland General', 'MAINLAND');
      await add('DICOMweb', 'Teal Harbour', null);
      token = /: (\S+)$/.exec(await wren.text('[data-testid=sender-token]'))![1];
    } finally {
      await wren.close();
    }
    const file = path.join(folder, 'sent.dcm');
    fs.writeFileSync(file, discFile({ name: 'Ennis^Halvard', birthDate: '19660523' }));
    await run('storescu', ['-aet', 'MAINLAND', '127.0.0.1', String(doors.dicom), file]);
    await expect(
      run('storescu', ['-aet', 'NOBODY', '127.0.0.1', String(doors.dicom), file])
    ).rejects.toThrow();
    const stow = (shown: string) =>
      fetch(`${clinic.origin}/dicomweb/studies`, {
        method: 'POST',
        headers: {
          authorization: `Bearer ${shown}`,
          'content-type': 'multipart/related; type="application/dicom"; boundary=b1'
        },
        body: new Uint8Array(
          Buffer.concat([
            Buffer.from('--b1\r\nContent-Type: application/dicom\r\n\r\n'),
            discFile({ name: 'Skerrow^Ewan', birthDate: '19791230' }),
            Buffer.from('\r\n--b1--\r\n')
          ])
        )
      });
    expect((await stow('made-up')).status).toBe(401);
    expect((await stow(token)).status).toBe(200);
    await browser.go('/arrivals');
    await browser.untilCount('[data-testid=arrival]', 2);
    const names = [];
    for (const each of await bundles()) names.push(await each.getText());
    expect(names.join(' ')).toMatch(
      /Ewan Skerrow.*Teal Harbour[\s\S]*Halvard Ennis.*Mainland General|Ewan Skerrow[\s\S]*Teal Harbour[\s\S]*Halvard Ennis[\s\S]*Mainland General/
    );
  });
});
