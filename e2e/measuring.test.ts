import { Key } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { password } from '../demo/clinic';
import { past } from '../demo/past';
import { roomVisits } from '../demo/rooms';
import { Browser } from './harness/browser';
import { Readings, stage } from './harness/readings';
import { RunningClinic } from './harness/running';

let clinic: RunningClinic;
let browser: Browser;
let tooth: { visit_id: string; picture_id: string };
const readings = new Readings(() => browser);
const rows = (kind: string) => readings.rows(kind);
const untilRows = (kind: string, count: number) => readings.untilRows(kind, count);

beforeAll(async () => {
  const rooms = roomVisits.filter(({ patient }) => patient === 'QS-1040');
  clinic = await RunningClinic.start({ past: past.slice(0, 1), rooms, sensor: false });
  browser = await Browser.open(clinic.origin);
  [tooth] = await clinic.rows<typeof tooth>(
    `select p.visit_id, p.picture_id from picture p join standing s using (picture_id)
     join visit v on v.visit_id = p.visit_id join room r using (room_id)
     where r.name = 'Teeth' and p.source = 'device' and s.keeper order by p.number limit 1`
  );
  await browser.signIn('mara', password);
  await open();
});
afterAll(async () => {
  await browser?.close();
  await clinic?.stop();
});

async function open(): Promise<void> {
  await browser.go(`/visits/${tooth.visit_id}/measure?picture=${tooth.picture_id}`);
  await browser.untilLive();
  await browser.find(`${stage}[data-picture="${tooth.picture_id}"]`);
}
async function take(family: 'measure' | 'draw', tool: string): Promise<void> {
  await browser.click(`[data-testid=tools-${family}]`);
  await browser.click(`[data-testid=tool-${tool}]`);
}
async function press(...points: [number, number][]): Promise<void> {
  for (const point of points) await browser.drag(stage, point, point);
}
/** What a screen pixel is in mm, by a length of 400 of them. */
let mm = 0;

describe('each measuring tool, with the pointer', () => {
  it('a length tells how large a pixel of the screen is', async () => {
    await browser.click('[data-testid=tool-length]');
    await browser.drag(stage, [150, 550], [550, 550]);
    await untilRows('length', 1);
    mm = (await readings.value('length'))[0] / 400;
    expect(mm).toBeGreaterThan(0.01);
  });
  it('a curve through three points of a half circle', async () => {
    await take('measure', 'curve');
    await press([200, 300], [229, 229], [300, 200], [371, 229], [400, 300]);
    await browser.click('[data-testid=tool-done]');
    await untilRows('curve', 1);
    await readings.expectValue('curve', 100 * Math.PI * mm);
  });
  it('how far a point is from a line, and how long a line is against another', async () => {
    await take('measure', 'to-line');
    await press([300, 120]);
    await browser.drag(stage, [500, 200], [700, 200]);
    await untilRows('to line', 1);
    await readings.expectValue('to line', 80 * mm);
    await take('measure', 'ratio');
    await browser.drag(stage, [150, 400], [350, 400]);
    await browser.drag(stage, [150, 420], [250, 420]);
    await untilRows('ratio', 1);
    await readings.expectValue('ratio', 2);
  });
  it('the angle of two lines that do not meet', async () => {
    await take('measure', 'two-lines');
    await browser.drag(stage, [150, 150], [250, 150]);
    await browser.drag(stage, [400, 150], [500, 250]);
    await untilRows('two lines', 1);
    await readings.expectValue('two lines', 45);
  });
  it('circle, ellipse and area, each done in another way', async () => {
    await take('measure', 'circle');
    await press([500, 300], [600, 300], [550, 350], [550, 250]);
    await browser.click('[data-testid=tool-done]');
    await untilRows('circle', 1);
    await readings.expectValue('circle', 100 * mm);
    await take('measure', 'ellipse');
    await press([200, 450], [400, 450], [300, 400], [300, 500], [229, 415], [371, 485]);
    await browser.press(Key.ENTER);
    await untilRows('ellipse', 1);
    await readings.expectValue('ellipse', 200 * mm);
    await take('measure', 'area');
    await press([600, 400], [700, 400], [700, 500], [600, 500], [600, 500]);
    await untilRows('area', 1);
    await readings.expectValue('area', 100 * 100 * mm * mm);
  });
  it('grey values inside an outline and along a line, read from the picture itself', async () => {
    await take('measure', 'region');
    await press([600, 200], [650, 200], [650, 250], [600, 250]);
    await browser.press(Key.ENTER);
    await browser.until('they are read', async () => /mean/.test((await rows('region'))[0] ?? ''));
    const [, pixels] = /(\d+) pixels/.exec((await rows('region'))[0])!;
    expect(Number(pixels)).toBeGreaterThan(2000);
    await take('measure', 'profile');
    await browser.drag(stage, [150, 300], [350, 310]);
    await browser.until('they are read', async () => /\d to \d/.test((await rows('profile'))[0] ?? ''));
    expect(
      await browser.all('[data-kind=profile] [role=img][aria-label*="Grey values"] canvas')
    ).toHaveLength(1);
  });
  it('points that coincide are told and place nothing', async () => {
    await browser.click('[data-testid=tool-angle]');
    await press([300, 300], [300, 300]);
    await browser.untilSays('[data-testid=tool-says]', 'where the last point lies');
    await browser.press(Key.ESCAPE, Key.ESCAPE);
    expect(await rows('angle')).toEqual([]);
  });
});

