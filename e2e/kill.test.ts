import fs from 'node:fs';
import path from 'node:path';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { password } from '../demo/clinic';
import { type SeededRandom, seededRandom } from '../src/lib/core/random';
import { Browser } from './harness/browser';
import { TestDevice, accountOf, anchoredVisit } from './harness/device';
import { RunningClinic } from './harness/running';
import { survive } from './harness/surviving';

const pause = (ms: number) => new Promise((done) => setTimeout(done, ms));

/** Kills a process of the clinic at random moments, and starts it again, until it is told to stop. */
function killing(
  clinic: RunningClinic,
  name: 'server' | 'worker',
  random: SeededRandom,
  startMs: number
): { kills: () => number; stop: () => Promise<number> } {
  let going = true;
  let kills = 0;
  const done = (async () => {
    // A machine that takes long to start the process takes as long to store what waits for it.
    let took = startMs;
    while (going) {
      await pause(30 + 2 * took * random.uniform());
      await clinic.kill(name, 'SIGKILL');
      kills += 1;
      const started = performance.now();
      if (name === 'worker') clinic.startWorker();
      else {
        clinic.startServer();
        await clinic.untilHealthy();
      }
      took = Math.max(startMs, performance.now() - started);
    }
    return kills;
  })();
  return {
    kills: () => kills,
    stop: () => {
      going = false;
      return done;
    }
  };
}

async function landed(clinic: RunningClinic): Promise<number> {
  return ((await (await fetch(`${clinic.origin}/health`)).json()) as { landed: number }).landed;
}

async function untilMovedIn(clinic: RunningClinic, ms: number): Promise<void> {
  for (const until = Date.now() + ms; (await landed(clinic)) > 0; await pause(500))
    if (Date.now() > until) throw new Error('originals still lie in the landing');
}

const numbersTo = (count: number) => Array.from({ length: count }, (_, i) => i + 1);

describe.each([
  ['landed in files', {}],
  ['kept in the records alone', { YONDER_LANDING: 'off' }]
] as const)('exposures that are %s', (how, env) => {
  const exposures = how === 'landed in files' ? 5 : 3;
  let clinic: RunningClinic;
  beforeAll(async () => {
    clinic = await RunningClinic.start({ sensor: false, env });
  });
  afterAll(() => clinic?.stop());

  it(`${exposures} of them while the server is killed at random: none lost, none doubled`, async () => {
    const device = new TestDevice(clinic, path.join(inject('cluster').folder, `device ${how}`));
    await device.start();
    const { visitId, armingId } = await anchoredVisit(clinic, device);
    const random = seededRandom(41);
    const killer = killing(clinic, 'server', random, 350);
    for (let number = 1; number <= exposures; number++) {
      device.expose(armingId, number);
      await pause(250 * random.uniform());
      while (device.spool.count() > 3) await pause(20);
    }
    await device.untilEmpty(120_000);
    const kills = await killer.stop();
    device.stop();
    const account = await accountOf(clinic, visitId);
    expect(account.numbers).toEqual(numbersTo(exposures));
    expect(account).toMatchObject({ takes: exposures, lines: exposures, keys: exposures });
    expect(kills).toBeGreaterThan(1);
    expect(device.offers).toBeGreaterThan(exposures);
  });
});

describe('originals on their way into the records', () => {
  const exposures = 5;
  let clinic: RunningClinic;
  beforeAll(async () => {
    // A worker that was killed holds its job no longer than this.
    const env = { YONDER_JOB_SECONDS: '8' };
    clinic = await RunningClinic.start({ sensor: false, worker: false, env });
  });
  afterAll(() => clinic?.stop());

  it('while the worker is killed at random: each is readable all the time, and moved in once', async () => {
    const device = new TestDevice(clinic, path.join(inject('cluster').folder, 'moving'));
    await device.start();
    const { visitId, armingId } = await anchoredVisit(clinic, device);
    for (const number of numbersTo(exposures)) device.expose(armingId, number);
    await device.untilEmpty(60_000);
    device.stop();
    expect(await landed(clinic)).toBe(exposures);
    clinic.startWorker();
    const killer = killing(clinic, 'worker', seededRandom(7), 1600);
    for (let turn = 0; turn < 5; turn++) {
      expect((await accountOf(clinic, visitId)).numbers).toEqual(numbersTo(exposures));
      await pause(900);
    }
    expect(await killer.stop()).toBeGreaterThan(2);
    await untilMovedIn(clinic, 150_000);
    expect((await accountOf(clinic, visitId)).numbers).toEqual(numbersTo(exposures));
    const [blobs] = await clinic.rows<{ kept: string; bytes: string; said: string }>(
      `select count(*) as kept, sum(b.size) as said,
         (select sum(length(bytes)) from blob_part) as bytes from blob b where b.place = 'kept'`
    );
    expect(Number(blobs.kept)).toBe(exposures);
    expect(blobs.bytes).toBe(blobs.said);
    const files = fs.readdirSync(clinic.landing, { recursive: true, encoding: 'utf8' });
    expect(files.filter((name) => /[0-9a-f]{64}$/.test(name))).toEqual([]);
  });
});

describe('exposures from three devices at once', () => {
  it('while server, database and devices are killed at random: none lost, doubled or in a wrong visit', async () => {
    const folder = path.join(inject('cluster').folder, 'three');
    const { kills, ...account } = await survive(folder, { exposures: 15, seed: 5 });
    expect(account).toEqual({ exposures: 15, lost: 0, doubled: 0, astray: 0, miscounted: 0, fallen: 0 });
    for (const each of Object.values(kills)) expect(each).toBeGreaterThan(0);
  });
});

describe('files brought in', () => {
  const files = 6;
  let clinic: RunningClinic;
  let browser: Browser;
  const folder = fs.mkdtempSync(path.join(process.env.TMPDIR ?? '/tmp', 'yonder-kill-'));
  beforeAll(async () => {
    clinic = await RunningClinic.start({ sensor: false });
    browser = await Browser.open(clinic.origin);
  });
  afterAll(async () => {
    await browser?.close();
    await clinic?.stop();
    fs.rmSync(folder, { recursive: true, force: true });
  });

  it('while the server is killed at random: the page offers them until each is there, once', async () => {
    const paths = [];
    for (const number of numbersTo(files)) {
      const file = path.join(folder, `${number}.png`);
      const grey = Buffer.alloc(400 * 300, number * 20);
      fs.writeFileSync(
        file,
        await sharp(grey, { raw: { width: 400, height: 300, channels: 1 } })
          .png()
          .toBuffer()
      );
      paths.push(file);
    }
    await browser.signIn('mara', password);
    await browser.click('[data-record=QS-1060]');
    const picker = await browser.find('[data-testid=file-picker]');
    const killer = killing(clinic, 'server', seededRandom(5), 600);
    await picker.sendKeys(paths.join('\n'));
    // However slowly the machine starts a server: it is killed twice and more while files come in.
    for (let waited = 0; waited < 60 && (waited < 12 || killer.kills() < 2); waited++) await pause(500);
    expect(await killer.stop()).toBeGreaterThan(1);
    await browser.untilCount('[data-testid=bench-take]', files);
    await browser.untilKept();
    const rows = await clinic.rows<{ file_name: string }>('select file_name from picture');
    expect(rows.map((row) => row.file_name).sort()).toEqual(
      numbersTo(files)
        .map((number) => `${number}.png`)
        .sort()
    );
  });
});
