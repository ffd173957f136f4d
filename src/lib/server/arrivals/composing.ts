import fs from 'node:fs';
import type { Raster } from '../../core/raster/raster';
import { type Look, windowLook } from '../../core/raster/look/look';
import { firstLook } from '../../core/raster/statistics';
import { wholeBlob } from '../blobs/keep';
import { openFile } from '../pictures/decode/openFile';
import { wrapped } from './wrapped';

export interface ComposeWish {
  clinicId: string;
  /** Digests of the pictures, hexadecimal, in the order of the frames. */
  digests: string[];
  /** All their samples together. */
  bytes: number;
  uids: { study: string; series: string; instance: string };
  description: string;
  /** Added to every stored sample, and what the first look is; as the first picture has them where nothing is said. */
  offset?: number;
  look?: Look;
  /** YYYYMMDD, HHMMSS. */
  date: string;
  time: string;
  /** Where the DICOM file is written. */
  out: string;
}

/** Pictures of one size as the frames of one DICOM file (PS3.3 A.8.3 to A.8.5), each opened once. */
export async function composed(wish: ComposeWish): Promise<void> {
  const bytes = new Uint8Array(wish.bytes);
  let first: Raster | null = null;
  let bitsStored = 8;
  let at = 0;
  for (const digest of wish.digests) {
    const file = await openFile(await wholeBlob(wish.clinicId, Buffer.from(digest, 'hex')));
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
    offset: wish.offset ?? 0,
    frames: wish.digests.length,
    frameMs: null,
    bytes
  };
  const look = wish.look ?? (bitsStored === 8 ? windowLook({ center: 128, width: 256 }) : firstLook(first!));
  const { uids, description, date, time } = wish;
  await fs.promises.writeFile(
    wish.out,
    wrapped({ uids, description, date, time, kind: 'other', pixels, look, lossy: null })
  );
}
