// A simulated intraoral sensor: a process of its own that speaks the device protocol (docs/device-protocol.md).
import fs from 'node:fs';
import path from 'node:path';
import { ordinaryMouth } from '../../src/lib/core/phantom/teeth/ordinaryMouth';
import type { SensorFault } from '../../src/lib/core/phantom/teeth/faultNames';
import { sensorHeightPx, sensorPitchMm, sensorWidthPx } from '../../src/lib/core/phantom/teeth/views';
import { bytesOf } from '../../src/lib/core/raster/raster';
import type { Slot } from '../../src/lib/core/tray/slot';
import { RenderPool } from '../render/pool';
import { followInstructions } from './instructions';
import { Spool, offer } from './spool';

const server = process.env.YONDER_URL ?? 'http://127.0.0.1:4780';
const code = process.env.ENROLMENT_CODE ?? '';
const folder = process.env.SPOOL_FOLDER ?? path.resolve('.data/sensor');
const name = process.env.SENSOR_NAME ?? 'Sensor 1';
const tokenFile = path.join(folder, 'token');
const signOfLifeMs = 4000;
const exposingMs = 300;
const readingMs = 350;
const offerAgainMs = 1000;

const spool = new Spool(folder);
const sleep = (ms: number) => new Promise((done) => setTimeout(done, ms));

type Lamp = 'resting' | 'arming' | 'ready' | 'exposing' | 'reading' | 'faulted';
type Armed = { armingId: string; series: string; readySeconds: number; slot: Slot };

let token = fs.existsSync(tokenFile) ? fs.readFileSync(tokenFile, 'utf8') : '';
let lamp: Lamp = 'resting';
let words = '';
let armed: Armed | null = null;
const pool = new RenderPool(1);
/** Rendered ahead from the moment it is armed, so that reading out after the exposure is quick. */
let nextPicture: Promise<Uint8Array> | null = null;
let formerPicture: Uint8Array | null = null;
let restAt: NodeJS.Timeout | null = null;
let series: NodeJS.Timeout | null = null;
let unpluggedUntil = 0;
/** The x-ray button was pressed a moment too early: it exposes as soon as the sensor is ready. */
let pressed = false;
let seed = Math.floor(Date.now() / 1000) % 100_000;
const unplugged = () => Date.now() < unpluggedUntil;

async function register(): Promise<void> {
  const answer = await fetch(`${server}/device/v1/registrations`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ code, name, kind: 'intraoral-sensor' })
  }).catch(() => null);
  if (!answer?.ok) return;
  token = ((await answer.json()) as { token: string }).token;
  fs.writeFileSync(tokenFile, token, { mode: 0o600 });
}

async function report(gaveUp?: string): Promise<void> {
  if (token === '' || unplugged()) return;
  await fetch(`${server}/device/v1/lamp`, {
    method: 'PUT',
    headers: { authorization: `Bearer ${token}`, 'content-type': 'application/json' },
    body: JSON.stringify({ lamp, words, gaveUp })
  }).catch(() => {});
}

function setLamp(next: Lamp, message = '', gaveUp?: string): void {
  lamp = next;
  words = message;
  void report(gaveUp);
}

function rest(): void {
  letGo();
  setLamp('resting');
}

/** Ready for long enough: the clinic is told that nobody waits here any more. */
function restByItself(): void {
  const gaveUp = armed?.armingId;
  letGo();
  setLamp('resting', 'Rested by itself. Get it ready to go on.', gaveUp);
}

function letGo(): void {
  if (restAt) clearTimeout(restAt);
  restAt = null;
  armed = null;
  pressed = false;
  nextPicture = null;
}

async function arm(instruction: Armed): Promise<void> {
  if (armed?.armingId === instruction.armingId) return;
  armed = instruction;
  if (restAt) clearTimeout(restAt);
  setLamp('arming');
  await sleep(60);
  if (armed !== instruction) return;
  nextPicture = pictureFor(instruction, null);
  setLamp('ready');
  if (pressed) return expose();
  restAt = setTimeout(restByItself, instruction.readySeconds * 1000);
}

/** The same series shows the same mouth, as one patient's pictures do. */
async function pictureFor({ series: id, slot }: Armed, fault: SensorFault | null): Promise<Uint8Array> {
  const mouthSeed = parseInt(id.slice(-6), 16) % 100_000;
  const { frames } = await pool.render({
    kind: 'tooth',
    mouth: ordinaryMouth(mouthSeed),
    slot,
    seed: ++seed,
    fault
  });
  return bytesOf(frames[0]);
}

