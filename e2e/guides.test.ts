import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { Key } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { password } from '../demo/clinic';
import { distalRadius } from '../src/lib/core/measurement/guides/wrist';
import { evaluated } from '../src/lib/core/measurement/guides/evaluate';
import { sceneRadiograph } from '../src/lib/core/phantom/bones/kit';
import { wristScene } from '../src/lib/core/phantom/bones/wrist';
import { toothRoot } from '../src/lib/core/phantom/foreign/toothRoot';
import { seededRandom } from '../src/lib/core/random';
import type { Point } from '../src/lib/core/raster/orientation';
import { Asking } from './harness/asking';
import { Browser } from './harness/browser';
import { RunningClinic } from './harness/running';
import { stage } from './harness/readings';

let clinic: RunningClinic;
let browser: Browser;
let visitId = '';
const pictures: Record<'front' | 'side', string> = { front: '', side: '' };
const scenes = {
  front: scene('front'),
  side: scene('side')
};
function scene(from: 'front' | 'side') {
  const wish = { seed: 4, side: 'right', inclinationDeg: 24, volarTiltDeg: 9, ulnarVarianceMm: 1.5 } as const;
  return sceneRadiograph(wristScene(wish, from), 4);
}
/** What the simulated body calls the guide's landmarks. */
const namesInBody: Record<string, string> = {
  styloid: 'radial styloid',
  'axis lower': 'radius axis far'
};
function truthAt(view: 'front' | 'side', key: string): Point {
  const at = (name: string) => scenes[view].known[name].imagePoint;
  if (key !== 'axis upper') return at(namesInBody[key] ?? key);
  // Its end lies outside the picture: a place on the same axis, in sight.
  const [far, near] = [at('radius axis far'), at('radius axis near')];
  return { x: far.x + 0.5 * (near.x - far.x), y: far.y + 0.5 * (near.y - far.y) };
}
/** What the guide makes of the landmarks where they truly are. */
const truthOf = (key: string): number => {
  const views = Object.fromEntries(
    distalRadius.views.map(({ key: view, landmarks }) => [
      view,
      {
        points: Object.fromEntries(
          landmarks.map((each) => [
            each.key,
            { ...truthAt(view as 'front' | 'side', each.key), uncertaintyPx: 1 }
          ])
        ),
        scale: null
      }
    ])
  );
  const found = evaluated(distalRadius, views).find(({ formula }) => formula.key === key);
  if (found?.outcome !== 'value') throw new Error(`${key} gives no value`);
  return found.value.value;
};

beforeAll(async () => {
  clinic = await RunningClinic.start({ sensor: false });
  browser = await Browser.open(clinic.origin);
  const asking = await Asking.as(clinic, 'mara', password);
  const [of] = await clinic.rows<{ patient_id: string; room_id: string }>(
    `select p.patient_id, r.room_id from patient p join room r using (clinic_id)
     where p.record_number = 'QS-1060' and r.name = 'Bones'`
  );
  const visit = { patientId: of.patient_id, roomId: of.room_id };
  visitId = String((await asking.send('POST', '/api/visits', visit)).said.visitId);
  for (const view of ['front', 'side'] as const)
    pictures[view] = await asking.bring(visitId, view, scenes[view].raster);
  await browser.signIn('mara', password);
});
afterAll(async () => {
  await browser?.close();
  await clinic?.stop();
});

const violations = () => browser.violations();
async function open(view: 'front' | 'side'): Promise<void> {
  await browser.go(`/visits/${visitId}/measure?picture=${pictures[view]}`);
  await browser.untilLive();
  await browser.find(`${stage}[data-picture="${pictures[view]}"]`);
}
const stageSize = () =>
  browser.run<[number, number]>(
    `const box = document.querySelector('${stage}').getBoundingClientRect(); return [box.width, box.height]`
  );
