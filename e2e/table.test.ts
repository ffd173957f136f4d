import { Key } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { password } from '../demo/clinic';
import { past } from '../demo/past';
import { roomVisits } from '../demo/rooms';
import { Browser } from './harness/browser';
import { RunningClinic } from './harness/running';

let clinic: RunningClinic;
let browser: Browser;
let loop: { visit_id: string; picture_id: string };
let tooth: { visit_id: string; picture_id: string; tray_id: string };
let wrist: { patient_id: string };

beforeAll(async () => {
  const rooms = roomVisits.filter(({ patient }) => ['QS-A222', 'QS-1040'].includes(patient));
  clinic = await RunningClinic.start({ past: past.slice(0, 2), rooms, sensor: false });
  browser = await Browser.open(clinic.origin);
  [loop] = await clinic.rows<typeof loop>('select visit_id, picture_id from picture where frames > 1');
  [tooth] = await clinic.rows<typeof tooth>(
    `select p.visit_id, p.picture_id, s.tray_id from picture p join standing s using (picture_id)
     join visit v on v.visit_id = p.visit_id join room r using (room_id)
     where r.name = 'Teeth' and p.source = 'device' and s.keeper order by v.opened_at desc, p.number limit 1`
  );
  [wrist] = await clinic.rows<typeof wrist>(`select patient_id from patient where record_number = 'QS-1040'`);
  await browser.signIn('orsin', password);
});
afterAll(async () => {
  await browser?.close();
  await clinic?.stop();
});

async function open(station: string, { visit_id, picture_id }: typeof loop): Promise<void> {
  await browser.go(`/visits/${visit_id}/${station}?picture=${picture_id}`);
  await browser.untilLive();
  await browser.find(`[data-testid=stage][data-picture="${picture_id}"]`);
}
const focusStage = () => browser.run('document.querySelector("[data-testid=stage]").focus()');
const readings = () =>
  browser.run<string[]>(
    `return [...document.querySelectorAll('[data-testid=reading]')].map((reading) => reading.innerText)`
  );

describe('frames', () => {
  const words = () => browser.text('[data-testid=frame-words]');
  const frameOnStage = () =>
    browser.run<string>(`return document.querySelector('[data-testid=stage]').dataset.frame`);
  const isFrame = (number: number) =>
    browser.until(
      `frame ${number} is drawn`,
      async () =>
        (await words()).startsWith(`Frame ${number} of`) && (await frameOnStage()) === String(number - 1)
    );

  it('go on and back by arrow keys, to the ends by Home and End', async () => {
    await open('check', loop);
    await isFrame(1);
    await focusStage();
    await browser.press(Key.ARROW_RIGHT, Key.ARROW_RIGHT);
    await isFrame(3);
    await browser.press(Key.ARROW_LEFT);
    await isFrame(2);
    await browser.press(Key.END);
    await isFrame(32);
    await browser.press(Key.ARROW_RIGHT, Key.HOME);
    await isFrame(1);
  });
  it('are led by the slider too, by its keys and by a press on it', async () => {
    await browser.run('document.querySelector("[role=slider]").focus()');
    await browser.press(Key.ARROW_RIGHT);
    await isFrame(2);
    await browser.drag('[role=slider]', [12, 12], [380, 12]);
    const [frame] = (await words()).match(/\d+/)!;
    expect(Number(frame)).toBeGreaterThan(12);
    await isFrame(Number(frame));
  });
  it('are other pictures one by one', async () => {
    const sums = await browser.driver.executeAsyncScript<number[]>(
      `const [done, id] = [arguments[1], arguments[0]];
       Promise.all([0, 9, 31].map((frame) => fetch('/api/pictures/' + id + '/levels/0?frame=' + frame)
         .then((answer) => answer.arrayBuffer())
         .then((bytes) => new Uint8Array(bytes).reduce((sum, value, i) => (sum * 31 + value) % 1000003, 7)))).then(done);`,
      loop.picture_id
    );
    expect(new Set(sums).size).toBe(3);
  });
});

