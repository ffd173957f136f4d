import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { password } from '../demo/clinic';
import { past } from '../demo/past';
import { roomVisits } from '../demo/rooms';
import { fullMouth as fullMouth18 } from '../src/lib/core/tray/shipped/fullMouth';
import { Asking } from './harness/asking';
import { Browser } from './harness/browser';
import { RunningClinic } from './harness/running';

let clinic: RunningClinic;
let browser: Browser;

interface RoomRow {
  room: string;
  visit_id: string;
  patient_id: string;
  name: string;
  record: string;
  pictures: number;
}
let rooms: RoomRow[];
let fullMouth: { visit_id: string };

beforeAll(async () => {
  // A wrist in slots, a dog's hips on the bench, nine gazes of an eye, and four bitewings.
  const some = roomVisits.filter(({ patient }) => ['QS-1040', 'QS-A250', 'QS-1023'].includes(patient));
  clinic = await RunningClinic.start({ past: past.slice(0, 1), rooms: some, sensor: false });
  rooms = await clinic.rows<RoomRow>(
    `select distinct on (r.name) r.name as room, v.visit_id, v.patient_id, p.record_number as record,
            trim(p.given_name || ' ' || p.family_name) as name,
            (select count(*)::int from picture q where q.visit_id = v.visit_id) as pictures
     from visit v join room r using (room_id) join patient p using (patient_id)
     where exists (select 1 from picture q where q.visit_id = v.visit_id) order by r.name, v.opened_at desc`
  );
  fullMouth = await filledMouth();
  browser = await Browser.open(clinic.origin);
  await browser.signIn('orsin', password);
});
afterAll(async () => {
  await browser?.close();
  await clinic?.stop();
});

/** A visit whose tray of a full mouth has a picture in every slot, of the shape that the slot has. */
async function filledMouth(): Promise<{ visit_id: string }> {
  const asking = await Asking.as(clinic, 'orsin', password);
  const [{ patient, room }] = await clinic.rows<Record<string, string>>(
    `select p.patient_id as patient, r.room_id as room from patient p join room r using (clinic_id)
     where p.record_number = 'QS-1060' and r.name = 'Teeth'`
  );
  const { visitId } = (await asking.send('POST', '/api/visits', { patientId: patient, roomId: room })).said;
  const [{ tray_id: trayId }] = await clinic.rows<{ tray_id: string }>(
    `select tray_id from tray where visit_id = '${String(visitId)}'`
  );
  const { pattern, route } = fullMouth18;
  const laid = { kind: 'tray-laid', pattern: pattern.ref, route: route.ref };
  expect((await asking.send('POST', `/api/trays/${trayId}`, laid)).status).toBe(200);
  for (const { id, shape } of pattern.slots) {
    const [width, height] = shape === 'standing' ? [260, 340] : [340, 260];
    const png = await sharp(Buffer.alloc(width * height, 120), { raw: { width, height, channels: 1 } })
      .png()
      .toBuffer();
    const where = `/api/visits/${String(visitId)}/files?name=${id}.png&tray=${trayId}&slot=${id}`;
    expect((await asking.send('POST', where, new Uint8Array(png))).status, id).toBe(200);
  }
  return { visit_id: String(visitId) };
}

async function open(where: string): Promise<void> {
  await browser.go(where);
  await browser.untilLive();
  await browser.untilSmallPictures();
}

/** Words that are cut off where they stand, of those that must never be. */
const cutOff = (css: string) =>
  browser.run<string[]>(
    `return [...document.querySelectorAll(arguments[0])]
       .filter((each) => each.scrollWidth > each.clientWidth + 1 || each.scrollHeight > each.clientHeight + 2)
       .map((each) => each.innerText)`,
    css
  );

interface Box {
  left: number;
  top: number;
  right: number;
  bottom: number;
}
const boxes = (css: string) =>
  browser.run<Box[]>(
    `return [...document.querySelectorAll(arguments[0])].map((each) => each.getBoundingClientRect())
       .map(({ left, top, right, bottom }) => ({ left, top, right, bottom }))`,
    css
  );
const overlap = (a: Box, b: Box) =>
  Math.min(a.right, b.right) - Math.max(a.left, b.left) > 2 &&
  Math.min(a.bottom, b.bottom) - Math.max(a.top, b.top) > 2;

/** How bright and how varied the middle of the stage is, as a person sees it. */
async function seenOnStage(): Promise<{ mean: number; spread: number }> {
  const [box] = await boxes('[data-testid=stage]');
  const shot = await browser.driver.takeScreenshot();
  return browser.driver.executeAsyncScript(
    `const [shot, box, done] = arguments;
     const image = new Image();
     image.onload = () => {
       const [w, h] = [Math.round((box.right - box.left) / 2), Math.round((box.bottom - box.top) / 2)];
       const canvas = new OffscreenCanvas(w, h);
       const context = canvas.getContext('2d');
       context.drawImage(image, box.left + w / 2, box.top + h / 2, w, h, 0, 0, w, h);
       const { data } = context.getImageData(0, 0, w, h);
       let [sum, squares] = [0, 0];
       for (let i = 0; i < data.length; i += 4) { sum += data[i + 1]; squares += data[i + 1] ** 2; }
       const mean = sum / (w * h);
       done({ mean, spread: Math.sqrt(squares / (w * h) - mean ** 2) });
     };
     image.src = 'data:image/png;base64,' + shot;`,
    shot,
    box
  );
}

