import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { Key } from 'selenium-webdriver';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { password } from '../demo/clinic';
import { inverse, onto } from '../src/lib/core/raster/geometry/similarity';
import type { Point } from '../src/lib/core/raster/orientation';
import { Asking } from './harness/asking';
import { Browser } from './harness/browser';
import { RunningClinic } from './harness/running';

const size = { width: 600, height: 450 };
/** How the earlier picture lies on today's. */
const laid = { scale: 1.15, turn: 0.1, shift: { x: -30, y: -40 } };
const spotAt = { x: 380, y: 210 };
const stage = '[data-testid=stage]';
const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'yonder-beside-'));

/** Where discs lie: irregular, so that no place looks like another. */
const discs: [x: number, y: number, r: number][] = [
  [90, 80, 26],
  [210, 160, 38],
  [500, 90, 30],
  [540, 340, 44],
  [130, 350, 34],
  [270, 400, 22],
  [420, 390, 18],
  [330, 70, 20]
];
const discAt = ({ x, y }: Point) =>
  discs.reduce((sum, [u, v, r]) => sum + 35 * Math.max(0, 1 - ((x - u) ** 2 + (y - v) ** 2) / r ** 2), 0);

/** Soft shapes, and today a spot that was not there before. */
const scene = ({ x, y }: Point, spot: boolean) =>
  100 +
  discAt({ x, y }) +
  40 * Math.sin(x / 37) * Math.cos(y / 29) +
  25 * Math.sin((x + 2 * y) / 21) +
  (spot && Math.hypot(x - spotAt.x, y - spotAt.y) < 22 ? 60 : 0);

function png(at: (point: Point) => number): Promise<Buffer> {
  const { width, height } = size;
  const data = Uint8Array.from({ length: width * height }, (_, i) =>
    Math.max(0, Math.min(255, at({ x: (i % width) + 0.5, y: Math.floor(i / width) + 0.5 })))
  );
  return sharp(data, { raw: { width, height, channels: 1 } })
    .toColourspace('b-w')
    .png()
    .toBuffer();
}

let clinic: RunningClinic;
let browser: Browser;
let visitId = '';
/** Today's, in the order they came; the first shows what the earlier one does. */
let today: string[] = [];
let earlier = '';

beforeAll(async () => {
  clinic = await RunningClinic.start({ sensor: false });
  browser = await Browser.open(clinic.origin);
  const asking = await Asking.as(clinic, 'orsin', password);
  const rooms = await clinic.rows<{ patient_id: string; room_id: string; name: string }>(
    `select p.patient_id, r.room_id, r.name from patient p join room r using (clinic_id)
     where p.record_number = 'QS-1060' and r.name in ('Teeth', 'Bones')`
  );
  const bring = async (visit: string, name: string, bytes: Buffer) =>
    String(
      (await asking.send('POST', `/api/visits/${visit}/files?name=${name}.png`, new Uint8Array(bytes))).said
        .pictureId
    );
  const visits: Record<string, string> = {};
  for (const { patient_id: patientId, room_id: roomId, name } of rooms)
    visits[name] = String((await asking.send('POST', '/api/visits', { patientId, roomId })).said.visitId);
  earlier = await bring(
    visits.Bones,
    'before',
    await png((point) => 255 - 0.7 * scene(onto(laid, point), false))
  );
  visitId = visits.Teeth;
  today = [await bring(visitId, 'after', await png((point) => scene(point, true)))];
  for (const shift of [100, 200])
    today.push(
      await bring(visitId, `more-${shift}`, await png(({ x, y }) => scene({ x: x + shift, y }, false)))
    );
  const places = [{ kind: 'tooth', tooth: 36 }];
  await asking.send('POST', '/api/links', {
    links: [today[0], earlier].map((pictureId) => ({ pictureId, places }))
  });
  await browser.signIn('orsin', password);
});
afterAll(async () => {
  await browser?.close();
  await clinic?.stop();
  fs.rmSync(folder, { recursive: true, force: true });
});