/** Where an image point lies on the stage, which shows all of the picture, and how large a pixel is there. */
const onStage = async (view: 'front' | 'side', at: Point): Promise<Point & { zoom: number }> =>
  placeOnStage(await stageSize(), scenes[view].raster, at);
function placeOnStage(
  [width, height]: [number, number],
  raster: { width: number; height: number },
  { x, y }: Point
): Point & { zoom: number } {
  const zoom = Math.min(width / raster.width, height / raster.height);
  return {
    x: width / 2 + (x - raster.width / 2) * zoom,
    y: height / 2 + (y - raster.height / 2) * zoom,
    zoom
  };
}
async function placed(view: 'front' | 'side', key: string): Promise<void> {
  const { x, y } = await onStage(view, truthAt(view, key));
  const at: [number, number] = [Math.round(x), Math.round(y)];
  await browser.drag(stage, at, at);
}
/** Leads the cross from where it stands by the arrow keys alone, and places the point. */
async function placedByKeys(view: 'front' | 'side', key: string, from: Point): Promise<Point> {
  const to = await onStage(view, truthAt(view, key));
  const by = { x: Math.round(to.x - from.x), y: Math.round(to.y - from.y) };
  const steps = (count: number, less: string, more: string) => {
    const arrow = count < 0 ? less : more;
    const [tens, ones] = [Math.floor(Math.abs(count) / 10), Math.abs(count) % 10];
    return { arrow, tens, ones };
  };
  await browser.run(`document.querySelector('${stage}').focus()`);
  const actions = browser.driver.actions();
  for (const { arrow, tens, ones } of [
    steps(by.x, Key.ARROW_LEFT, Key.ARROW_RIGHT),
    steps(by.y, Key.ARROW_UP, Key.ARROW_DOWN)
  ]) {
    actions.keyDown(Key.SHIFT);
    for (let i = 0; i < tens; i++) actions.keyDown(arrow).keyUp(arrow);
    actions.keyUp(Key.SHIFT);
    for (let i = 0; i < ones; i++) actions.keyDown(arrow).keyUp(arrow);
  }
  await actions.perform();
  await browser.press(Key.ENTER);
  return { x: from.x + by.x, y: from.y + by.y };
}
async function result(key: string): Promise<[value: number, plusMinus: number]> {
  const text = await browser.text(`[data-testid=guide-result][data-key="${key}"] [data-testid=guide-value]`);
  const [, value, plusMinus] = /(-?[\d.]+) ± ([\d.]+)/.exec(text)!;
  return [Number(value), Number(plusMinus)];
}
async function expectResult(key: string): Promise<void> {
  const [value, plusMinus] = await result(key);
  const truth = truthOf(key);
  expect(Math.abs(value - truth), `${key}: ${value} ± ${plusMinus}, truth ${truth}`).toBeLessThan(
    Math.max(plusMinus, 0.5)
  );
}
const landmarksOf = (view: 'front' | 'side') => distalRadius.views.find(({ key }) => key === view)!.landmarks;