describe('drawing', () => {
  it('arrow, words, label, freehand line and outline', async () => {
    await take('draw', 'arrow');
    await browser.drag(stage, [300, 250], [400, 180]);
    await untilRows('arrow', 1);
    await take('draw', 'text');
    await press([420, 170]);
    await (await browser.find('[data-testid=say-words]')).sendKeys('Loose here', Key.ENTER);
    await untilRows('text', 1);
    await take('draw', 'label');
    await press([250, 350]);
    await (await browser.find('[data-testid=say-words]')).sendKeys('99', Key.ENTER);
    await browser.untilSays('[data-testid=say-it] [role=alert]', 'There is no tooth 99');
    await browser.click('[data-testid=say-it] button[data-testid^=label-]');
    await untilRows('label', 1);
    await take('draw', 'freehand');
    await browser.drag(stage, [450, 300], [480, 340]);
    await untilRows('freehand', 1);
    await take('draw', 'outline');
    await browser.driver
      .actions()
      .move({ origin: await browser.find(stage), x: 30, y: 30 })
      .press()
      .move({ origin: await browser.find(stage), x: 90, y: 40, duration: 60 })
      .move({ origin: await browser.find(stage), x: 70, y: 100, duration: 60 })
      .release()
      .perform();
    await untilRows('outline', 1);
    const said = await browser.run<string[]>(
      `return [...document.querySelectorAll('[data-testid=drawing-words]')].map((words) => words.textContent)`
    );
    expect(said).toContain('Loose here');
    expect(said.some((words) => /^\d\d$/.test(words))).toBe(true);
  });
  it('given up leaves nothing behind', async () => {
    await take('draw', 'text');
    await press([500, 150]);
    await browser.find('[data-testid=say-it]');
    await browser.press(Key.ESCAPE);
    await browser.untilCount('[data-testid=say-it]', 0);
    expect(await rows('text')).toHaveLength(1);
  });
});