async function expose(fault?: SensorFault | 'same again'): Promise<void> {
  if (unplugged()) return;
  if (lamp !== 'ready' || !armed || !nextPicture) {
    pressed = lamp !== 'resting';
    if (!pressed) setLamp('resting', 'Nothing was exposed: get it ready first.');
    return;
  }
  pressed = false;
  const { armingId } = armed;
  const picture = fault && fault !== 'same again' ? pictureFor(armed, fault) : nextPicture;
  nextPicture = null;
  if (restAt) clearTimeout(restAt);
  setLamp('exposing');
  await sleep(exposingMs);
  setLamp('reading');
  await sleep(readingMs);
  const samples = (fault === 'same again' && formerPicture) || (await picture);
  formerPicture = samples;
  spool.add(
    {
      armingId,
      takenAt: new Date().toISOString(),
      width: sensorWidthPx,
      height: sensorHeightPx,
      bitsStored: 16,
      pitchMm: sensorPitchMm,
      manufacturer: 'Yonder Tray stand-ins',
      model: 'Simulated sensor',
      kv: 65,
      exposureMas: 0.7
    },
    samples
  );
}

const failures = new Map<string, number>();
const mostFailures = 3;

/** Whether an exposure would be refused for ever: by its own fault, or because the clinic breaks off over it each time. */
function neverTaken(key: string, status: number): boolean {
  if (status >= 400 && status < 500) return ![401, 408, 429].includes(status);
  if (status !== 500) return false;
  failures.set(key, (failures.get(key) ?? 0) + 1);
  return failures.get(key)! >= mostFailures;
}

/** What could not be taken is said for a while, then the sensor can be made ready again. */
const faultedMs = 4_000;
function restLater(): void {
  setTimeout(() => lamp === 'faulted' && rest(), faultedMs);
}

/** Offers what is spooled, the oldest first, until each is acknowledged. */
async function offerForEver(): Promise<never> {
  for (;;) {
    const exposure = token === '' || unplugged() ? null : spool.next();
    if (!exposure) {
      await sleep(40);
      continue;
    }
    const result = await offer(server, token, exposure);
    if (result.acknowledged) {
      spool.remove(exposure.key);
      if (lamp === 'reading' && spool.count() === 0) rest();
      continue;
    }
    if (result.status === 401) await register();
    if (neverTaken(exposure.key, result.status)) {
      spool.setAside(exposure.key);
      setLamp('faulted', `${result.message || 'The clinic could not take an exposure.'} It is kept here.`);
      if (spool.count() === 0) restLater();
      continue;
    }
    setLamp(
      'reading',
      `Keeping ${spool.count()} until the clinic can take ${spool.count() === 1 ? 'it' : 'them'}.`
    );
    await sleep(offerAgainMs);
  }
}

function demo(command: {
  kind: string;
  everySeconds?: number;
  seconds?: number;
  fault?: SensorFault | 'same again';
}): void {
  if (command.kind === 'demo-expose') void expose(command.fault);
  if (command.kind === 'demo-unplug') {
    unpluggedUntil = Date.now() + (command.seconds ?? 15) * 1000;
    rest();
  }
  if (command.kind === 'demo-series') {
    if (series) clearInterval(series);
    let idle = 0;
    series = setInterval(
      () => {
        idle = lamp === 'resting' ? idle + 1 : 0;
        if (idle > 2 && series) clearInterval(series);
        if (lamp === 'ready') void expose();
      },
      (command.everySeconds ?? 3) * 1000
    );
  }
}

async function main(): Promise<void> {
  while (token === '') {
    await register();
    if (token === '') await sleep(1000);
  }
  spool.takeUpAside();
  setInterval(() => void report(), signOfLifeMs);
  void offerForEver();
  await report();
  await followInstructions(
    server,
    () => token,
    (event, data) => {
      if (unplugged()) return;
      if (event === 'demo') demo(data as { kind: string });
      const instruction = data as { kind: string };
      if (event === 'instruction' && instruction.kind === 'arm') void arm(data as Armed);
      if (event === 'instruction' && instruction.kind === 'rest' && lamp !== 'reading' && lamp !== 'exposing')
        rest();
    },
    register
  );
}

process.on('SIGTERM', () => process.exit(0));
void main();