async function open(pictureId = today[0]): Promise<void> {
  await browser.go(`/visits/${visitId}/measure?picture=${pictureId}`);
  await browser.untilLive();
  await browser.find(`${stage}[data-picture="${pictureId}"]`);
}
const onStage = () =>
  browser.run<string[]>(
    `return [...document.querySelectorAll('[data-testid=stage]')].map((stage) => stage.dataset.picture)`
  );
const untilOnStage = (count: number) =>
  browser.until(`${count} are drawn`, async () => (await onStage()).filter(Boolean).length === count);
/** Presses at a point of a picture that fits its stage. */
async function press(which: number, { x, y }: Point): Promise<void> {
  const [left, top, width, height] = await browser.run<number[]>(
    `const box = document.querySelectorAll('[data-testid=stage]')[arguments[0]].getBoundingClientRect();
     return [box.left, box.top, box.width, box.height]`,
    which
  );
  const zoom = Math.min(width / size.width, height / size.height);
  await browser.driver
    .actions()
    .move({
      x: Math.round(left + width / 2 + (x - size.width / 2) * zoom),
      y: Math.round(top + height / 2 + (y - size.height / 2) * zoom)
    })
    .press()
    .release()
    .perform();
}
const violations = () => browser.violations();

describe('several pictures', () => {
  it('lie side by side by a key, the one in hand taken by a press, and stay so when the page is loaded anew', async () => {
    await open();
    await browser.press('j');
    await untilOnStage(2);
    expect(await onStage()).toEqual(today.slice(0, 2));
    await browser.press('j');
    await untilOnStage(3);
    await press(2, { x: 300, y: 200 });
    await browser.until('the third is in hand', async () =>
      (await browser.run<string>('return location.search')).includes(`picture=${today[2]}`)
    );
    await browser.driver.navigate().refresh();
    await browser.untilLive();
    await untilOnStage(3);
    expect(await onStage()).toEqual(today);
    expect(await browser.text('[data-testid=place-name][aria-pressed=true]')).toBe('more-200.png');
    expect(await violations()).toEqual([]);
  });

  it('are windowed as one where that is wished, each kept with the change', async () => {
    await browser.click('[data-testid=side-by-side]');
    await browser.click('[data-testid=link-window]');
    await browser.drag(`${stage}[data-picture="${today[2]}"]`, [100, 100], [140, 80]);
    await browser.untilKept();
    await browser.until('all three have it', async () => {
      const rows = await clinic.rows<{ picture_id: string; width: number }>(
        `select distinct on (picture_id) picture_id, (body->'steps'->0->>'width')::float8 as width
         from picture_step where kind = 'look' order by picture_id, seq desc`
      );
      return rows.length === 3 && new Set(rows.map(({ width }) => Math.round(width))).size === 1;
    });
    await browser.click('[data-testid=side-by-side]');
    await browser.click('[data-testid=side-1]');
    await untilOnStage(1);
  });
});

it('no address lays another patient’s picture under this one’s name', async () => {
  const asking = await Asking.as(clinic, 'orsin', password);
  const [other] = await clinic.rows<{ patient_id: string; room_id: string }>(
    `select p.patient_id, r.room_id from patient p join room r using (clinic_id)
     where p.record_number = 'QS-1031' and r.name = 'Teeth'`
  );
  const { visitId: visit } = (
    await asking.send('POST', '/api/visits', { patientId: other.patient_id, roomId: other.room_id })
  ).said;
  const bytes = new Uint8Array(await png(() => 90));
  const { pictureId } = (await asking.send('POST', `/api/visits/${String(visit)}/files?name=o.png`, bytes))
    .said;
  await browser.go(
    `/visits/${visitId}/measure?picture=${today[0]}&on=${today[0]}.${String(pictureId)}.${earlier}`
  );
  await browser.untilLive();
  // The patient's own earlier picture comes; the place of the other one stays empty.
  await untilOnStage(2);
  expect(await onStage()).toEqual([today[0], earlier]);
});