describe('readings', () => {
  const ofFirst = async (kind: string, act: string) => {
    await browser.click(`[data-testid=reading-row][data-kind="${kind}"] [data-testid=reading-menu]`);
    await browser.click(`[data-testid=${act}]`);
  };
  const drawn = (kind: string) => browser.all(`g[data-kind="${kind}"]`);

  it('are named, hidden, and measured again with their spread', async () => {
    await ofFirst('length', 'name-reading');
    await (await browser.find('[data-testid=reading-name]')).sendKeys('Arch', Key.ENTER);
    await browser.until('it is named', async () => (await rows('length'))[0].startsWith('Arch'));
    await ofFirst('circle', 'hide-reading');
    await browser.until('it is hidden', async () => (await drawn('circle')).length === 0);
    await ofFirst('length', 'again');
    await browser.drag(stage, [150, 560], [556, 560]);
    await untilRows('length', 2);
    expect(await browser.text('[data-testid=spread]')).toMatch(/^2 times: mean [\d.]+, spread/);
  });
  it('are there as they were after the page is loaded anew, and taken back one act at a time', async () => {
    await browser.untilKept();
    // As soon as they are heard of again, they bear a name.
    await browser.until(
      'all bear a name',
      async () => !(await rows('length')).some((row) => row.includes('by you'))
    );
    const before = [await rows('length'), await rows('area'), await rows('text')];
    await open();
    expect([await rows('length'), await rows('area'), await rows('text')]).toEqual(before);
    expect(await drawn('circle')).toHaveLength(0);
    await browser.click('[data-testid=take-back]');
    await untilRows('length', 1);
    await browser.click('[data-testid=take-back]');
    await browser.until('the circle is back', async () => (await drawn('circle')).length === 1);
    await browser.click('[data-testid=bring-back]');
    await browser.until('it is hidden again', async () => (await drawn('circle')).length === 0);
  });
  it('are prepared by one and confirmed by another, until a point moves', async () => {
    await browser.untilKept();
    expect((await rows('area'))[0]).toContain('prepared by');
    expect(await browser.all('[data-testid=confirm-readings]')).toHaveLength(0);
    await browser.signOut();
    await browser.signIn('orsin', password);
    await open();
    await browser.click('[data-testid=confirm-readings]');
    await browser.until('they are confirmed', async () => (await rows('area'))[0].includes('confirmed by'));
    await browser.untilKept();
    const asked = await clinic.rows<{ n: string }>(
      `select count(distinct act) n from picture_step where kind = 'confirmed'`
    );
    expect(Number(asked[0].n)).toBe(1);
    await browser.run(`document.querySelector('g[data-kind=area] [data-index="0"]').focus()`);
    await browser.press(Key.ARROW_LEFT);
    await browser.until('it is not', async () => (await rows('area'))[0].includes('prepared by Orsin'));
    expect((await rows('curve'))[0]).toContain('confirmed by');
  });
});