describe('measuring', () => {
  it('by keyboard alone: a length and an angle, placed, moved, taken back and brought back', async () => {
    await open('measure', tooth);
    await focusStage();
    await browser.press('l', Key.ENTER);
    await browser.press(...Array<string>(12).fill(Key.ARROW_RIGHT), Key.ENTER);
    // The first Enter brings the cross, the second placed the first end where it had been led to.
    await browser.driver
      .actions()
      .keyDown(Key.SHIFT)
      .sendKeys(Key.ARROW_DOWN, Key.ARROW_DOWN)
      .keyUp(Key.SHIFT)
      .perform();
    await browser.press(Key.ENTER);
    await browser.until('the length is there', async () => (await readings()).length === 1);
    const [length] = await readings();
    expect(length).toMatch(/ ± .* mm$/);

    await browser.press('a', Key.ENTER, Key.ENTER);
    await browser.driver
      .actions()
      .keyDown(Key.SHIFT)
      .sendKeys(...Array<string>(6).fill(Key.ARROW_RIGHT))
      .keyUp(Key.SHIFT)
      .perform();
    await browser.press(Key.ENTER);
    await browser.driver
      .actions()
      .keyDown(Key.SHIFT)
      .sendKeys(...Array<string>(6).fill(Key.ARROW_DOWN))
      .keyUp(Key.SHIFT)
      .perform();
    await browser.press(Key.ENTER);
    await browser.until('the angle is there', async () => (await readings()).length === 2);
    expect(Math.abs(parseFloat((await readings())[1]) - 90)).toBeLessThan(0.5);

    await browser.run(`document.querySelector('[data-kind=length] [data-index="0"]').focus()`);
    await browser.driver.actions().keyDown(Key.SHIFT).sendKeys(Key.ARROW_LEFT).keyUp(Key.SHIFT).perform();
    await browser.until('the length has changed', async () => (await readings())[0] !== length);
    const [moved] = await readings();
    await browser.untilKept();
    const undo = (shift: boolean) => {
      const keys = browser.driver.actions().keyDown(Key.CONTROL);
      return (shift ? keys.keyDown(Key.SHIFT).sendKeys('z').keyUp(Key.SHIFT) : keys.sendKeys('z'))
        .keyUp(Key.CONTROL)
        .perform();
    };
    await undo(false);
    await browser.until('the move is taken back', async () => (await readings())[0] === length);
    await undo(false);
    await browser.until('the angle is taken back', async () => (await readings()).length === 1);
    await undo(true);
    await browser.until('the angle is back', async () => (await readings()).length === 2);
    await undo(true);
    await browser.until('the move is back', async () => (await readings())[0] === moved);
  });

  it('leaves what others made when somebody takes back', async () => {
    await browser.untilKept();
    const before = await readings();
    await browser.signOut();
    await browser.signIn('mara', password);
    await open('measure', tooth);
    expect(await readings()).toEqual(before);
    expect(await (await browser.find('[data-testid=take-back]')).isEnabled()).toBe(false);
    await browser.click('[data-testid=tool-length]');
    await browser.drag('[data-testid=stage]', [200, 100], [260, 100]);
    await browser.until('hers is there', async () => (await readings()).length === before.length + 1);
    await browser.click('[data-testid=take-back]');
    await browser.until(
      'hers alone is gone',
      async () => JSON.stringify(await readings()) === JSON.stringify(before)
    );
    await browser.untilKept();
  });

  it('by touch: a press at each end, and two fingers zoom without placing anything', async () => {
    await open('measure', tooth);
    const before = (await readings()).length;
    const zoom = () =>
      browser.run<string>(
        `return [...document.querySelectorAll('[data-testid=stage] span')].at(-1).innerText`
      );
    await browser.click('[data-testid=tool-length]');
    const touch = (...events: [string, number, number, number][]) =>
      browser.run(
        `const stage = document.querySelector('[data-testid=stage]');
         stage.setPointerCapture = () => {};
         const box = stage.getBoundingClientRect();
         for (const [type, pointerId, x, y] of arguments[0])
           stage.dispatchEvent(new PointerEvent(type, { pointerId, pointerType: 'touch', isPrimary: pointerId === 1,
             bubbles: true, cancelable: true, clientX: box.x + x, clientY: box.y + y }));`,
        events
      );
    await touch(['pointerdown', 1, 150, 150], ['pointerup', 1, 150, 150]);
    const was = await zoom();
    await touch(
      ['pointerdown', 1, 200, 200],
      ['pointerdown', 2, 300, 200],
      ['pointermove', 2, 400, 200],
      ['pointerup', 2, 400, 200],
      ['pointerup', 1, 200, 200]
    );
    await browser.until('it is nearer', async () => (await zoom()) !== was);
    expect((await readings()).length).toBe(before);
    await touch(['pointerdown', 1, 320, 240], ['pointerup', 1, 320, 240]);
    await browser.until('the length is there', async () => (await readings()).length === before + 1);
  });
});