describe('then and now', () => {
  it('finds the earlier picture of the place, and lays it over by points that are common to both', async () => {
    await open();
    await browser.press('k');
    await browser.untilCount('[data-testid=earlier]', 1);
    await browser.click('[data-testid=earlier]');
    await untilOnStage(2);
    expect(await onStage()).toEqual([earlier, today[0]]);
    await browser.click('[data-testid=linked]');
    for (const here of [
      { x: 140, y: 110 },
      { x: 480, y: 150 },
      { x: 300, y: 330 }
    ]) {
      await press(0, onto(inverse(laid), here));
      await browser.untilSays('[data-testid=then-panel] [role=status]', 'present one');
      await press(1, here);
      await browser.untilSays('[data-testid=then-panel] [role=status]', 'earlier picture');
    }
    const said = await browser.text('[data-testid=then-fit]');
    const off = Number(/by 3 points, which are ([\d.]+) px/.exec(said)?.[1]);
    // A screen pixel of these stages is less than two of the picture.
    expect(off, said).toBeLessThan(4);
    const [{ body }] = await clinic.rows<{ body: { pairs: { here: Point; there: Point }[] } }>(
      `select body from picture_step where kind = 'common' order by seq desc limit 1`
    );
    for (const { here, there } of body.pairs) {
      const wanted = onto(laid, there);
      expect(Math.hypot(here.x - wanted.x, here.y - wanted.y)).toBeLessThan(5);
    }
  });

  it('shows them as a slider that keys move, and by turns', async () => {
    await browser.click('[data-testid=then-mode-slider]');
    await browser.find('[data-testid=then-over][data-come=true]');
    await browser.run(`document.querySelector('[data-testid=wipe]').focus()`);
    await browser.press(Key.HOME, Key.ARROW_RIGHT);
    expect(await (await browser.find('[data-testid=wipe]')).getAttribute('aria-valuenow')).toBe('2');
    expect(await violations()).toEqual([]);
    await browser.click('[data-testid=then-mode-blink]');
    await browser.click('[role=switch]');
    await browser.click('[data-testid=blink]');
    await browser.until(
      'the other one is seen',
      async () =>
        (await browser.text('[data-testid=over-words]')).startsWith('Then') ===
        (await browser.text('[data-testid=blink]')).includes('present')
    );
  });

  it('shows as change what came anew, and nothing else, though the earlier one is darker and inverted', async () => {
    await browser.click('[data-testid=then-mode-difference]');
    await browser.find('[data-testid=changes-over]');
    const greyAt = (point: Point) =>
      browser.run<number>(
        `const canvas = document.querySelector('[data-testid=changes-over]');
         const x = Math.round(arguments[0] / ${size.width} * canvas.width);
         const y = Math.round(arguments[1] / ${size.height} * canvas.height);
         const all = canvas.getContext('2d').getImageData(x - 3, y - 3, 7, 7).data;
         let sum = 0;
         for (let i = 0; i < 49; i++) sum += all[4 * i];
         return sum / 49`,
        point.x,
        point.y
      );
    await browser.until('the spot is bright', async () => (await greyAt(spotAt)) > 190);
    for (const point of [
      { x: 200, y: 150 },
      { x: 300, y: 300 },
      { x: 450, y: 300 }
    ])
      expect(Math.abs((await greyAt(point)) - 128), JSON.stringify(point)).toBeLessThan(30);
  });

  it('finds common points by itself, marked as found until somebody moves them', async () => {
    await browser.click('[data-testid=then-mode-side]');
    for (let left = 3; left > 0; left--) {
      await browser.click('[data-testid=last-off]');
      await browser.untilSays('[data-testid=then-panel] h3', `Common points: ${left - 1} of 4`);
    }
    await browser.click('[data-testid=then-find]');
    await browser.untilSays('[data-testid=then-fit]', 'Laid over by 4 points');
    await browser.untilSays('[data-testid=then-found]', 'found by the computer');
    await browser.untilKept();
    const pairs = async () => {
      const [{ body }] = await clinic.rows<{
        body: { pairs: { here: Point; there: Point; found?: true }[] };
      }>(`select body from picture_step where kind = 'common' order by seq desc limit 1`);
      return body.pairs;
    };
    for (const { here, there, found } of await pairs()) {
      const wanted = onto(laid, there);
      expect(Math.hypot(here.x - wanted.x, here.y - wanted.y)).toBeLessThan(2);
      expect(found).toBe(true);
    }
    expect(await violations()).toEqual([]);
    await browser.run(
      `document.querySelector('${stage}[data-picture="${today[0]}"] [data-index="0"]').focus()`
    );
    await browser.press(Key.ARROW_RIGHT);
    await browser.untilKept();
    await browser.until('one is as it was placed', async () => (await pairs()).some(({ found }) => !found));
    expect((await pairs()).filter(({ found }) => found)).toHaveLength(3);
  });

  it('takes a pair of points back like any other act', async () => {
    await browser.click('[data-testid=take-back]');
    await browser.click('[data-testid=take-back]');
    await browser.untilSays('[data-testid=then-panel] h3', 'Common points: 0 of 4');
    await browser.click('[data-testid=then-close]');
    await untilOnStage(1);
  });
});