describe('every room', () => {
  it('shows its pictures on the stage: neither black nor white nor empty', async () => {
    expect(rooms.map((each) => each.room)).toEqual(['Animals', 'Bones', 'Eyes', 'Teeth']);
    for (const { room: name, visit_id } of rooms) {
      await open(`/visits/${visit_id}/check`);
      await browser.until(
        `a picture of ${name} is drawn`,
        async () => (await browser.all('[data-testid=stage][data-picture]:not([data-picture=""])')).length > 0
      );
      await browser.until(`${name} is seen`, async () => (await seenOnStage()).spread > 8);
      const { mean } = await seenOnStage();
      expect(mean, name).toBeGreaterThan(15);
      expect(mean, name).toBeLessThan(240);
    }
  });

  it('names the patient in full, has its tools in one row, and nothing reaches past the edge, at 1280 and at 1024', async () => {
    for (const width of [1280, 1024]) {
      await browser.resize(width, 800);
      for (const { room: name, visit_id, name: patient, record } of rooms)
        for (const station of ['check', 'scale', 'measure']) {
          await open(`/visits/${visit_id}/${station}`);
          expect(await browser.text('[data-testid=band-name]'), name).toBe(patient);
          expect(await browser.text('[data-testid=band-number]'), name).toContain(record);
          expect(
            await cutOff('[data-testid=band-name], [data-testid=band-number]'),
            `${name} at ${width}`
          ).toEqual([]);
          const tops = (await boxes('[role=toolbar] button')).map(({ top }) => Math.round(top));
          expect(tops.length, `${name} ${station}`).toBeGreaterThan(2);
          expect(Math.max(...tops) - Math.min(...tops), `${name} ${station} at ${width}`).toBeLessThan(12);
          expect(
            await browser.run('return document.documentElement.scrollWidth <= innerWidth'),
            `${name} ${station} at ${width}`
          ).toBe(true);
        }
    }
    await browser.resize(1280, 800);
  });

  it('draws a map of what its pictures show, and none of teeth for a wrist or an eye', async () => {
    const marks = () =>
      browser.run<string[]>(
        `return [...document.querySelectorAll('[data-place]')].map((each) => each.dataset.place)`
      );
    const kinds: Record<string, string> = { Teeth: 'tooth', Bones: 'bone', Animals: 'bone', Eyes: 'eye' };
    for (const { room: name, patient_id } of rooms) {
      await open(`/patients/${patient_id}`);
      const drawn = await marks();
      expect(
        drawn.some((key) => key.startsWith(`${kinds[name]}:`)),
        `${name}: ${drawn.join(' ')}`
      ).toBe(true);
      if (name !== 'Teeth')
        expect(
          drawn.filter((key) => key.startsWith('tooth:')),
          name
        ).toEqual([]);
    }
  });

  it('tells in words what would leave before it shows any table', async () => {
    for (const { room: name, visit_id } of rooms) {
      await open(`/visits/${visit_id}/de-identify`);
      await browser.until(`it is told for ${name}`, () =>
        browser.run(
          `return /Replaced[^]*name/.test(document.querySelector('[data-testid=leaving-words]')?.innerText ?? '')`
        )
      );
      expect(await browser.all('table'), name).toHaveLength(0);
    }
  });
});

describe('the tray of a full mouth', () => {
  const wells = '[data-testid^="well-"]';
  it('has wells that stand apart, at 1280 and at 1024', async () => {
    for (const width of [1280, 1024]) {
      await browser.resize(width, 800);
      await open(`/visits/${fullMouth.visit_id}/acquire`);
      const all = await boxes(wells);
      expect(all.length).toBeGreaterThan(10);
      for (const [i, a] of all.entries())
        for (const b of all.slice(i + 1))
          expect(overlap(a, b), `${JSON.stringify([a, b])} at ${width}`).toBe(false);
    }
    await browser.resize(1280, 800);
  });
  it('shows each picture whole, in a well of its shape', async () => {
    await open(`/visits/${fullMouth.visit_id}/acquire`);
    await browser.untilSmallPictures();
    const shown = await browser.run<{ aspect: number; well: number; fit: string }[]>(
      `return [...document.querySelectorAll(arguments[0] + ' img[data-testid=small]')].map((image) => ({
         aspect: image.naturalWidth / image.naturalHeight,
         well: image.clientWidth / image.clientHeight,
         fit: getComputedStyle(image).objectFit
       }))`,
      wells
    );
    expect(shown.length).toBeGreaterThan(10);
    for (const { aspect, well, fit } of shown) {
      expect(fit).toBe('contain');
      // The share of its well that the picture fills.
      const filled = Math.min(aspect / well, well / aspect);
      expect(filled, `picture ${aspect.toFixed(2)}, well ${well.toFixed(2)}`).toBeGreaterThan(0.8);
      expect(aspect > 1).toBe(well > 1);
    }
  });
  it('carries no words over its pictures that are too small to be read', async () => {
    await open(`/visits/${fullMouth.visit_id}/acquire`);
    const sizes = await browser.run<number[]>(
      `return [...document.querySelectorAll(arguments[0])].flatMap((well) =>
         [...well.querySelectorAll('*')]
           .filter((each) => [...each.childNodes].some((node) => node.nodeType === 3 && node.data.trim() !== ''))
           .map((each) => parseFloat(getComputedStyle(each).fontSize)))`,
      wells
    );
    for (const size of sizes) expect(size).toBeGreaterThanOrEqual(12);
  });
});