describe('the look', () => {
  /** What the stage shows, as a few numbers: means of a grid of places. */
  const seen = () =>
    browser.run<number[]>(
      `const canvas = document.querySelector('[data-testid=stage] canvas');
       const small = document.createElement('canvas');
       [small.width, small.height] = [40, 30];
       const context = small.getContext('2d');
       context.drawImage(canvas, 0, 0, 40, 30);
       return [...context.getImageData(0, 0, 40, 30).data].filter((_, i) => i % 4 === 0);`
    );
  /** The same once it is sharp and stays so: a first answer is rough, and a sharper one may be on its way. */
  async function settled(): Promise<number[]> {
    let last: number[] = [];
    await browser.until('the stage stands still', async () => {
      await browser.find(`${stage}[data-sharp=true]`);
      const before = last;
      last = await seen();
      if (before.length > 0 && apart(before, last) === 0) return true;
      await new Promise((go) => setTimeout(go, 120));
      return false;
    });
    return last;
  }
  const apart = (a: number[], b: number[]) =>
    a.reduce((sum, value, i) => sum + Math.abs(value - b[i]), 0) / a.length;
  const untilSeen = (what: string, like: number[], least: number, most: number) =>
    browser.until(what, async () => {
      const difference = apart(await settled(), like);
      return difference >= least && difference <= most;
    });
  const beads = () =>
    browser.run<string[]>(
      `return [...document.querySelectorAll('[data-testid=bead]')].map((bead) => bead.dataset.step)`
    );
  const add = async (kind: string) => {
    await browser.click('[data-testid=add-step]');
    await browser.click(`[data-testid=add-${kind}]`);
  };
  let first: number[] = [];

  it('is a thread of adjustments: each added, switched off and on, changed, and dropped', async () => {
    await open();
    await browser.run('document.querySelector("[data-testid=stage]").focus()');
    await browser.press('v');
    await browser.find('[data-testid=histogram]');
    first = await settled();
    await add('local-contrast');
    await untilSeen('it is seen', first, 4, 255);
    const contrasted = await settled();
    await browser.click('[data-testid=switch-local-contrast]');
    await untilSeen('it is as before', first, 0, 0.2);
    await browser.click('[data-testid=switch-local-contrast]');
    await untilSeen('it is back', contrasted, 0, 0.2);
    // Each press counts, and once.
    for (let tenths = 21; tenths <= 30; tenths++) {
      await browser.run(`document.querySelector('[aria-label="Local contrast: How much"]').focus()`);
      await browser.press(Key.ARROW_RIGHT);
      await browser.untilSays('[data-step="local contrast"]', (tenths / 10).toFixed(1));
    }
    await untilSeen('it is stronger', contrasted, 0.02, 255);
    await add('gamma');
    expect(await beads()).toEqual(['window', 'local contrast', 'gamma']);
    await browser.click('[data-step=gamma] [data-testid=bead-menu]');
    await browser.click('[data-testid=drop-step]');
    await browser.until('it is dropped', async () => (await beads()).length === 2);
  });
  it('goes back by its knot to the picture as it was stored, and forward again', async () => {
    const now = await settled();
    await browser.run(`document.querySelector('[data-testid=knot]').focus()`);
    await browser.press(Key.ARROW_UP);
    await untilSeen('the window alone counts', first, 0, 0.2);
    await browser.press(Key.HOME);
    await browser.untilSays('[data-testid=look-words]', 'as it was stored');
    await browser.press(Key.END);
    await untilSeen('all of it counts', now, 0, 0.2);
    await browser.run(`document.querySelector('[data-testid=knot]').scrollIntoView({ block: 'center' })`);
    const thread = await (await browser.find('[data-testid=knot]')).getRect();
    await browser.drag('[data-testid=knot]', [20, 20], [20, 20 - thread.height * 3]);
    await untilSeen('pulled by hand it is the window alone', first, 0, 0.2);
    await browser.click('[data-testid=take-back]');
    await untilSeen('that is taken back', now, 0, 0.2);
  });
  it('shows the stored picture while a key is held', async () => {
    const now = await settled();
    await browser.run('document.querySelector("[data-testid=stage]").focus()');
    await browser.driver.actions().keyDown('0').perform();
    await browser.untilSays('[data-testid=look-words]', 'as it was stored');
    await browser.driver.actions().keyUp('0').perform();
    await untilSeen('it is back', now, 0, 0.2);
  });
  it('takes a window that is typed, and what is looked for, and is kept', async () => {
    const width = await browser.find('[data-testid=window-width]');
    await width.clear();
    await width.sendKeys('wide', Key.TAB);
    await browser.untilSays('aside [role=alert]', 'The width is a figure of 1 or more');
    await width.clear();
    await width.sendKeys('12000', Key.TAB);
    await browser.untilSays('[data-testid=look-words]', 'W 12000');
    await browser.run(`document.querySelector('[data-testid=preset]').focus()`);
    await browser.press(Key.ENTER);
    await browser.find('[data-testid=preset-option]');
    await browser.press(Key.ARROW_DOWN, Key.ARROW_DOWN, Key.ENTER);
    await browser.until('the thread is another', async () => (await beads()).includes('unsharp'));
    const thread = await beads();
    await browser.untilKept();
    await open();
    await browser.press('v');
    await browser.until(
      'it is as it was',
      async () => JSON.stringify(await beads()) === JSON.stringify(thread)
    );
    await browser.untilSmallPictures();
    await browser.click('[data-testid=first-look]');
    await untilSeen('it is as it came', first, 0, 0.2);
  });
});

describe('the stage', () => {
  const wide = () =>
    browser.run<number>(`return document.querySelector('[data-testid=stage]').getBoundingClientRect().width`);
  it('gets the room of the panels with one key, the whole window with another, and gives it back', async () => {
    await open();
    const before = await wide();
    await browser.run('document.querySelector("[data-testid=stage]").focus()');
    await browser.press('z');
    await browser.until('it is wide', async () => (await wide()) > before + 300);
    await browser.press('m');
    await browser.until('it is all', async () => (await wide()) > 1240);
    await browser.press(Key.ESCAPE);
    await browser.until('it is as before', async () => (await wide()) === before);
  });
});

describe('an edge', () => {
  /** How many points the newest thing of a kind has, as the records keep it. */
  const kept = async (kind: string) => {
    await browser.untilKept();
    const [row] = await clinic.rows<{ n: string }>(
      `select jsonb_array_length(body->'points') n from picture_step where kind = '${kind}' and body is not null
       order by seq desc limit 1`
    );
    return Number(row?.n ?? 0);
  };
  it('is followed while a key is held, and by a button for fingers', async () => {
    await open();
    const curves = (await rows('curve')).length;
    await take('measure', 'curve');
    const origin = await browser.find(stage);
    const at = (x: number, y: number) => ({ origin, x, y, duration: 40 });
    await browser.driver.actions().move(at(-230, -150)).press().release().perform();
    await browser.driver.actions().keyDown(Key.SHIFT).move(at(-60, -170)).press().release().perform();
    await browser.find('[data-testid=tool-done]');
    await browser.driver.actions().keyUp(Key.SHIFT).perform();
    await browser.click('[data-testid=tool-done]');
    await untilRows('curve', curves + 1);
    expect(await kept('curve')).toBeGreaterThan(4);
    await take('measure', 'curve');
    await browser.driver.actions().move(at(-230, 100)).press().release().perform();
    await browser.click('[data-testid=follow-edge]');
    await browser.driver.actions().move(at(-60, 120)).press().release().perform();
    await browser.click('[data-testid=tool-done]');
    await untilRows('curve', curves + 2);
    expect(await kept('curve')).toBeGreaterThan(4);
  });
});