it('several trays of a visit: another is laid, filled from the bench, and stays beside the first', async () => {
  await browser.go(`/visits/${tooth.visit_id}/acquire`);
  await browser.untilLive();
  await browser.click('[data-testid=pattern]');
  await browser.click('[data-testid=pattern-choice]:not([disabled])');
  await browser.untilCount('[data-testid^=tray-]', 2);
  const trays = await clinic.rows<{ tray_id: string; number: number }>(
    `select tray_id, number from tray where visit_id = '${tooth.visit_id}' order by number`
  );
  expect(trays.map((tray) => tray.number)).toEqual([1, 2]);
  await browser.until(
    'the new one is in front, empty',
    async () => (await browser.all('[data-state=next]')).length === 1
  );
  await browser.click(`[data-testid=tray-${trays[0].tray_id}]`);
  await browser.until(
    'the first is as it was',
    async () => (await browser.all('[data-state=next]')).length === 0
  );
  await browser.go(`/visits/${tooth.visit_id}/acquire`);
  await browser.untilLive();
  await browser.untilCount('[data-testid^=tray-]', 2);
});

it('takes of a slot lie side by side, one of them in hand', async () => {
  const [slot] = await clinic.rows<{ visit_id: string; picture_id: string }>(
    `select p.visit_id, p.picture_id from picture p join standing s using (picture_id)
     where s.keeper and (select count(*) from standing o where o.tray_id = s.tray_id and o.slot_id = s.slot_id) > 1 limit 1`
  );
  await open('check', slot);
  await browser.click('[data-testid=together]');
  await browser.until('several are there, and each is drawn', () =>
    browser.run<boolean>(
      `const all = [...document.querySelectorAll('[data-testid=stage]')];
       return all.length > 1 && all.every((stage) => stage.dataset.picture)`
    )
  );
  const ids = await browser.run<string[]>(
    `return [...document.querySelectorAll('[data-testid=stage]')].map((stage) => stage.dataset.picture)`
  );
  expect(new Set(ids).size).toBe(ids.length);
  expect(ids).toContain(slot.picture_id);
  const zooms = () =>
    browser.run<number[]>(
      `return [...document.querySelectorAll('[data-testid=stage]')].map((stage) => Number(stage.dataset.zoom))`
    );
  const fitting = await zooms();
  const zoomOne = () =>
    browser.run(
      `const stage = document.querySelector('[data-testid=stage]'); stage.focus();
       for (let i = 0; i < 3; i++) stage.dispatchEvent(new KeyboardEvent('keydown', { key: '+', bubbles: true }))`
    );
  await zoomOne();
  await browser.until('all are zoomed as one', async () =>
    (await zooms()).every((zoom, i) => Math.abs(zoom / fitting[i] - 1.25 ** 3) < 0.06)
  );
  await browser.click('[data-testid=linked]');
  const before = await zooms();
  await zoomOne();
  await browser.until('one is zoomed alone', async () => {
    const [first, ...others] = await zooms();
    return first > before[0] && others.every((zoom, i) => zoom === before[i + 1]);
  });
});

it('the chart of a wrist shows bones and no teeth, and limits the pictures to what is chosen', async () => {
  await browser.go(`/patients/${wrist.patient_id}`);
  await browser.untilLive();
  expect(await browser.all('[data-place^="tooth:"]')).toHaveLength(0);
  expect(
    await (await browser.find('[data-place="bone:person:wrist:right"]')).getAttribute('aria-label')
  ).toContain('2 pictures');
  await browser.untilCount('[data-testid=chart-picture]', 2);
  await browser.run(`document.querySelector('[data-place="bone:person:hand:left"]').focus()`);
  await browser.press(' ');
  await browser.untilCount('[data-testid=chart-picture]', 0);
  await browser.press(' ');
  await browser.untilCount('[data-testid=chart-picture]', 2);
});

