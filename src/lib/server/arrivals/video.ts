import { execFile, spawn } from 'node:child_process';
import fs from 'node:fs';
import { promisify } from 'node:util';
import { z } from 'zod';
import { windowLook } from '../../core/raster/look/look';
import { newUid } from '../ids';
import { Problem } from '../problem';
import { wrapped } from './wrapped';

const run = promisify(execFile);
/** A loop has so many frames at most, so wide, so long. */
const mostFrames = 600;
const widestPx = 1280;
const mostBytes = 700 * 1024 * 1024;
const patienceMs = 120_000;
/** Nothing but the file itself is ever opened, whatever it says inside. */
const guarded = ['-protocol_whitelist', 'file', '-v', 'error'];

const probed = z.object({
  streams: z
    .array(
      z.object({
        width: z.number().int().positive(),
        height: z.number().int().positive(),
        avg_frame_rate: z.string(),
        side_data_list: z.array(z.object({ rotation: z.number().optional() })).optional()
      })
    )
    .min(1),
  format: z.object({ tags: z.object({ creation_time: z.string().optional() }).optional() })
});

const damaged = () =>
  new Problem(
    'video-damaged',
    'This video is cut off, damaged, or of a kind that can’t be read.',
    'Ask for it once more, as MP4.',
    422
  );

export interface VideoMade {
  /** When it was taken by its own account. */
  takenAt: Date | null;
  /** What a person should know: it was longer, it was wider. */
  remarks: string[];
}

/** Whether this machine can read videos at all. */
export const readsVideos = (): Promise<boolean> =>
  run('ffprobe', ['-version']).then(
    () => true,
    () => false
  );

/** Makes a DICOM loop of a video's frames (PS3.3 A.8.5); its sound is left out. @throws Problem in words */
export async function loopOfVideo(file: string, out: string, words: string): Promise<VideoMade> {
  if (!(await readsVideos()))
    throw new Problem(
      'no-videos',
      'This server can’t read videos: ffmpeg is not installed on it.',
      'Install Debian’s ffmpeg and bring it in again, or ask for a DICOM loop.',
      422
    );
  const { stream, takenAt } = await probe(file);
  const [top, bottom = 1] = stream.avg_frame_rate.split('/').map(Number);
  const rate = top > 0 && bottom > 0 ? top / bottom : 25;
  const turned =
    Math.abs(stream.side_data_list?.find(({ rotation }) => rotation)?.rotation ?? 0) % 180 === 90;
  const [w, h] = turned ? [stream.height, stream.width] : [stream.width, stream.height];
  const share = Math.min(1, widestPx / w);
  const even = (length: number) => 2 * Math.max(1, Math.round((length * share) / 2));
  const [width, height] = [even(w), even(h)];
  const frameBytes = width * height * 3;
  const frames = Math.min(mostFrames, Math.floor(mostBytes / frameBytes));
  const bytes = await decoded(file, { width, height, frames: frames + 1 });
  const read = Math.floor(bytes.length / frameBytes);
  const kept = Math.min(read, frames);
  if (kept < 1) throw damaged();
  await fs.promises.writeFile(
    out,
    wrapped({
      uids: { study: newUid(), series: newUid(), instance: newUid() },
      description: words,
      date: '',
      time: '',
      kind: 'photograph',
      pixels: {
        width,
        height,
        channels: 3,
        bitsStored: 8,
        offset: 0,
        frames: kept,
        frameMs: 1000 / rate,
        bytes: bytes.subarray(0, kept * frameBytes)
      },
      look: windowLook({ center: 128, width: 256 }),
      lossy: {
        ratio: Math.max(1, bytes.length / (await fs.promises.stat(file)).size),
        method: 'ISO_14496_10'
      }
    })
  );
  return {
    takenAt,
    remarks: [
      ...(read > kept
        ? [`The video is longer: its first ${kept} frames are the loop. The video itself is kept whole.`]
        : []),
      ...(share < 1
        ? [`The loop is ${width} pixels wide, the video ${w}. The video itself is kept as it came.`]
        : [])
    ]
  };
}

async function probe(
  file: string
): Promise<{ stream: z.infer<typeof probed>['streams'][number]; takenAt: Date | null }> {
  const wanted = 'stream=width,height,avg_frame_rate:stream_side_data=rotation:format_tags=creation_time';
  let told: unknown;
  try {
    const { stdout } = await run(
      'ffprobe',
      [...guarded, '-select_streams', 'v:0', '-show_entries', wanted, '-of', 'json', file],
      { timeout: patienceMs, maxBuffer: 1024 * 1024 }
    );
    told = JSON.parse(stdout);
  } catch {
    throw damaged();
  }
  const read = probed.safeParse(told);
  if (!read.success) throw damaged();
  const { streams, format } = read.data;
  const at = new Date(format.tags?.creation_time ?? '');
  // Cameras whose clock was never set say 1904 or 1970.
  return { stream: streams[0], takenAt: at.getFullYear() > 1990 ? at : null };
}

function decoded(file: string, wish: { width: number; height: number; frames: number }): Promise<Buffer> {
  const { width, height, frames } = wish;
  return new Promise((done, fail) => {
    const args = [
      ...guarded,
      ...['-i', file, '-an', '-sn', '-frames:v', String(frames)],
      ...['-vf', `scale=${width}:${height}`, '-pix_fmt', 'rgb24', '-f', 'rawvideo', 'pipe:1']
    ];
    const child = spawn('ffmpeg', args, { stdio: ['ignore', 'pipe', 'ignore'], timeout: patienceMs });
    const parts: Buffer[] = [];
    let size = 0;
    child.stdout.on('data', (part: Buffer) => {
      size += part.length;
      if (size > mostBytes + width * height * 3) child.kill('SIGKILL');
      else parts.push(part);
    });
    child.once('error', () => fail(damaged()));
    child.once('close', (code) => (code === 0 && size > 0 ? done(Buffer.concat(parts)) : fail(damaged())));
  });
}