/** What a link on the page leads to, fetched by the page itself. */
const fetched = (css: string) =>
  browser.driver.executeAsyncScript<{ status: number; name: string; text: string }>(
    `const [css, done] = arguments;
     fetch(document.querySelector(css).href).then(async (answer) => done({
       status: answer.status,
       name: decodeURIComponent(answer.headers.get('content-disposition') ?? ''),
       text: (await answer.text()).slice(0, 400)
     }))`,
    css
  );

it('a look is kept under a name, and given to other pictures in values of their own', async () => {
  await open();
  await browser.press('v');
  const width = await browser.find('[data-testid=window-width]');
  await browser.run('arguments[0].select()', width);
  await width.sendKeys('60', Key.ENTER);
  await browser.click('[data-testid=look-menu]');
  await browser.click('[data-testid=keep-look]');
  await (await browser.find('[data-testid=look-name]')).sendKeys('Fine apex');
  expect(await violations()).toEqual([]);
  await browser.click('[data-testid=look-keep]');
  await browser.find('[data-testid=own-look]');
  await browser.untilKept();
  const shares = async () => {
    const rows = await clinic.rows<{ picture_id: string; look: number; first: number }>(
      `select distinct on (s.picture_id) s.picture_id, (s.body->'steps'->0->>'width')::float8 as look,
         (p.first_look->'steps'->0->>'width')::float8 as first
       from picture_step s join picture p using (picture_id)
       where s.kind = 'look' and p.visit_id = '${visitId}' order by s.picture_id, s.seq desc`
    );
    return new Map(rows.map(({ picture_id: id, look, first }) => [id, look / first]));
  };
  const wanted = (await shares()).get(today[0])!;
  await browser.press(Key.PAGE_DOWN);
  await browser.find(`${stage}[data-picture="${today[1]}"]`);
  await browser.click('[data-testid=own-look]');
  await browser.click('[role=option]');
  await browser.until(
    'the next one has it',
    async () => Math.abs(((await shares()).get(today[1]) ?? 0) - wanted) < 0.01
  );
  await browser.click('[data-testid=look-menu]');
  await browser.click('[data-testid=give-look]');
  await browser.until('all have it', async () => {
    const all = await shares();
    return today.every((id) => Math.abs((all.get(id) ?? 0) - wanted) < 0.01);
  });
  await browser.press('v');
});

