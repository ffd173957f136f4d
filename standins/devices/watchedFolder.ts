import { createHash } from 'node:crypto';
import fs from 'node:fs';
import path from 'node:path';
import { type FSWatcher, watch } from 'chokidar';
import sharp from 'sharp';
import type { Raster } from '../../src/lib/core/raster/raster';
import { followInstructions } from './instructions';
import type { SimulatedBeam } from './pictures';
import { Token } from './registering';
import { type Armed, type DemoCommand, type Lamp, sleep } from './speakingDevice';

export interface FolderWish {
  server: string;
  name: string;
  code: string;
  /** Where it remembers what it has sent. */
  folder: string;
  /** The folder that some device writes its files into. */
  watched: string;
  /** For the demo, whose device is simulated too. */
  beam?: SimulatedBeam;
}

const signOfLifeMs = 4000;
const offerAgainMs = 1500;
/** A file that has not grown for so long is whole. */
const wholeAfterMs = 1200;
const looksEveryMs = 200;
/** What could not be taken is said for a while; then the folder works on. */
const badSaidMs = 30_000;
const mostFailures = 3;
const kinds = /\.(dcm|dicom|tiff?|png|jpe?g)$/i;

/** A folder whose files are pictures that some device has written: each is sent once, however often it comes. */
export class WatchedFolder {
  private readonly token: Token;
  private lamp: Lamp = 'resting';
  private words = '';
  private armed: Armed | null = null;
  private restAt: NodeJS.Timeout | null = null;
  private readonly sent: Set<string>;
  private readonly refused = new Set<string>();
  private readonly failures = new Map<string, number>();
  /** Until when a file that could not be taken is said. */
  private badUntil = 0;
  private readonly coming: { file: string; armingId: string | null }[] = [];
  private watcher: FSWatcher | null = null;

  constructor(private readonly wish: FolderWish) {
    fs.mkdirSync(wish.folder, { recursive: true });
    fs.mkdirSync(wish.watched, { recursive: true });
    this.sent = new Set(
      fs.existsSync(this.sentFile) ? fs.readFileSync(this.sentFile, 'utf8').split('\n') : []
    );
    this.token = new Token(path.join(wish.folder, 'token'), { ...wish, kind: 'folder' });
  }

  private get sentFile(): string {
    return path.join(this.wish.folder, 'sent.txt');
  }

  async run(): Promise<void> {
    await this.token.untilKnown();
    this.begin();
    setInterval(() => void this.look(), signOfLifeMs);
    void this.sendForEver();
    await this.report();
    await followInstructions(this.wish.server, this.token, (event, data) => this.heard(event, data));
  }

  private begin(): void {
    this.watcher = watch(this.wish.watched, {
      awaitWriteFinish: { stabilityThreshold: wholeAfterMs, pollInterval: looksEveryMs },
      ignored: (file, stats) => Boolean(stats?.isFile()) && !kinds.test(file)
    });
    const came = (file: string) => this.coming.push({ file, armingId: this.armed?.armingId ?? null });
    this.watcher.on('add', came);
    this.watcher.on('change', came);
  }

  /** Also the sign of life: is the folder still there? */
  private async look(): Promise<void> {
    const there = fs.existsSync(this.wish.watched);
    if (!there && this.watcher) {
      await this.watcher.close();
      this.watcher = null;
      this.setLamp('faulted', 'The folder is gone. Put it back, or see whether its disk is connected.');
    } else if (there && !this.watcher) {
      this.begin();
      this.setLamp(this.armed ? 'ready' : 'resting');
    } else if (this.watcher && this.lamp === 'faulted' && Date.now() > this.badUntil)
      this.setLamp(this.armed ? 'ready' : 'resting');
    else await this.report();
  }

  private report(gaveUp?: string): Promise<void> {
    return this.token.say('lamp', { lamp: this.lamp, words: this.words, gaveUp });
  }

  private setLamp(lamp: Lamp, words = '', gaveUp?: string): void {
    this.lamp = lamp;
    this.words = words;
    void this.report(gaveUp);
  }