describe('by fingers', () => {
  /** A finger that goes through points of the stage; one point is a tap. */
  async function finger(...way: [number, number][]): Promise<void> {
    const box = await (await browser.find(stage)).getRect();
    const on = way.map(([x, y]): [number, number] => [box.x + x, box.y + y]);
    await browser.fingers([on.length > 1 ? on : [on[0], on[0]]]);
  }
  it('an area, a distance to a line and a line drawn freely', async () => {
    await open();
    await browser.giveFingers();
    await browser.tap('[data-testid=tools-measure]');
    await browser.tap('[data-testid=tool-area]');
    const areas = (await rows('area')).length;
    for (const at of [
      [160, 330],
      [190, 330],
      [190, 360]
    ] as [number, number][])
      await finger(at);
    await browser.tap('[data-testid=tool-done]');
    await untilRows('area', areas + 1);
    await readings.expectValue('area', 450 * mm * mm, areas);
    await browser.tap('[data-testid=tools-measure]');
    await browser.tap('[data-testid=tool-to-line]');
    await finger([460, 150]);
    await finger([420, 130], [440, 130], [560, 130]);
    await untilRows('to line', 2);
    await readings.expectValue('to line', 20 * mm, 1);
    await browser.tap('[data-testid=tools-draw]');
    await browser.tap('[data-testid=tool-freehand]');
    const lines = (await rows('freehand')).length;
    await finger([440, 320], [460, 340], [480, 330], [500, 370]);
    await untilRows('freehand', lines + 1);
  });
  it('the knot of a look is pulled, and an adjustment slid', async () => {
    await browser.tap('[data-testid=panel-look]');
    await browser.tap('[data-testid=add-step]');
    await browser.tap('[data-testid=add-gamma]');
    const amount = () => browser.text('[data-step=gamma]');
    await browser.untilSays('[data-step=gamma]', '1.40');
    const thumb = await (await browser.find('[aria-label="Gamma: Gamma"]')).getRect();
    const at = (dx: number): [number, number] => [thumb.x + thumb.width / 2 + dx, thumb.y + thumb.height / 2];
    await browser.fingers([[at(0), at(5), at(12)]]);
    await browser.until('it is slid', async () => !(await amount()).includes('1.40'));
    await browser.run(`document.querySelector('[data-testid=knot]').scrollIntoView({ block: 'center' })`);
    const knot = await (await browser.find('[data-testid=knot]')).getRect();
    const on = (dy: number): [number, number] => [knot.x + 20, knot.y + 20 + dy];
    await browser.fingers([[on(0), on(-30), on(-120), on(-400)]]);
    await browser.untilSays('[data-testid=look-words]', 'as it was stored');
  });
});

const violations = () => browser.violations();

describe('axe finds nothing wrong', () => {
  it('with readings and drawings, with a label being asked for, and with the thread of a look', async () => {
    await open();
    await browser.find('[data-testid=reading-row]');
    expect(await violations()).toEqual([]);
    await take('draw', 'label');
    await press([560, 140]);
    await browser.find('[data-testid=say-it]');
    expect(await violations()).toEqual([]);
    await browser.press(Key.ESCAPE);
    await browser.click('[data-testid=panel-look]');
    await browser.click('[data-testid=add-step]');
    await browser.click('[data-testid=add-unsharp]');
    await browser.run(`document.querySelector('[data-testid=knot]').focus()`);
    await browser.press(Key.ARROW_UP);
    await browser.find('[data-step=unsharp]');
    expect(await violations()).toEqual([]);
    await browser.press(Key.END);
  });
});