describe('a guide', () => {
  it('is done by keyboard alone: asked for one by one, results as soon as their landmarks are there', async () => {
    await open('front');
    await browser.press('2');
    await browser.run(
      `document.querySelector('[data-testid=guide-other][data-key=distal-radius]').closest('details').open = true;
       document.querySelector('[data-testid=guide-other][data-key=distal-radius]').focus()`
    );
    await browser.press(Key.ENTER);
    await browser.find('[data-testid=schematic]');
    await browser.find('[data-testid=likely]');
    expect(await violations()).toEqual([]);
    const [width, height] = await browser.run<number[]>(
      `const box = document.querySelector('${stage}').getBoundingClientRect(); return [box.width, box.height]`
    );
    for (const { key, name } of landmarksOf('front')) {
      await browser.untilSays('[data-testid=guide-wanted]', name);
      await placedByKeys('front', key, { x: width / 2, y: height / 2 });
    }
    await browser.untilSays('[data-testid=guide-done]', 'placed');
    await browser.untilKept();
    for (const key of ['inclination', 'height', 'ulnar variance']) await expectResult(key);
    expect(await browser.text('[data-testid=guide-missing]')).toContain('1 left out so far');
    expect(await violations()).toEqual([]);
  });

  it('goes on with its next view on the next picture, and both make one result', async () => {
    await browser.press(Key.PAGE_DOWN);
    await browser.find(`${stage}[data-picture="${pictures.side}"]`);
    for (const { key, name } of landmarksOf('side')) {
      await browser.untilSays('[data-testid=guide-wanted]', name);
      await placed('side', key);
    }
    await browser.untilSays('[data-testid=guide-done]', 'placed');
    for (const key of ['inclination', 'tilt']) await expectResult(key);
    await browser.untilKept();
    const rows = await clinic.rows<{ set: string; view: string }>(
      `select distinct body->>'set' as set, body->>'view' as view from picture_step where kind = 'guide'`
    );
    expect(rows.map(({ view }) => view).toSorted()).toEqual(['front', 'side']);
    expect(new Set(rows.map(({ set }) => set)).size).toBe(1);
  });

  it('takes a landmark back, leaves one out, and is brought back as it was by closing and opening', async () => {
    await browser.click('[data-testid=guide-back]');
    await browser.untilSays('[data-testid=guide-wanted]', 'Palm rim');
    await browser.click('[data-testid=guide-skip]');
    await browser.untilSays('[data-testid=guide-done]', 'left out');
    await browser.click('[data-testid=take-back]');
    await browser.untilKept();
    await browser.driver.navigate().refresh();
    await browser.untilLive();
    await browser.press('2');
    await browser.find('[data-testid=guide-result][data-key=tilt]');
    await expectResult('tilt');
    expect(await browser.text('[data-testid=guide-who]')).toContain('prepared by Mara Fennick');
  });

  it('says in words what a picture that contradicts it gives, and nothing is lost', async () => {
    await open('front');
    await browser.press('2');
    await browser.click('[data-testid=guide-source]');
    await browser.untilSays('[role=dialog]', 'Friberg and Lundstrom 1976');
    await browser.press(Key.ESCAPE);
    await browser.click('[data-testid=guide-go-on]');
    await browser.find('[data-testid=guide-landmark]');
    await browser.run(
      `document.querySelector('[data-testid=guide-landmark]').closest('details').open = true`
    );
    await browser.click('[data-testid=guide-landmark][data-key="axis lower"]');
    // On the other end of the shaft: two landmarks in one place give no axis.
    await placed('front', 'axis upper');
    await browser.untilSays('[data-testid=guide-results]', 'No value');
    await browser.click('[data-testid=take-back]');
    await browser.until('it has a value again', async () =>
      (await browser.text('[data-testid=guide-results]')).includes('°')
    );
    await browser.untilKept();
  });
});

