import fs from 'node:fs';
import path from 'node:path';
import type { Browser } from '../e2e/harness/browser';
import { TestDevice, anchoredVisit } from '../e2e/harness/device';
import type { RunningClinic } from '../e2e/harness/running';
import { offer } from '../standins/sensor/spool';
import { type Row, median, times } from './report';

const warmUps = 4;
const rounds = 24;
const frameMs = 1000 / 60;

/** Writes the times at which the stage has drawn each new picture, on the clock that this process shares. */
const watchStage = `
  window.drawn = {};
  const stage = document.querySelector('[data-testid=stage]');
  const note = () => { const id = stage.dataset.picture; if (id && !(id in window.drawn)) window.drawn[id] = Date.now(); };
  new MutationObserver(note).observe(stage, { attributes: true, attributeFilter: ['data-picture'] });
`;

/** An exposure of 1300x1700 at 16 bit: offered to acknowledged, and to drawn on the page that follows the visit. */
export async function benchExposures(
  clinic: RunningClinic,
  browser: Browser,
  folder: string
): Promise<Row[]> {
  const device = new TestDevice(clinic, path.join(folder, 'device'));
  await device.start();
  device.stop();
  const { visitId, armingId } = await anchoredVisit(clinic, device);
  await browser.go(`/visits/${visitId}/acquire`);
  await browser.untilLive();
  const acknowledged: number[] = [];
  const shown: number[] = [];
  let samples: Uint8Array = new Uint8Array();
  for (let round = 0; round < warmUps + rounds; round++) {
    samples = device.expose(armingId, round + 1);
    const exposure = device.spool.next()!;
    const start = performance.now();
    const startClock = Date.now();
    const answer = await offer(clinic.origin, device.token, exposure);
    const took = performance.now() - start;
    if (!answer.acknowledged) throw new Error(`not acknowledged: ${answer.says}`);
    device.spool.remove(exposure.key);
    if (round === 0) {
      await browser.find('[data-testid=stage]');
      await browser.run(watchStage);
      continue;
    }
    const count = () => browser.run<number>('return Object.keys(window.drawn).length');
    await browser.until('the take is drawn', async () => (await count()) >= round);
    const at = await browser.run<number>('return Math.max(...Object.values(window.drawn))');
    if (round < warmUps) continue;
    acknowledged.push(took);
    shown.push(at - startClock);
  }
  const target = path.join(folder, 'reference');
  const written = await times(rounds, (i) => {
    const file = fs.openSync(`${target}${i}`, 'w');
    fs.writeSync(file, samples);
    fs.fsyncSync(file);
    fs.closeSync(file);
  });
  const reference = 'the same bytes written and fsynced';
  return [
    {
      name: 'Exposure, 1300x1700, 16 bit: offered to stored and acknowledged',
      oursMs: median(acknowledged),
      reference,
      referenceMs: median(written),
      limit: 3
    },
    {
      name: 'The same, to drawn on the page that follows the visit',
      oursMs: median(shown),
      reference: `${reference}, and one frame,`,
      referenceMs: median(written) + frameMs,
      limit: 3
    }
  ];
}
