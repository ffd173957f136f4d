import fs from 'node:fs';
import path from 'node:path';
import { password } from '../demo/clinic';
import { Asking } from '../e2e/harness/asking';
import type { Browser } from '../e2e/harness/browser';
import { TestDevice, anchoredVisit } from '../e2e/harness/device';
import type { RunningClinic } from '../e2e/harness/running';
import { collector } from '../src/lib/server/work/giveBack';
import { offer } from '../standins/devices/spool';
import { type Row, median, share, times } from './report';

const warmUps = 6;
const rounds = 30;
const roundsOfThree = 16;
const roundsUnderLoad = 20;
const previewsAtOnce = 12;
const frameMs = 1000 / 60;

/** Writes the times at which the stage has drawn each new picture, on the clock that this process shares. */
const watchStage = `
  window.drawn = {};
  const stage = document.querySelector('[data-testid=stage]');
  const note = () => { const id = stage.dataset.picture; if (id && !(id in window.drawn)) window.drawn[id] = Date.now(); };
  new MutationObserver(note).observe(stage, { attributes: true, attributeFilter: ['data-picture'] });
`;

const pause = (ms: number) => new Promise((done) => setTimeout(done, ms));

/**
 * Devices are machines of their own: what this process clears up of theirs is cleared up before anything is timed. The last
 * of it is done by threads beside, for about so long.
 */
async function clearUp(): Promise<void> {
  collector()();
  await pause(clearingMs);
}
const clearingMs = 60;

/** A device that is armed for good, and offers one exposure when told to. */
class Offering {
  private number = 0;
  samples: Uint8Array = new Uint8Array();

  private constructor(
    private readonly clinic: RunningClinic,
    private readonly device: TestDevice,
    readonly visitId: string,
    private readonly armingId: string,
    private readonly first: number
  ) {}

  static async open(clinic: RunningClinic, folder: string, record: string, first: number): Promise<Offering> {
    const device = new TestDevice(clinic, path.join(folder, record), `Sensor for ${record}`);
    await device.start();
    device.stop();
    const { visitId, armingId } = await anchoredVisit(clinic, device, record);
    return new Offering(clinic, device, visitId, armingId, first);
  }

  /** Exposes, so that it lies on the device's own disk. Gives back how it is offered, and how long that took. */
  async expose(): Promise<() => Promise<number>> {
    this.samples = this.device.expose(this.armingId, this.first + ++this.number);
    const exposure = this.device.spool.next()!;
    await clearUp();
    return async () => {
      const start = performance.now();
      const answer = await offer(this.clinic.origin, this.device.token, exposure);
      const took = performance.now() - start;
      if (!answer.acknowledged) throw new Error(`not acknowledged: ${answer.message}`);
      this.device.spool.remove(exposure.key);
      return took;
    };
  }
}

/** Nobody exposes twice within this; by then the database has written down what was moved into it. */
const breathMs = 500;

/** Until what follows an exposure is done, so that the next one begins on a quiet machine. */
async function settled(clinic: RunningClinic): Promise<void> {
  for (;;) {
    const { landed } = (await (await fetch(`${clinic.origin}/health`)).json()) as { landed: number };
    if (landed === 0) break;
    await pause(100);
  }
  await pause(breathMs);
}

/** An exposure of 1300x1700 at 16 bit: offered to acknowledged, and to drawn on the page that follows the visit. */
export async function benchExposures(
  clinic: RunningClinic,
  browser: Browser,
  folder: string
): Promise<Row[]> {
  const one = await Offering.open(clinic, folder, 'QS-1052', 0);
  await browser.go(`/visits/${one.visitId}/acquire`);
  await browser.untilLive();
  const target = path.join(folder, 'reference');
  const writtenOnce = (i: number) => {
    const file = fs.openSync(`${target}${i}`, 'w');
    fs.writeSync(file, one.samples);
    fs.fsyncSync(file);
    fs.closeSync(file);
    fs.rmSync(`${target}${i}`);
  };
  const acknowledged: number[] = [];
  const shown: number[] = [];
  const written: number[] = [];
  for (let round = 0; round < warmUps + rounds; round++) {
    const go = await one.expose();
    const startClock = Date.now();
    const took = await go();
    if (round === 0) {
      await browser.find('[data-testid=stage]');
      await browser.run(watchStage);
      continue;
    }
    const newest = () => browser.run<number>('return Math.max(0, ...Object.values(window.drawn))');
    await browser.until('the take is drawn', async () => (await newest()) >= startClock);
    const at = await newest();
    await settled(clinic);
    const [writing] = await times(1, writtenOnce);
    if (round < warmUps) continue;
    acknowledged.push(took);
    shown.push(at - startClock);
    written.push(writing);
  }
  await browser.driver.get('about:blank');
  const reference = 'the same bytes written and fsynced';
  const often = (values: number[]) => `9 of 10 under ${share(values, 0.9).toFixed(0)} ms`;
  return [
    {
      name: 'Exposure, 1300x1700, 16 bit: offered to stored and acknowledged',
      oursMs: median(acknowledged),
      reference,
      referenceMs: median(written),
      limit: 3,
      note: often(acknowledged)
    },
    {
      name: 'The same, to drawn on the page that follows the visit',
      oursMs: median(shown),
      reference: `three times ${reference}, and two frames,`,
      referenceMs: 3 * median(written) + 2 * frameMs,
      limit: 1,
      note: often(shown)
    },
    ...(await threeAtOnce(clinic, browser, folder, one)),
    await besidePreviews(clinic, one)
  ];
}