describe('kept views', () => {
  const cards = () => browser.all('[data-testid=kept-card]');

  it('are made by one key of what the stage shows, with what is drawn on it', async () => {
    await open();
    await browser.click('[data-testid=tool-length]');
    await browser.drag(stage, [200, 200], [400, 200]);
    await browser.untilCount('[data-testid=reading-row]', 1);
    await browser.press('q');
    await browser.run(`document.querySelector('[data-testid=stage]').focus()`);
    await browser.press('+', '+', '+', 'q');
    await browser.untilKept();
    await browser.click('[data-testid=kept]');
    await browser.untilCount('[data-testid=kept-card]', 2);
    await browser.untilCount('[data-testid=kept-picture][data-come=true]', 2);
    const [whole, part] = await clinic.rows<{ width: number; words: string }>(
      `select (body->'window'->>'width')::float8 as width, body->'drawings'->0->>'words' as words
       from picture_step where kind = 'kept' order by seq`
    );
    expect(whole.width).toBe(size.width);
    expect(part.width).toBeLessThan(0.8 * size.width);
    expect(part.words).toMatch(/^[\d.]+ ± [\d.]+ px$/);
    expect(await violations()).toEqual([]);
  });

  it('are drawn on afterwards, on them alone, and what was drawn is taken off again', async () => {
    const drawings = async () =>
      (
        await clinic.rows<{ words: string[] }>(
          `select array(select jsonb_array_elements(body->'drawings')->>'words') as words
           from picture_step where kind = 'kept' order by seq desc limit 1`
        )
      )[0].words;
    const before = await drawings();
    await browser.click('[data-testid=kept-draw]');
    const sheet = '[role=dialog] [data-testid=stage]';
    await browser.find(`${sheet}[data-picture]`);
    await browser.drag(sheet, [200, 100], [300, 180]);
    await browser.click('[data-testid=draw-text]');
    await browser.find(`${sheet}[data-picture]`);
    await browser.drag(sheet, [400, 200], [400, 200]);
    await (await browser.find('[data-testid=draw-words]')).sendKeys('caries?', Key.ENTER);
    await browser.until('both are kept', async () => (await drawings()).length === before.length + 2);
    expect((await drawings()).slice(-2)).toEqual(['', 'caries?']);
    expect(await violations()).toEqual([]);
    await browser.click('[data-testid=draw-last-off]');
    await browser.click('[data-testid=draw-last-off]');
    await browser.until('they are off', async () => (await drawings()).length === before.length);
    await browser.press(Key.ESCAPE);
    await browser.untilCount('[role=dialog]', 0);
    const [{ count }] = await clinic.rows<{ count: string }>(
      `select count(*) from picture_step where kind in ('arrow', 'text')`
    );
    expect(Number(count)).toBe(0);
  });

  it('leave as pictures', async () => {
    const { status, name, text } = await fetched('[data-testid=kept-out]');
    expect([status, text.slice(1, 4)]).toEqual([200, 'PNG']);
    expect(name).toMatch(/picture-\d{4}-\d\d-\d\d\.png$/);
  });

  it('are named, told what they are for, put in order, several changed at once, and stay so', async () => {
    const name = await browser.find('[data-testid=kept-name]');
    await name.sendKeys('Contact point', Key.TAB);
    await browser.run(`document.querySelectorAll('[data-testid=kept-remark]')[0].focus()`);
    await browser.driver.actions().sendKeys('open by a hair', Key.TAB).perform();
    await browser.run(
      `document.querySelector('[aria-label="Contact point later"], [data-testid=kept-card] button:has(.lucide-arrow-down)').click()`
    );
    await browser.until('it comes second', async () =>
      browser.run<boolean>(
        `return document.querySelectorAll('[data-testid=kept-name]')[1]?.value === 'Contact point'`
      )
    );
    for (const tick of await browser.all('[data-testid=kept-choose]')) await tick.click();
    await browser.click('[data-testid=chosen-kind]');
    await browser.click('[role=option][data-value="for a letter"]');
    await browser.untilKept();
    await browser.driver.navigate().refresh();
    await browser.untilLive();
    await browser.untilCount('[data-testid=kept-card]', 2);
    expect(
      await browser.run<string[]>(
        `return [...document.querySelectorAll('[data-testid=kept-name]')].map((input) => input.value)`
      )
    ).toEqual(['', 'Contact point']);
    for (const kind of await browser.all('[data-testid=kept-kind]'))
      expect(await kind.getText()).toBe('for a letter');
  });

  it('are taken away, and the picture they were made of stays', async () => {
    await (await browser.all('[data-testid=kept-choose]'))[0].click();
    await browser.click('[data-testid=chosen-drop]');
    await browser.until('one is left', async () => (await cards()).length === 1);
    expect(await browser.text('[data-testid=kept]')).toContain('1');
    await browser.click('[data-testid=band-name]');
    await browser.untilSays('[data-testid=kept-of-day]', '1 kept view');
    await browser.untilLive();
    await browser.click('[data-testid=kept-of-day]');
    await browser.untilCount('[data-testid=kept-card]', 1);
  });
});

