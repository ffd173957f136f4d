import fs from 'node:fs';
import type { Raster } from '../../core/raster/raster';
import { windowLook } from '../../core/raster/look/look';
import { firstLook } from '../../core/raster/statistics';
import { wholeBlob } from '../blobs/keep';
import { openFile } from '../pictures/decode/openFile';
import { wrapped } from './wrapped';

export interface ComposeWish {
  clinicId: string;
  /** Digests of the pictures, hexadecimal, in the order of the frames. */
  digests: string[];
  uids: { study: string; series: string; instance: string };
  description: string;
  /** YYYYMMDD, HHMMSS. */
  date: string;
  time: string;
  /** Where the DICOM file is written. */
  out: string;
}

export interface Composed {
  /** Which of the pictures have become frames: those of the size that most have. */
  frames: number[];
}

/** All samples of a series together. */
const mostBytes = 600 * 1024 * 1024;
const fewest = 2;

/** Numbered pictures of one size as the frames of one DICOM file (PS3.3 A.8.3 to A.8.5); null where too few go together. */
export async function composed(wish: ComposeWish): Promise<Composed | null> {
  const shapes: { index: number; key: string; bytes: number }[] = [];
  for (const [index, digest] of wish.digests.entries()) {
    const { opened } = await openFile(await wholeBlob(wish.clinicId, Buffer.from(digest, 'hex')));
    const { width, height, channels, bitsStored } = opened;
    const deep = bitsStored > 8 && channels === 1;
    shapes.push({
      index,
      key: `${width} ${height} ${channels} ${deep ? 16 : 8}`,
      bytes: width * height * channels * (deep ? 2 : 1)
    });
  }
  const most = mostOften(shapes.map(({ key }) => key));
  const alike = shapes.filter(({ key }) => key === most);
  const total = alike.reduce((sum, { bytes }) => sum + bytes, 0);
  if (alike.length < fewest || total > mostBytes) return null;
  const bytes = new Uint8Array(total);
  let first: Raster | null = null;
  let bitsStored = 8;
  let at = 0;
  for (const { index } of alike) {
    const file = await openFile(await wholeBlob(wish.clinicId, Buffer.from(wish.digests[index], 'hex')));
    const raster = await file.frame(0);
    first ??= raster;
    bitsStored = Math.max(bitsStored, raster.bitsStored);
    const { buffer, byteOffset, byteLength } = raster.data as Uint8Array;
    bytes.set(new Uint8Array(buffer, byteOffset, byteLength), at);
    at += byteLength;
  }
  const { width, height, channels } = first!;
  const pixels = {
    width,
    height,
    channels,
    bitsStored,
    offset: 0,
    frames: alike.length,
    frameMs: null,
    bytes
  };
  const look = bitsStored === 8 ? windowLook({ center: 128, width: 256 }) : firstLook(first!);
  const { uids, description, date, time } = wish;
  await fs.promises.writeFile(
    wish.out,
    wrapped({ uids, description, date, time, kind: 'other', pixels, look, lossy: null })
  );
  return { frames: alike.map(({ index }) => index) };
}

function mostOften(keys: readonly string[]): string {
  const counts = new Map<string, number>();
  for (const key of keys) counts.set(key, (counts.get(key) ?? 0) + 1);
  return [...counts].sort((a, b) => b[1] - a[1])[0]?.[0] ?? '';
}