describe('what an assistant prepared', () => {
  it('is corrected and confirmed by a clinician, and a moved landmark takes that off again', async () => {
    await browser.signOut();
    await browser.signIn('orsin', password);
    await open('front');
    await browser.press('2');
    await browser.untilSays('[data-testid=guide-who]', 'prepared by Mara Fennick');
    const [before] = await result('inclination');
    await browser.run(`document.querySelector('g[data-kind=guide] [data-index="2"]').focus()`);
    await browser.press(...Array<string>(6).fill(Key.ARROW_UP));
    await browser.until('the result follows', async () => (await result('inclination'))[0] !== before);
    await browser.untilKept();
    await browser.click('[data-testid=confirm-guide]');
    await browser.untilSays('[data-testid=guide-who]', 'confirmed by');
    await browser.untilKept();
    await browser.run(`document.querySelector('g[data-kind=guide] [data-index="2"]').focus()`);
    await browser.press(Key.ARROW_DOWN);
    await browser.untilSays('[data-testid=guide-who]', 'prepared by');
    await browser.untilKept();
  });

  it('is done once more by somebody else, and the spread is told', async () => {
    await browser.click('[data-testid=guide-again]');
    for (const { key, name } of landmarksOf('front')) {
      await browser.untilSays('[data-testid=guide-wanted]', name);
      await placed('front', key);
    }
    await browser.untilSays('[data-testid=guide-done]', 'placed');
    await browser.click('[data-testid=guide-leave]');
    await browser.untilSays('[data-testid=guide-spread]', 'Distal radius, 2 times');
    const said = await browser.text('[data-testid=guide-spread]');
    expect(said).toMatch(/Radial inclination: mean [\d.]+°, spread .* is more than chance/);
    expect(said).toContain('Radial styloid');
    expect(await violations()).toEqual([]);
  });

  it('stands over time with its range', async () => {
    await browser.click('[data-testid=guide-result][data-key=inclination] [data-testid=guide-over-time]');
    await browser.untilSays('[data-testid=over-time]', 'Dashed: the range from 13 to 30');
    expect(
      await browser.run<number>(`return document.querySelectorAll('[data-testid=over-time] tbody tr').length`)
    ).toBe(2);
    expect(await violations()).toEqual([]);
    await browser.press(Key.ESCAPE);
  });

  it('leaves as a table with every result', async () => {
    await browser.untilKept();
    const asking = await Asking.as(clinic, 'orsin', password);
    const { text } = await asking.get(`/api/visits/${visitId}/readings`);
    expect(text).toMatch(/Distal radius,Guide,Radial inclination,[\d.]+,[\d.]+,deg/);
    expect(text).toMatch(/Volar tilt,[\d.]+,[\d.]+,deg/);
  });
});