it('a picture is taken out as it is seen, and its readings as a table', async () => {
  await open();
  await browser.click('[data-testid=take-out]');
  await browser.click('[data-testid=out-bar]');
  const seen = await fetched('[data-testid=out-go]');
  expect([seen.status, seen.text.slice(1, 4)]).toEqual([200, 'PNG']);
  expect(await violations()).toEqual([]);
  await browser.click('[data-testid=out-csv]');
  const table = await fetched('[data-testid=out-go]');
  expect(table.text).toMatch(/picture,places,taken,reading/);
  expect(table.text).toMatch(
    /after\.png,tooth 36,[^,]+,Length 1,Length,,[\d.]+,[\d.]+,px,none: pixels,Orsin Vael/
  );
  await browser.click('[data-testid=out-presentation]');
  const file = path.join(folder, 'seen.dcm');
  const bytes = await browser.driver.executeAsyncScript<string>(
    `const done = arguments[0];
     fetch(document.querySelector('[data-testid=out-go]').href).then((answer) => answer.arrayBuffer()).then((bytes) =>
       done(btoa(Array.from(new Uint8Array(bytes), (byte) => String.fromCharCode(byte)).join(''))))`
  );
  fs.writeFileSync(file, Buffer.from(bytes, 'base64'));
  await browser.press(Key.ESCAPE);
  await browser.click('[data-testid=reading-menu]');
  await browser.click('[data-testid=remove-reading]');
  await browser.untilCount('[data-testid=reading-row]', 0);
  await browser.untilKept();
  await browser.click('[data-testid=take-out]');
  await (await browser.find('[data-testid=read-told]')).sendKeys(file);
  await browser.untilCount('[data-testid=reading-row]', 1);
  // One with many outlines is larger than what a page usually sends; what no such object could be is refused.
  const asking = await Asking.as(clinic, 'orsin', password);
  const told = `/api/pictures/${today[0]}/told`;
  expect((await asking.send('POST', told, new Uint8Array(300_000))).said.code).toBe('not-readable');
  expect((await asking.send('POST', told, new Uint8Array(4_100_000))).said.code).toBe('too-large');
});

it('a reading over time stands with its ± beside those of earlier pictures of the place', async () => {
  const asking = await Asking.as(clinic, 'orsin', password);
  const end = (x: number) => ({ x, y: 200, uncertaintyPx: 1 });
  const body = { ends: [end(100), end(220)] };
  const changes = [{ kind: 'length', item: 'earlier-length', body }];
  expect((await asking.send('POST', `/api/pictures/${earlier}/acts`, { changes })).status).toBe(200);
  await open();
  await browser.click('[data-testid=reading-menu]');
  await browser.click('[data-testid=over-time-of]');
  await browser.untilSays('[data-testid=course-change]', 'more than the measuring itself');
  expect(await browser.text('[data-testid=over-time]')).toContain('120.0 ± 2.8 px');
  expect(await violations()).toEqual([]);
  await browser.press(Key.ESCAPE);
});

it('the overview tells what there is and what there is not; what is picked by keys opens together', async () => {
  await browser.click('[data-testid=side-by-side]');
  await browser.click('[data-testid=to-overview]');
  await browser.until('it is there', async () =>
    (await browser.run<string>('return location.pathname')).endsWith('/overview')
  );
  await browser.untilLive();
  const label = (place: string) =>
    browser.run<string>(`return document.querySelector('[data-place="${place}"]').ariaLabel`);
  expect(await label('tooth:36')).toMatch(/2 pictures$/);
  expect(await label('tooth:11')).toMatch(/no picture$/);
  expect(await label('no place')).toMatch(/2 pictures$/);
  await browser.run(`document.querySelector('[data-place="tooth:36"]').focus()`);
  await browser.press(' ');
  await browser.untilCount('[data-testid=overview-picture]', 2);
  expect(await violations()).toEqual([]);
  for (const tick of await browser.all('[data-testid=overview-picture] [aria-checked=false]'))
    await tick.click();
  await browser.untilSays('[data-testid=open-together]', 'Open 2 together');
  await browser.click('[data-testid=open-together]');
  await browser.untilLive();
  await untilOnStage(2);
  expect(new Set(await onStage())).toEqual(new Set([today[0], earlier]));
});
