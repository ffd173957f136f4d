import { execFileSync } from 'node:child_process';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import sharp from 'sharp';
import { afterAll, describe, expect, it } from 'vitest';
import { seededRandom } from '../../core/random';
import { Problem } from '../problem';
import { processorMsAllowed } from './limits';
import { openOutsideFile, stopProcesses } from './processes';

const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'yonder-processes-'));
afterAll(async () => {
  await stopProcesses();
  fs.rmSync(folder, { recursive: true, force: true });
});

/** Processes that this one started to open files. */
function ownProcesses(): number[] {
  const all = execFileSync('ps', ['-o', 'pid=,args=', '--ppid', String(process.pid)]).toString();
  return all
    .split('\n')
    .filter((line) => line.includes('tinypool'))
    .map((line) => Number(line.trim().split(' ')[0]));
}

async function largePicture(name: string): Promise<string> {
  const [width, height] = [1400, 1100];
  const random = seededRandom(5);
  const data = Uint8Array.from({ length: width * height }, () => 255 * random.uniform());
  const file = path.join(folder, name);
  fs.writeFileSync(
    file,
    await sharp(data, { raw: { width, height, channels: 1 } })
      .png()
      .toBuffer()
  );
  return file;
}

describe('processes that open files', () => {
  it('may be killed at any moment: each file is opened all the same, or its sender told to try again', async () => {
    const file = await largePicture('a.png');
    await openOutsideFile(file);
    const fate = seededRandom(8);
    let opened = 0;
    for (let round = 0; round < 3; round++) {
      const opening = Array.from({ length: 3 }, () =>
        openOutsideFile(file).then(
          () => 'opened',
          (refused: unknown) => refused
        )
      );
      await new Promise((done) => setTimeout(done, 400 * fate.uniform()));
      for (const pid of ownProcesses()) process.kill(pid, 'SIGKILL');
      for (const outcome of await Promise.all(opening)) {
        if (outcome === 'opened') opened += 1;
        else {
          expect(outcome).toBeInstanceOf(Problem);
          expect((outcome as Problem).next).toMatch(/Try it once more/);
        }
      }
    }
    expect(opened).toBeGreaterThan(4);
    // Also those that die while nobody waits for them.
    for (const pid of ownProcesses()) process.kill(pid, 'SIGKILL');
    await new Promise((done) => setTimeout(done, 200));
    expect((await openOutsideFile(file)).opened.width).toBe(1400);
    // Each process that is killed takes seconds to be replaced.
  }, 120_000);

  it('are given processor time by what a file announces, as far as its bytes bear that out', () => {
    const million = 1e6;
    // Ten million samples of two bytes in ten megabytes: what JPEG 2000 takes, four times.
    expect(processorMsAllowed(10 * million, 20 * million)).toBeGreaterThan(10_000);
    expect(processorMsAllowed(240 * million, 240 * million)).toBeGreaterThan(100_000);
    // A few bytes that announce the largest picture there is.
    expect(processorMsAllowed(2_000, 300 * million)).toBeLessThan(20_000);
    expect(processorMsAllowed(2_000, 0)).toBeLessThan(5_000);
  });
});