describe('rough presses', () => {
  const pressedBy = async (key: string, off: Point) => {
    const { x, y, zoom } = await onStage('front', truthAt('front', key));
    const at: [number, number] = [Math.round(x + off.x * zoom), Math.round(y + off.y * zoom)];
    await browser.drag(stage, at, at);
  };

  it('are told where something clearer lies, and put there by one press', async () => {
    await open('front');
    await browser.press('2');
    await browser.click('[data-testid=guide-again]');
    await browser.untilSays('[data-testid=guide-wanted]', landmarksOf('front')[0].name);
    await pressedBy('axis upper', { x: 9, y: 0 });
    await pressedBy('axis lower', { x: -8, y: 0 });
    await browser.untilSays('[data-testid=sharper]', 'sure');
    expect(await browser.all('[data-testid=found] [data-key]')).toHaveLength(2);
    expect(await violations()).toEqual([]);
    await browser.click('[data-testid=take-sharper]');
    await browser.untilCount('[data-testid=sharper]', 0);
    for (const key of ['styloid', 'ulnar corner', 'ulnar head']) await placed('front', key);
    await expectResult('inclination');
    // Pointing at a landmark lights what follows from it.
    await browser.run(`document.querySelector('g[data-kind=guide] [data-index="0"]').focus()`);
    await browser.until('its results are lit', async () =>
      browser.run<boolean>(
        `return document.querySelector('[data-testid=guide-result][data-key=inclination]').classList.contains('border-coral')`
      )
    );
  });

  it('are pulled to an edge on wish, and taken back to where they were', async () => {
    await browser.click('[data-testid=guide-back]');
    await browser.click('[data-testid=guide-pulls]');
    const pointNow = async () => {
      const [row] = await clinic.rows<{ body: { points: Record<string, Point> } }>(
        `select body from picture_step where kind = 'guide' and picture_id = '${pictures.front}' order by seq desc limit 1`
      );
      return row.body.points['ulnar head'];
    };
    await pressedBy('ulnar head', { x: 0, y: -4 });
    await browser.untilKept();
    const truth = truthAt('front', 'ulnar head');
    await browser.until('it lies on the edge', async () => Math.abs((await pointNow()).y - truth.y) < 2.5);
  });

  it('on a picture that was mirrored since are doubted in words', async () => {
    const asking = await Asking.as(clinic, 'orsin', password);
    const turned = (body: object | null) =>
      asking.send('POST', `/api/pictures/${pictures.front}/acts`, {
        changes: [{ kind: 'orientation', item: null, body }]
      });
    await turned({ quarterTurns: 0, mirrored: true });
    await browser.untilSays('[data-testid=guide-doubt]', 'mirrored since it came in');
    await turned(null);
    await browser.untilCount('[data-testid=guide-doubt]', 0);
    await browser.untilKept();
  });

  it('near the end of a root are told with its outline and its axis, and put there by one press', async () => {
    const root = toothRoot('logarithmic', seededRandom(4403));
    const asking = await Asking.as(clinic, 'mara', password);
    const picture = await asking.bring(visitId, 'root', root.raster);
    await browser.go(`/visits/${visitId}/measure?picture=${picture}`);
    await browser.untilLive();
    await browser.find(`${stage}[data-picture="${picture}"]`);
    await browser.press('2');
    await browser.run(
      `const guide = document.querySelector('[data-testid^=guide][data-key=working-length]');
       guide.closest('details').open = true;
       guide.click()`
    );
    const press = async ({ x, y }: Point, offX = 0, offY = 0) => {
      const at = placeOnStage(await stageSize(), root.raster, { x: x + offX, y: y + offY });
      await browser.drag(stage, [Math.round(at.x), Math.round(at.y)], [Math.round(at.x), Math.round(at.y)]);
    };
    const wants = (name: string) => browser.untilSays('[data-testid=guide-wanted]', name);
    const crown = { x: 2 * root.entrance.x - root.middle.x, y: 2 * root.entrance.y - root.middle.y };
    await wants('Reference point');
    await press(crown);
    await wants('Entrance of the canal');
    await press(root.entrance);
    await wants('Middle of the canal');
    await browser.click('[data-testid=guide-skip]');
    await wants('Last third');
    await press(root.low, 5);
    await wants('Apex as imaged');
    await press(root.tip, 6, -8);
    await browser.untilSays('[data-testid=sharper]', 'sure');
    await browser.untilCount('[data-testid=found-outline]', 1);
    await browser.untilCount('[data-testid=found-axis]', 1);
    expect(await violations()).toEqual([]);
    await browser.click('[data-testid=take-sharper]');
    await browser.untilCount('[data-testid=sharper]', 0);
    await browser.untilKept();
    const [row] = await clinic.rows<{ body: { points: Record<string, Point> } }>(
      `select body from picture_step where kind = 'guide' and picture_id = '${picture}' order by seq desc limit 1`
    );
    const { apex } = row.body.points;
    expect(Math.hypot(apex.x - root.tip.x, apex.y - root.tip.y)).toBeLessThan(6);
  });
});