  private heard(event: string, data: unknown): void {
    const command = data as DemoCommand;
    if (event === 'demo' && command.kind === 'demo-expose') void this.writeLikeADevice();
    if (event !== 'instruction') return;
    if (this.restAt) clearTimeout(this.restAt);
    if (command.kind === 'arm') {
      this.armed = data as Armed;
      if (this.watcher) this.setLamp('ready', 'Expose at the device; its file is waited for.');
      this.restAt = setTimeout(() => this.restByItself(), this.armed.readySeconds * 1000);
    } else {
      this.armed = null;
      if (this.lamp !== 'faulted') this.setLamp('resting');
    }
  }

  private restByItself(): void {
    const gaveUp = this.armed?.armingId;
    this.armed = null;
    this.setLamp('resting', 'Rested by itself. Get it ready to go on.', gaveUp);
  }

  /** Sends what came, the oldest first, each until it is acknowledged or can never be taken. */
  private async sendForEver(): Promise<never> {
    for (;;) {
      const next = this.coming[0];
      if (!next) await sleep(looksEveryMs);
      else if (await this.send(next)) this.coming.shift();
      else await sleep(offerAgainMs);
    }
  }

  /** @returns whether there is nothing left to do about this file */
  private async send({ file, armingId }: { file: string; armingId: string | null }): Promise<boolean> {
    let bytes: Buffer;
    try {
      bytes = fs.readFileSync(file);
    } catch {
      return true; // taken away again before it was read
    }
    const key = createHash('sha256').update(bytes).digest('hex');
    if (this.sent.has(key) || this.refused.has(key)) return true;
    this.setLamp('reading', path.basename(file));
    const description = { armingId, fileName: path.basename(file) };
    const answer = await fetch(`${this.wish.server}/device/v1/files`, {
      method: 'POST',
      headers: {
        authorization: `Bearer ${this.token.value}`,
        'content-type': 'application/octet-stream',
        'idempotency-key': key,
        'yonder-file': Buffer.from(JSON.stringify(description)).toString('base64url')
      },
      body: new Uint8Array(bytes)
    }).catch(() => null);
    if (answer?.ok) {
      this.sent.add(key);
      fs.appendFileSync(this.sentFile, `${key}\n`);
      this.setLamp(this.armed ? 'ready' : 'resting');
      return true;
    }
    if (answer?.status === 401) await this.token.register();
    const said = (await answer?.json().catch(() => ({}))) as { sentence?: string } | undefined;
    if (this.neverTaken(key, answer?.status ?? 0)) {
      this.refused.add(key);
      this.badUntil = Date.now() + badSaidMs;
      this.setLamp(
        'faulted',
        `${path.basename(file)}: ${said?.sentence ?? 'the clinic could not take it.'} It stays in the folder.`
      );
      return true;
    }
    this.setLamp('reading', 'Keeping a file until the clinic can take it.');
    return false;
  }

  /** By its own fault, or because the clinic breaks off over it each time: then others must not wait behind it. */
  private neverTaken(key: string, status: number): boolean {
    if (status === 413 || status === 422) return true;
    if (status !== 500) return false;
    this.failures.set(key, (this.failures.get(key) ?? 0) + 1);
    return this.failures.get(key)! >= mostFailures;
  }

  /** The demo's panoramic unit: writes its picture slowly, as such devices do. */
  private async writeLikeADevice(): Promise<void> {
    const { armed } = this;
    if (!armed?.slot || !this.wish.beam) {
      this.setLamp(this.lamp, 'Nothing was exposed: get it ready first.');
      return;
    }
    this.setLamp('exposing');
    const { frames } = await this.wish.beam.expose(armed.series, armed.slot, null);
    const bytes = await pngOf(frames[0]);
    const file = path.join(this.wish.watched, `view-${Date.now()}.png`);
    this.setLamp('reading');
    const pieces = 8;
    for (let piece = 0; piece < pieces; piece++) {
      const from = Math.floor((bytes.length * piece) / pieces);
      fs.appendFileSync(file, bytes.subarray(from, Math.floor((bytes.length * (piece + 1)) / pieces)));
      await sleep(looksEveryMs);
    }
  }
}

/** All its grey values, spread over the 16 bits that such files have. */
function pngOf({ width, height, channels, bitsStored, data }: Raster): Promise<Buffer> {
  if (channels === 3) return sharp(data, { raw: { width, height, channels } }).png().toBuffer();
  const spread = Uint16Array.from(data, (each) => each << (16 - bitsStored));
  return sharp(spread, { raw: { width, height, channels } }).toColourspace('grey16').png().toBuffer();
}
