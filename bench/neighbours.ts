import fs from 'node:fs';
import sharp from 'sharp';
import type { Browser } from '../e2e/harness/browser';
import type { RunningClinic } from '../e2e/harness/running';
import { seededRandom } from '../src/lib/core/random';
import { levelCount, levelForZoom } from '../src/lib/core/raster/pyramid';
import { broughtIn } from './broughtIn';
import { type Row, median, share } from './report';

const [width, height] = [1300, 1700];
const pictures = 40;
/** From so many on a page may not grow. */
const settledAfter = 10;
/** Nobody looks at a picture for less. */
const lookedAtMs = 700;

async function picture(seed: number): Promise<Buffer> {
  const random = seededRandom(seed);
  const samples = new Uint16Array(width * height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      samples[y * width + x] =
        30_000 + 20_000 * Math.sin((x + 40 * seed) / 150) * Math.cos(y / 190) + 3000 * random.uniform();
  return sharp(samples, { raw: { width, height, channels: 1 } })
    .toColourspace('grey16')
    .png({ compressionLevel: 1 })
    .toBuffer();
}

async function* manyPictures(): AsyncGenerator<Buffer> {
  for (let i = 0; i < pictures; i++) yield await picture(i);
}

/** A key for the next picture, until that is on the stage and as sharp as it will be at this zoom. */
const nextOne = `
  const done = arguments[arguments.length - 1];
  const stage = () => document.querySelector('[data-testid=stage]');
  const before = stage().dataset.picture;
  const start = performance.now();
  stage().dispatchEvent(new KeyboardEvent('keydown', { key: 'PageDown', bubbles: true, cancelable: true }));
  const look = () => {
    const { picture, sharp } = stage().dataset;
    if (picture && picture !== before && sharp === 'true') done([picture, performance.now() - start]);
    else setTimeout(look, 1);
  };
  look();
`;
/** The bytes of one level alone. */
const bytesOf = `
  const done = arguments[arguments.length - 1];
  const [id, level] = arguments;
  const start = performance.now();
  fetch('/api/pictures/' + id + '/levels/' + level + '?frame=0', { cache: 'no-store' })
    .then((answer) => answer.arrayBuffer()).then(() => done(performance.now() - start));
`;

/** What the page's own process holds, in megabytes. */
function pageMegabytes(): number {
  const sizes = fs.readdirSync('/proc').flatMap((pid) => {
    try {
      if (!/^\d+$/.test(pid) || !fs.readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes('--type=renderer'))
        return [];
      const [, kilobytes] = /VmRSS:\s+(\d+)/.exec(fs.readFileSync(`/proc/${pid}/status`, 'utf8')) ?? [];
      return kilobytes ? [Number(kilobytes) / 1024] : [];
    } catch {
      return [];
    }
  });
  return Math.max(...sizes);
}

/** Forty pictures of a visit opened one after the other: how soon each is there, and whether the page grows. */
export async function benchNeighbours(clinic: RunningClinic, browser: Browser): Promise<Row[]> {
  const visitId = await broughtIn(clinic, browser, manyPictures());
  await browser.go(`/visits/${visitId}/check`);
  await browser.untilLive();
  await browser.untilSmallPictures();
  await browser.find('[data-testid=stage][data-sharp=true]');
  await browser.driver.manage().setTimeouts({ script: 60_000 });
  const zoom = await browser.run<number>(
    `return Number(document.querySelector('[data-testid=stage]').dataset.zoom) / 100`
  );
  const level = levelForZoom(zoom, levelCount(width, height));
  const opened: number[] = [];
  const bytes: number[] = [];
  let settled = 0;
  for (let i = 1; i < pictures; i++) {
    const [id, took] = await browser.driver.executeAsyncScript<[string, number]>(nextOne);
    opened.push(took);
    // Somebody looks at it; meanwhile the next is fetched ahead.
    await new Promise((done) => setTimeout(done, lookedAtMs));
    bytes.push(await browser.driver.executeAsyncScript<number>(bytesOf, id, level));
    if (i === settledAfter - 1) settled = await quiet();
  }
  const last = await quiet();
  return [
    {
      name: `The next picture of a series on the stage, ${width}x${height}, 16 bit`,
      oursMs: median(opened),
      reference: 'its bytes alone',
      referenceMs: median(bytes),
      limit: 1.5,
      note: `${opened.length} pictures that nobody had opened, each looked at for ${lookedAtMs} ms; 9 of 10 under ${share(opened, 0.9).toFixed(0)} ms; level ${level} of the pyramid`
    },
    {
      name: `Memory of the page after ${pictures} pictures, a MB told as a millisecond`,
      oursMs: last,
      reference: `after ${settledAfter} of them`,
      referenceMs: settled,
      limit: 1.1
    }
  ];
}

/** What the page holds once what it let go of is gone. */
async function quiet(): Promise<number> {
  await new Promise((done) => setTimeout(done, 6000));
  return pageMegabytes();
}
