import { execFileSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import fs from 'node:fs';
import path from 'node:path';
import sharp from 'sharp';
import { seededRandom } from '../../../core/random';
import { rawFile, rawPicture, wordBytes } from './rawFile.test-data';

/** A sound file as one of the toolkits writes it, and how dcmtk makes it plain again; null where it can't. */
export interface Source {
  name: string;
  bytes: Buffer;
  backBy: readonly string[] | null;
}

export function throughTool(folder: string, bytes: Uint8Array, tool: string, ...options: string[]): Buffer {
  const [from, to] = [path.join(folder, `${randomUUID()}.in`), path.join(folder, `${randomUUID()}.out`)];
  try {
    fs.writeFileSync(from, bytes);
    execFileSync(tool, [...options, from, to], { stdio: 'pipe', timeout: 10_000 });
    return fs.readFileSync(to);
  } finally {
    for (const file of [from, to]) fs.rmSync(file, { force: true });
  }
}

const [width, height] = [61, 47];

/** The samples that every DICOM source holds. */
export function damagedSamples(): number[] {
  const random = seededRandom(3);
  return Array.from(
    { length: width * height },
    (_, i) => Math.floor((i % width) * 60 + 50 * random.uniform()) % 4096
  );
}

/** One picture in every writing and compression. */
export async function damageSources(folder: string): Promise<Source[]> {
  const plain = rawFile(
    rawPicture({ width, height, allocated: 16, stored: 12, pixels: wordBytes(damagedSamples()) }, [
      ['00080070', 'LO', 'Maker of things'],
      ['00081090', 'LO', 'Model'],
      ['00180060', 'DS', '70'],
      ['00280030', 'DS', '0.1\\0.1'],
      ['00081140', 'SQ', { items: [[['00081150', 'UI', '1.2.3']]] }],
      ['00204000', 'LT', 'comment '.repeat(20)]
    ])
  );
  const by = (tool: string, ...options: string[]) => throughTool(folder, plain, tool, ...options);
  const raw = { raw: { width, height, channels: 1 as const } };
  const words = Uint16Array.from(damagedSamples(), (value) => value << 4);
  return [
    { name: 'explicit', bytes: plain, backBy: ['dcmconv', '+te'] },
    { name: 'implicit', bytes: by('dcmconv', '+ti'), backBy: ['dcmconv', '+te'] },
    { name: 'big endian', bytes: by('dcmconv', '+tb'), backBy: ['dcmconv', '+te'] },
    { name: 'deflated', bytes: by('dcmconv', '+td'), backBy: ['dcmconv', '+te'] },
    { name: 'run length', bytes: by('dcmcrle'), backBy: ['dcmdrle'] },
    { name: 'JPEG lossless', bytes: by('dcmcjpeg', '+e1'), backBy: ['dcmdjpeg'] },
    { name: 'JPEG-LS', bytes: by('dcmcjpls'), backBy: ['dcmdjpls'] },
    { name: 'JPEG 2000', bytes: by('gdcmconv', '--j2k'), backBy: null },
    { name: 'PNG', bytes: await sharp(words, raw).toColourspace('grey16').png().toBuffer(), backBy: null },
    { name: 'TIFF', bytes: await sharp(words, raw).toColourspace('grey16').tiff().toBuffer(), backBy: null }
  ];
}

/** A file with its end missing, or with some bits turned over in its head or anywhere. */
export function damaged(source: Buffer, random: { uniform(): number }): Buffer {
  const how = Math.floor(3 * random.uniform());
  if (how === 0)
    return source.subarray(0, source.length - Math.floor(Math.min(source.length, 400) * random.uniform()));
  const spoilt = Buffer.from(source);
  const span = how === 1 ? Math.min(900, spoilt.length) : spoilt.length;
  for (let flips = 1 + Math.floor(3 * random.uniform()); flips > 0; flips--)
    spoilt[Math.floor(span * random.uniform())] ^= 1 << Math.floor(8 * random.uniform());
  return spoilt;
}