describe('a guide that the clinic writes', () => {
  const chosen = async (css: string, words: string, which = 0) => {
    await (await browser.all(css))[which].click();
    for (const option of await browser.all(`${css.slice(0, -1)}-option]`))
      if ((await option.getText()).includes(words)) return option.click();
    throw new Error(`${css} does not offer ${words}`);
  };
  const write = async (css: string, words: string) => (await browser.find(css)).sendKeys(words);
  const sheet = '[data-testid=guide-sheet]';

  it('is laid on a drawing, says what it lacks, and is kept', async () => {
    await browser.go('/guides/new');
    await browser.untilLive();
    await browser.untilSays('[data-testid=guide-lacks]', 'no name yet');
    await write('[data-testid=guide-name]', 'Styloid gap');
    await chosen('[data-testid=view-drawing]', 'Wrist from the front');
    for (const [at, name, where] of [
      [[120, 160], 'Tip', 'Tip of the styloid'],
      [[200, 200], 'Corner', 'Inner corner of the radius']
    ] as const) {
      await browser.drag(sheet, [...at], [...at]);
      await write('[data-testid=landmark-name]', name);
      await write('[data-testid=landmark-where]', where);
    }
    await browser.run(`document.querySelectorAll('[data-testid=guide-dot]')[1].focus()`);
    await browser.press(Key.ARROW_LEFT, Key.ARROW_LEFT);
    await browser.untilSays('[data-testid=guide-lacks]', 'Nothing is measured yet');
    expect(await violations()).toEqual([]);
    // Half a guide is kept on this machine.
    await browser.driver.navigate().refresh();
    await browser.untilLive();
    await browser.untilCount('[data-testid=guide-dot]', 2);
    await browser.click('[role=tab]:nth-of-type(2)');
    await browser.click('[data-testid=add-result]');
    await write('[data-testid=result-name]', 'Gap');
    await chosen('[data-testid=result-of]', 'Tip');
    await chosen('[data-testid=result-of]', 'Corner', 1);
    await write('[data-testid=result-author]', 'Quill Sound');
    await write('[data-testid=result-title]', 'House rule');
    await write('[data-testid=result-high]', '90\t');
    await browser.untilCount('[data-testid=guide-lacks]', 0);
    expect(await violations()).toEqual([]);
    await browser.click('[data-testid=keep-guide]');
    await browser.untilSays('[data-testid=written-guide]', 'Styloid gap');
  });

  it('is done like those that ship, and a doing stays as it was when the guide is changed', async () => {
    await open('front');
    await browser.press('2');
    await browser.click('[data-testid=guide-own]');
    for (const key of ['styloid', 'ulnar corner']) await placed('front', key);
    const [value, plusMinus] = await result('r1');
    const [a, b] = ['styloid', 'ulnar corner'].map((key) => truthAt('front', key));
    const text = await browser.text('[data-testid=guide-card] [data-testid=guide-value]');
    const perPixel = text.includes('mm') ? value / Math.hypot(a.x - b.x, a.y - b.y) : 1;
    const should = perPixel * Math.hypot(a.x - b.x, a.y - b.y);
    expect(Math.abs(value - should)).toBeLessThanOrEqual(plusMinus);
    await browser.untilKept();

    await browser.go('/settings/guides');
    await browser.untilLive();
    await browser.click('[data-testid=change-guide]');
    await browser.untilLive();
    await browser.click('[role=tab]:nth-of-type(2)');
    await browser.click('[data-testid=guide-result-row] button');
    await chosen('[data-testid=result-measure]', 'Slope of a line');
    await browser.click('[data-testid=keep-guide]');
    await browser.untilSays('[data-testid=written-guide]', 'version 2');
    await open('front');
    await browser.press('2');
    await browser.untilSays('[data-testid=guide-later]', 'done by version 1');
    expect(await result('r1')).toEqual([value, plusMinus]);
  });

  it('leaves as a file and comes in again, and a file that is none is refused in words', async () => {
    const asking = await Asking.as(clinic, 'orsin', password);
    const { said } = await asking.get('/api/guides');
    const [{ key, written }] = said.guides as { key: string; written: { name: string } }[];
    const { text } = await asking.get(`/api/guides/${key}`);
    expect(JSON.parse(text)).toEqual(written);
    const { said: schema } = await asking.get('/api/guides/schema');
    expect(schema).toMatchObject({ type: 'object', required: expect.arrayContaining(['views', 'results']) });

    const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'guides-'));
    const file = (name: string, body: string) => {
      fs.writeFileSync(path.join(folder, name), body);
      return path.join(folder, name);
    };
    await browser.go('/settings/guides');
    await browser.untilLive();
    const picker = await browser.find('[data-testid=guide-file]');
    await picker.sendKeys(file('one.json', JSON.stringify({ ...written, name: 'Styloid gap, theirs' })));
    await browser.untilCount('[data-testid=written-guide]', 2);
    await picker.sendKeys(file('two.json', JSON.stringify({ ...written, name: '', results: [] })));
    await browser.untilSays('[data-sonner-toast]', 'two.json is no guide');
    expect(await violations()).toEqual([]);
    fs.rmSync(folder, { recursive: true });
  });
});