describe('the frame of a picture', () => {
  const turn = () =>
    browser.run<string>('return document.querySelector("[data-testid=tilt-words]").innerText');
  const zoom = () =>
    browser.run<number>('return Number(document.querySelector("[data-testid=stage]").dataset.zoom)');
  const take = async (tool: string) => {
    await browser.click('[data-testid=tools-frame]');
    await browser.click(`[data-testid=tool-${tool}]`);
  };

  it('is tilted by a line that should be level, by a slider, and stands straight again', async () => {
    await open('check', tooth);
    await focusStage();
    await browser.press('v');
    await take('tilt');
    // It falls by 40 in 400 towards the right.
    await browser.drag('[data-testid=stage]', [150, 250], [550, 290]);
    await browser.untilSays('[data-testid=tilt-words]', '−5.7°');
    await browser.untilSays('[data-testid=look-words]', 'tilted');
    await browser.run(`document.querySelector('[aria-label="Tilt in degrees, clockwise"]').focus()`);
    await browser.press(Key.ARROW_RIGHT, Key.ARROW_RIGHT);
    await browser.untilSays('[data-testid=tilt-words]', '−5.5°');
    await browser.untilKept();
    await open('check', tooth);
    await browser.press('v');
    expect(await turn()).toBe('−5.5°');
    await browser.click('[data-testid=stand-straight]');
    await browser.untilSays('[data-testid=tilt-words]', '0.0°');
    await browser.click('[data-testid=take-back]');
    await browser.untilSays('[data-testid=tilt-words]', '−5.5°');
  });

  it('is cropped by a rectangle, which fills the stage, is taken back, and comes off', async () => {
    const before = await zoom();
    await take('crop');
    await browser.drag('[data-testid=stage]', [300, 200], [308, 206]);
    await browser.untilSays('[data-sonner-toast]', 'too little');
    await take('crop');
    await browser.drag('[data-testid=stage]', [250, 180], [450, 320]);
    await browser.find('[data-testid=cropped]');
    await browser.until('it fills the stage', async () => (await zoom()) > 2 * before);
    await browser.untilSays('[data-testid=look-words]', 'cropped');
    // The small picture is made anew: until it has come there is the one before, or none.
    let shape = NaN;
    await browser.until('the small picture is as wide as the crop', async () => {
      shape = await browser.run<number>(
        `const small = document.querySelector('[data-record="${tooth.picture_id}"] img, [data-picture-id="${tooth.picture_id}"] img') ??
           [...document.querySelectorAll('img')].find((img) => img.src.includes('${tooth.picture_id}'));
         return small.naturalWidth / small.naturalHeight`
      );
      return shape > 1.3;
    });
    expect(shape).toBeLessThan(1.55);
    await browser.click('[data-testid=take-back]');
    await browser.until('all is shown', async () => Math.abs((await zoom()) - before) < 2);
    await browser.click('[data-testid=bring-back]');
    await browser.find('[data-testid=cropped]');
    await browser.click('[data-testid=show-all]');
    await browser.untilCount('[data-testid=cropped]', 0);
    await browser.until('all is shown again', async () => Math.abs((await zoom()) - before) < 2);
  });
});

it('a tray lies on the stage as it is arranged, each slot named, one picture in hand', async () => {
  await open('check', tooth);
  await browser.click('[data-testid=side-by-side]');
  await browser.click('[data-testid=side-tray]');
  const slots = await clinic.rows<{ picture_id: string; name: string }>(
    `select s.picture_id, s.slot_id as name from standing s where s.tray_id = '${tooth.tray_id}' and s.keeper`
  );
  await browser.untilCount('[data-testid=stage]', slots.length);
  const boxes = () =>
    browser.run<Record<string, { x: number; y: number; width: number }>>(
      `return Object.fromEntries([...document.querySelectorAll('[data-testid=stage]')].map((each) => {
         const { x, y, width } = each.getBoundingClientRect();
         return [each.dataset.picture, { x, y, width }];
       }))`
    );
  await browser.until('all are drawn', async () => !('' in (await boxes())));
  // The right side of the mouth is seen on the left; bitewings stand in one row.
  const laid = await boxes();
  const across = await clinic.rows<{ picture_id: string; x: number }>(
    `select s.picture_id, (one->'at'->>'x')::float8 as x from standing s
     join pattern p on p.clinic_id = s.clinic_id and p.pattern_id = s.pattern_id and p.version = s.pattern_version,
     jsonb_array_elements(p.slots) one where s.tray_id = '${tooth.tray_id}' and s.keeper and one->>'id' = s.slot_id
     order by x`
  );
  expect(across).toHaveLength(slots.length);
  for (const [i, { picture_id }] of across.entries())
    if (i > 0 && across[i].x > across[i - 1].x)
      expect(laid[picture_id].x).toBeGreaterThan(laid[across[i - 1].picture_id].x);
  const last = across.at(-1)!.picture_id;
  await browser.click(`[data-testid=stage][data-picture="${last}"]`);
  await browser.until('it is in hand', async () =>
    (await browser.run<string>('return location.search')).includes(last)
  );
  expect(await browser.run('return location.search')).toContain('on=tray');
  await focusStage();
  await browser.press('j');
  await browser.untilCount('[data-testid=stage]', 1);
});
