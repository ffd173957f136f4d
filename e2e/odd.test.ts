import { randomUUID } from 'node:crypto';
import { Key } from 'selenium-webdriver';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { password } from '../demo/clinic';
import { Asking } from './harness/asking';
import { Browser } from './harness/browser';
import { stage } from './harness/readings';
import { RunningClinic } from './harness/running';

let clinic: RunningClinic;
let browser: Browser;
let visitId = '';
const ids: Record<string, string> = {};

const grey = (width: number, height: number, value: (x: number, y: number) => number) =>
  sharp(
    Uint8Array.from({ length: width * height }, (_, i) => value(i % width, Math.floor(i / width))),
    { raw: { width, height, channels: 1 }, limitInputPixels: false }
  )
    .toColourspace('b-w')
    .png({ compressionLevel: 1 })
    .toBuffer();

beforeAll(async () => {
  clinic = await RunningClinic.start({ past: [], sensor: false });
  const asking = await Asking.as(clinic, 'orsin', password);
  const [{ patient, room }] = await clinic.rows<Record<string, string>>(
    `select p.patient_id as patient, r.room_id as room from patient p join room r using (clinic_id)
     where p.record_number = 'QS-1060' and r.name = 'Teeth'`
  );
  visitId = String(
    (await asking.send('POST', '/api/visits', { patientId: patient, roomId: room })).said.visitId
  );
  const files: Record<string, Buffer> = {
    'one pixel': await grey(1, 1, () => 90),
    'one grey': await grey(300, 200, () => 128),
    'very large': await grey(12_000, 12_000, (x, y) => ((x >> 6) + (y >> 6)) & 255)
  };
  for (const [name, bytes] of Object.entries(files)) {
    const where = `/api/visits/${visitId}/files?name=${encodeURIComponent(name)}.png`;
    const { status, said, text } = await asking.send('POST', where, new Uint8Array(bytes));
    expect(status, `${name}: ${text}`).toBe(200);
    ids[name] = String(said.pictureId);
  }
  browser = await Browser.open(clinic.origin);
  await browser.signIn('orsin', password);
});
afterAll(async () => {
  await browser?.close();
  await clinic?.stop();
});

async function open(name: string, station: string): Promise<void> {
  await browser.go(`/visits/${visitId}/${station}?picture=${ids[name]}`);
  await browser.untilLive();
  await browser.find(`${stage}[data-picture="${ids[name]}"]`);
}
const rows = () => browser.all('[data-testid=reading-row]');

describe.each(['one pixel', 'one grey', 'very large'])('a picture of %s', (name) => {
  it('is seen at each station, through a long look, tilted, and measured as far as there is something', async () => {
    await open(name, 'check');
    await browser.run(`document.querySelector('${stage}').focus()`);
    await browser.press('v');
    await browser.find('[data-testid=add-step]');
    for (const kind of ['local-contrast', 'unsharp']) {
      await browser.click('[data-testid=add-step]');
      await browser.click(`[data-testid=add-${kind}]`);
    }
    await browser.find(`${stage}[data-sharp=true]`);
    // A menu that closes gives the focus back to its button, however late.
    await browser.untilCount('[role=menu]', 0);
    for (let i = 0; i < 20; i++) {
      await browser.run(`document.querySelector('[aria-label="Tilt in degrees, clockwise"]').focus()`);
      await browser.press(Key.ARROW_RIGHT);
    }
    await browser.untilSays('[data-testid=tilt-words]', '2.0°');
    await browser.find(`${stage}[data-sharp=true]`);
    await browser.untilKept();
    await open(name, 'measure');
    await browser.click('[data-testid=tool-length]');
    const box = await (await browser.find(stage)).getRect();
    const [x, y] = [Math.round(box.width / 2), Math.round(box.height / 2)];
    await browser.drag(stage, [x - 60, y], [x + 60, y]);
    await browser.until('there is a reading', async () => (await rows()).length === 1);
    expect(await browser.text('[data-testid=reading-row]')).toMatch(/[\d.]+ ± [\d.]+ px/);
    await browser.click('[data-testid=tools-measure]');
    await browser.click('[data-testid=tool-region]');
    // Beside the small ones there is nothing to read.
    const [left, top] = name === 'one pixel' ? [12, 12] : [x - 50, y + 40];
    for (const [dx, dy] of [
      [0, 0],
      [40, 0],
      [40, 40]
    ] as const)
      await browser.drag(stage, [left + dx, top + dy], [left + dx, top + dy]);
    await browser.click('[data-testid=tool-done]');
    await browser.until('there are two', async () => (await rows()).length === 2);
    const said = { 'one grey': 'mean 128', 'very large': 'mean ' }[name] ?? 'outside';
    await browser.untilSays('g[data-kind=region] [data-testid=drawing-words]', said);
    await browser.untilKept();
  });
});

it('what a newer program has put on a picture is left as it is, and the rest is shown', async () => {
  const step = (seq: number, kind: string, version: number, body: string) =>
    clinic.rows(
      `insert into picture_step (clinic_id, picture_id, seq, act, made_by, kind, item, version, body)
       select clinic_id, picture_id, (select max(seq) from picture_step where picture_id = p.picture_id) + ${seq},
         '${randomUUID()}', (select user_id from user_account where sign_in_name = 'orsin'), '${kind}', null, ${version}, '${body}'
       from picture p where picture_id = '${ids['one grey']}'`
    );
  await step(1, 'look', 99, '{"steps":[{"kind":"dream"}]}');
  await step(1, 'hologram', 1, '{}');
  await open('one grey', 'check');
  await browser.untilSays(
    '[aria-label="About this picture"]',
    'can’t be read by this program and is not shown; it is kept as it is'
  );
  await open('one grey', 'measure');
  await browser.until('the readings are there', async () => (await rows()).length === 2);
});
