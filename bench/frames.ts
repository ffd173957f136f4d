import sharp from 'sharp';
import type { Browser } from '../e2e/harness/browser';
import type { RunningClinic } from '../e2e/harness/running';
import { seededRandom } from '../src/lib/core/random';
import { broughtIn } from './broughtIn';
import { type Row, median, share } from './report';

const width = 2500;
const height = 3000;
const frameMs = 1000 / 60;
const moves = 150;
const linkedPictures = 4;

async function largePicture(): Promise<Buffer> {
  const random = seededRandom(7);
  const samples = new Uint16Array(width * height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      samples[y * width + x] =
        32768 + 20000 * Math.sin(x / 190) * Math.cos(y / 230) + 3000 * (random.uniform() - 0.5);
  return sharp(samples, { raw: { width, height, channels: 1 } })
    .toColourspace('grey16')
    .png()
    .toBuffer();
}

/** One drag across the stage, a move each animation frame, and the frames that the stage drew meanwhile. */
const dragFrames = `
  const done = arguments[arguments.length - 1];
  const [button, moves] = arguments;
  const stage = document.querySelector('[data-testid=stage]');
  const box = stage.getBoundingClientRect();
  const at = (i) => ({ clientX: box.left + box.width / 2 + 160 * Math.sin(i / 13), clientY: box.top + box.height / 2 + 90 * Math.sin(i / 7),
    pointerId: 1, button, buttons: 1, bubbles: true, isPrimary: true });
  stage.setPointerCapture = () => {};
  performance.clearMeasures('stage-frame');
  stage.dispatchEvent(new PointerEvent('pointerdown', at(0)));
  let i = 0;
  const step = () => {
    if (++i <= moves) { stage.dispatchEvent(new PointerEvent('pointermove', at(i))); requestAnimationFrame(step); return; }
    stage.dispatchEvent(new PointerEvent('pointerup', at(i)));
    setTimeout(() => done(performance.getEntriesByName('stage-frame').map((each) => [each.detail, each.duration])), 300);
  };
  requestAnimationFrame(step);
`;

/** Window and level by drag, and moving about, on a 2500x3000 16-bit picture in a page of 1280x800. */
export async function benchFrames(clinic: RunningClinic, browser: Browser): Promise<Row[]> {
  const picture = await largePicture();
  const visitId = await broughtIn(clinic, browser, Array<Buffer>(linkedPictures).fill(picture));
  await browser.go(`/visits/${visitId}/measure`);
  await browser.until(
    'the picture is drawn',
    async () => (await browser.all('[data-testid=stage][data-picture]:not([data-picture=""])')).length > 0
  );
  await browser.driver.manage().setTimeouts({ script: 60_000 });
  const rows: Row[] = [];
  for (const [name, button, zoomed] of [
    ['Window and level by drag, whole picture', 0, false],
    ['Window and level by drag, at 1:1', 0, true],
    ['Moving about by drag, at 1:1', 1, true]
  ] as const) {
    await browser.click(`[data-testid=${zoomed ? 'one-to-one' : 'fit'}]`);
    const frames = await browser.driver.executeAsyncScript<[number, number][]>(dragFrames, button, moves);
    const drawn = frames.map(([took]) => took);
    rows.push({
      name: `${name}: ${width}x${height}, 16 bit`,
      oursMs: median(drawn),
      reference: 'one screen frame',
      referenceMs: frameMs,
      limit: 8 / frameMs,
      note: `${drawn.length} frames for ${moves} moves; 95 of 100 under ${share(drawn, 0.95).toFixed(1)} ms; from the page to the worker and back ${median(frames.map(([, whole]) => whole)).toFixed(1)} ms`
    });
  }
  rows.push(...(await lookRows(browser)));
  await browser.go(`/visits/${visitId}/measure`);
  return [...rows, await linkedRow(browser)];
}

/** Four pictures side by side that are moved as one: what all of them take for one frame. */
async function linkedRow(browser: Browser): Promise<Row> {
  await browser.untilLive();
  await browser.click('[data-testid=side-by-side]');
  await browser.click(`[data-testid=side-${linkedPictures}]`);
  await browser.untilCount('[data-testid=stage][data-sharp=true]', linkedPictures);
  await browser.click('[data-testid=one-to-one]');
  await browser.untilCount('[data-testid=stage][data-sharp=true]', linkedPictures);
  const frames = await browser.driver.executeAsyncScript<[number, number][]>(dragFrames, 1, moves);
  const drawn = frames.map(([took]) => took);
  return {
    name: `Moving ${linkedPictures} linked pictures at 1:1, all of them together`,
    oursMs: linkedPictures * median(drawn),
    reference: 'one screen frame',
    referenceMs: frameMs,
    limit: 16 / frameMs,
    note: `${drawn.length} frames of single pictures for ${moves} moves`
  };
}

/** A key on a slider of the look, until the first frame after it and until the stage is sharp. */
const slideOnce = `
  const done = arguments[arguments.length - 1];
  const [label] = arguments;
  const stage = document.querySelector('[data-testid=stage]');
  const thumb = document.querySelector('[aria-label="' + label + '"]');
  thumb.focus();
  performance.clearMeasures('stage-frame');
  const start = performance.now();
  thumb.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowRight', bubbles: true, cancelable: true }));
  let changed = false;
  const look = () => {
    const frames = performance.getEntriesByName('stage-frame').filter((each) => each.startTime >= start);
    changed = changed || frames.length > 0;
    if (changed && stage.dataset.sharp === 'true')
      done([frames[0].startTime + frames[0].duration - start, frames.at(-1).startTime + frames.at(-1).duration - start]);
    else setTimeout(look, 2);
  };
  look();
`;
const slides = 15;

/** How soon a change of a look that looks at neighbours is seen, and how soon it is sharp. */
async function lookRows(browser: Browser): Promise<Row[]> {
  await browser.click('[data-testid=panel-look]');
  for (const kind of ['local-contrast', 'unsharp']) {
    await browser.click('[data-testid=add-step]');
    await browser.click(`[data-testid=add-${kind}]`);
  }
  const rows: Row[] = [];
  for (const [name, zoomed] of [
    ['whole picture', false],
    ['at 1:1', true]
  ] as const) {
    await browser.click(`[data-testid=${zoomed ? 'one-to-one' : 'fit'}]`);
    await browser.find('[data-testid=stage][data-sharp=true]');
    const seen: [first: number, sharp: number][] = [];
    for (let i = 0; i < slides; i++)
      seen.push(await browser.driver.executeAsyncScript(slideOnce, 'Sharpen: How much'));
    for (const [what, index, mostMs] of [
      ['first seen', 0, 50],
      ['sharp', 1, 250]
    ] as const)
      rows.push({
        name: `Sharpen changed, with local contrast before it, ${name}: ${what}`,
        oursMs: median(seen.map((each) => each[index])),
        reference: 'one screen frame',
        referenceMs: frameMs,
        limit: mostMs / frameMs,
        note: `${slides} changes; 9 of 10 under ${share(
          seen.map((each) => each[index]),
          0.9
        ).toFixed(0)} ms`
      });
  }
  return rows;
}