/** Turn by turn one device alone and three of them at the same instant, so that both see the same machine. */
async function threeAtOnce(
  clinic: RunningClinic,
  browser: Browser,
  folder: string,
  one: Offering
): Promise<Row[]> {
  const others = [
    await Offering.open(clinic, folder, 'QS-1060', 1000),
    await Offering.open(clinic, folder, 'QS-1031', 2000)
  ];
  await browser.go(`/visits/${one.visitId}/acquire`);
  await browser.untilLive();
  await browser.find('[data-testid=stage][data-picture]:not([data-picture=""])');
  await browser.run(watchStage);
  const newest = () => browser.run<number>('return Math.max(0, ...Object.values(window.drawn))');
  const drawnSince = async (start: number) => {
    await browser.until('the take is drawn', async () => (await newest()) >= start);
    return (await newest()) - start;
  };
  const [alone, together, drawnAlone, drawnTogether]: number[][] = [[], [], [], []];
  for (let round = 0; round < roundsOfThree; round++) {
    const goAlone = await one.expose();
    const startAlone = Date.now();
    alone.push(await goAlone());
    drawnAlone.push(await drawnSince(startAlone));
    await settled(clinic);
    const offers = [];
    for (const each of [one, ...others]) offers.push(await each.expose());
    const start = Date.now();
    together.push(...(await Promise.all(offers.map((go) => go()))));
    drawnTogether.push(await drawnSince(start));
    await settled(clinic);
  }
  await browser.driver.get('about:blank');
  const drawn: Row = {
    name: 'Three devices at once, one of them to drawn on the page that follows it',
    oursMs: median(drawnTogether),
    reference: 'one alone',
    referenceMs: median(drawnAlone),
    limit: Infinity
  };
  const acknowledged: Row = {
    name: 'Three devices at once, each to acknowledged',
    oursMs: median(together),
    reference: 'one alone',
    referenceMs: median(alone),
    limit: 1.5
  };
  return [acknowledged, drawn];
}

/** Turn by turn on a quiet server and while twelve small pictures that nobody had asked for are being made. */
async function besidePreviews(clinic: RunningClinic, one: Offering): Promise<Row> {
  const pictures = await clinic.rows<{ picture_id: string }>(
    'select picture_id from picture order by taken_at'
  );
  const { cookie } = await Asking.as(clinic, 'mara', password);
  const turns = ['0', '1', '2', '3', '0m', '1m', '2m', '3m'];
  const wanted = pictures.flatMap(({ picture_id }) =>
    turns.map((turn) => `/api/pictures/${picture_id}/preview?seq=0&turn=${turn}`)
  );
  const [quiet, beside]: number[][] = [[], []];
  for (let round = 0; round < roundsUnderLoad; round++) {
    quiet.push(await (await one.expose())());
    await settled(clinic);
    const go = await one.expose();
    const asked = wanted.splice(0, previewsAtOnce);
    if (asked.length < previewsAtOnce) throw new Error('there are no small pictures left to ask for');
    const previews = asked.map((where) =>
      fetch(clinic.origin + where, { headers: { cookie } }).then((answer) => answer.arrayBuffer())
    );
    beside.push(await go());
    await Promise.all(previews);
    await settled(clinic);
  }
  return {
    name: `An exposure while ${previewsAtOnce} small pictures are being made, to acknowledged`,
    oursMs: median(beside),
    reference: 'on a quiet server',
    referenceMs: median(quiet),
    limit: 1.3
  };
}
