// Reads what is burned into pictures. In a process of its own: it takes long, and much memory.
import { createRequire } from 'node:module';
import path from 'node:path';
import sharp from 'sharp';
import { createWorker, PSM, type Worker } from 'tesseract.js';
import { type LetteringBox, findLettering } from '../../core/raster/lettering/findLettering';
import { letteringCrop } from '../../core/raster/lettering/letteringCrop';
import { agreed } from '../../core/picture/layers/veils/veils';
import { type Area, overlap } from '../../core/raster/area';
import type { Raster } from '../../core/raster/raster';

/** Writing that was found in a picture, and what it says as far as it can be read. */
export interface FoundWriting extends Area {
  /** Frames it stands on; all of them where it names none. */
  frames?: number[];
  reads: LetteringBox['reads'];
  /** 0 to 1: how sure it is that this is writing. */
  sure: number;
  /** Empty where nothing could be read. */
  says: string;
  /** 0 to 1: how sure its reading is. */
  saysSure: number;
  /** Whether it is more likely speckle: nobody is shown it, and a name that is read in it counts all the same. */
  doubtful: boolean;
}

let reader: Promise<Worker> | null = null;
let idle: NodeJS.Timeout | null = null;
const idleMs = 30_000;

function theReader(): Promise<Worker> {
  if (idle) clearTimeout(idle);
  idle = setTimeout(() => void stopReading(), idleMs);
  idle.unref();
  return (reader ??= startReader());
}

async function startReader(): Promise<Worker> {
  const resolve = createRequire(import.meta.url).resolve;
  const letters = path.join(path.dirname(resolve('@tesseract.js-data/eng/package.json')), '4.0.0_best_int');
  const worker = await createWorker('eng', 1, {
    langPath: letters,
    cacheMethod: 'none',
    gzip: true,
    errorHandler: () => {}
  });
  await worker.setParameters({ tessedit_pageseg_mode: PSM.SINGLE_LINE, user_defined_dpi: '300' });
  return worker;
}

export async function stopReading(): Promise<void> {
  const stopping = reader;
  reader = null;
  await (await stopping?.catch(() => null))?.terminate().catch(() => {});
}

interface Read {
  says: string;
  sure: number;
}

/** A reading so sure is not tried another way. */
const sureEnough = 0.8;

async function readCrop(raster: Raster, box: Area, turn: 0 | 1 | 3, ink: 'bright' | 'dark'): Promise<Read> {
  const { data, width, height, scale } = letteringCrop(raster, box, turn, ink);
  const png = await sharp(data, { raw: { width, height, channels: 1 } })
    .resize(Math.max(8, Math.round(width * scale)), Math.max(8, Math.round(height * scale)), {
      kernel: 'cubic',
      fit: 'fill'
    })
    .extend({ top: 12, bottom: 12, left: 12, right: 12, background: '#fff' })
    .png({ compressionLevel: 1 })
    .toBuffer();
  const { data: read } = await (await theReader()).recognize(png);
  return { says: read.text.replace(/\s+/g, ' ').trim(), sure: read.confidence / 100 };
}

/** Read as bright and as dark letters, upwards and downwards, until one reading is sure; else the surest. */
async function read(raster: Raster, box: LetteringBox): Promise<Read> {
  const turns: (0 | 1 | 3)[] = box.reads === 'along' ? [0] : [3, 1];
  let best: Read = { says: '', sure: 0 };
  for (const ink of ['bright', 'dark'] as const)
    for (const turn of turns) {
      const each = await readCrop(raster, box, turn, ink);
      if (each.says !== '' && each.sure > best.sure) best = each;
      if (best.sure >= sureEnough) return best;
    }
  return best;
}

/** What changes, a clock say, stands at one place of so many of the frames; so sure a reading has to be of anything else. */
const sharedFrames = 0.6;
const readOnceSure = 0.7;

/** Of a longer loop so many frames are looked at, evenly: what changes between them is like what stands beside it in time. */
const mostFrames = 24;

/**
 * Where writing stands in all of a picture's frames and what it says: what stays the same in all of them once, what
 * changes on the frames that have it.
 */
export async function findWriting(
  count: number,
  frameAt: (frame: number) => Promise<Raster>
): Promise<FoundWriting[]> {
  const step = Math.max(1, count / mostFrames);
  const looked = Array.from({ length: Math.min(count, mostFrames) }, (_, i) => Math.floor(i * step));
  const frames: Raster[] = [];
  for (const frame of looked) frames.push(await frameAt(frame));
  const still = findLettering(frames);
  const found: (FoundWriting & { at: number; once: boolean })[] = still.map((box) => ({
    ...placed(box),
    at: 0,
    once: false
  }));
  if (frames.length > 1) {
    const moving: (LetteringBox & { frame: number })[] = [];
    for (const [i, raster] of frames.entries()) {
      for (const box of findLettering([raster]))
        if (!still.some((each) => overlap(each, box) > 0.6)) moving.push({ ...box, frame: i });
    }
    for (const veil of agreed(moving, frames.length)) {
      const first = moving.find((box) => overlap(box, veil) > 0.6)!;
      const between = veil.frames?.flatMap((i) =>
        Array.from({ length: (looked[i + 1] ?? count) - looked[i] }, (_, k) => looked[i] + k)
      );
      found.push({
        ...placed({ ...first, left: veil.left, top: veil.top, width: veil.width, height: veil.height }),
        ...(between ? { frames: between } : {}),
        at: first.frame,
        once: (veil.frames?.length ?? frames.length) < sharedFrames * frames.length
      });
    }
  }
  const out: FoundWriting[] = [];
  for (const { at, once, ...each } of found) {
    const { says, sure } = await read(frames[at], { ...each, confidence: each.sure });
    // What stands on some frames alone is speckle as a rule, unless it can be read.
    const doubtful = once && (sure < readOnceSure || says.replace(/[^\p{L}\p{N}]/gu, '').length < 3);
    out.push({ ...each, says, saysSure: sure, doubtful });
  }
  return out;
}

const placed = ({ left, top, width, height, reads, confidence }: LetteringBox): FoundWriting => ({
  left,
  top,
  width,
  height,
  reads,
  sure: confidence,
  says: '',
  saysSure: 0,
  doubtful: false
});
