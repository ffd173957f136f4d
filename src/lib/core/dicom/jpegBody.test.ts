import { spawnSync } from 'node:child_process';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import sharp from 'sharp';
import { afterAll, describe, expect, it } from 'vitest';
import { seededRandom } from '../random';
import { jpegBaseline, jpegBody } from './jpegBody';
import { exampleFacts } from './objects/exampleFacts.test-data';
import { unplaced } from './objects/everyKind.test-data';
import { datasetForPicture } from './objects/forPicture';
import { pixelBody } from './pixelBody';
import { transferSyntaxOf, writeDicomFile } from './write';

const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'yonder-jpeg-'));
afterAll(() => fs.rmSync(folder, { recursive: true, force: true }));

const [width, height] = [61, 43];
function scene(channels: 1 | 3) {
  const random = seededRandom(7);
  const data = Uint8Array.from(
    { length: width * height * channels },
    (_, i) => 100 + 60 * Math.sin(i / 97) + 20 * random.uniform()
  );
  return sharp(data, { raw: { width, height, channels } }).toColourspace(channels === 1 ? 'b-w' : 'srgb');
}
const camera = { IFD0: { Artist: 'Planted Artist' }, IFD3: { GPSLatitude: '51/1 30/1 0/1' } };
const samples = (jpeg: Uint8Array, channels: 1 | 3) =>
  sharp(jpeg)
    .toColourspace(channels === 1 ? 'b-w' : 'srgb')
    .raw()
    .toBuffer();

describe('the body of a JPEG', () => {
  it.each([
    ['grey', 1, {}, 'MONOCHROME2'],
    ['colour at half', 3, { chromaSubsampling: '4:2:0' }, 'YBR_FULL_422'],
    ['colour in full', 3, { chromaSubsampling: '4:4:4' }, 'YBR_FULL']
  ] as const)(
    '%s: shows the same, and what a camera wrote stays behind',
    async (_, channels, how, photometric) => {
      const plain = scene(channels).withExif(camera);
      const file = await (channels === 3 ? plain.withIccProfile('p3') : plain).jpeg(how).toBuffer();
      expect(file.includes('Planted Artist')).toBe(true);
      const body = jpegBody(file)!;
      expect(body).toMatchObject({ width, height, channels, photometric });
      const text = Buffer.from(body.bytes).toString('latin1');
      expect(text).not.toMatch(/Exif|Planted|GPS/);
      expect(text.includes('ICC_PROFILE')).toBe(channels === 3);
      expect((await samples(body.bytes, channels)).equals(await samples(file, channels))).toBe(true);
    }
  );

  it('ends with its own picture: others that a camera hangs behind it stay behind', async () => {
    const file = await scene(3).jpeg().toBuffer();
    const second = await scene(1).withExif(camera).jpeg().toBuffer();
    expect(
      Buffer.from(jpegBody(Buffer.concat([file, second]))!.bytes).equals(Buffer.from(jpegBody(file)!.bytes))
    ).toBe(true);
    // Behind the end some write zeros, or anything.
    expect(jpegBody(Buffer.concat([file, Buffer.alloc(99)]))!.bytes.length).toBe(
      jpegBody(file)!.bytes.length
    );
  });

  it('has no small picture, nor the index of others, that share a mark with what is needed', async () => {
    const file = await scene(3).jpeg().toBuffer();
    const segment = (marker: number, text: string) =>
      Buffer.concat([Buffer.from([0xff, marker, 0, text.length + 2]), Buffer.from(text)]);
    const more = [segment(0xe0, 'JFXX Planted'), segment(0xe2, 'MPF Planted'), segment(0xfe, 'Planted')];
    const stuffed = Buffer.concat([file.subarray(0, 2), ...more, file.subarray(2)]);
    expect(Buffer.from(jpegBody(stuffed)!.bytes).equals(Buffer.from(jpegBody(file)!.bytes))).toBe(true);
  });

  it('is none for what another transfer syntax would be needed for, and for damage', async () => {
    expect(jpegBody(await scene(3).jpeg({ progressive: true }).toBuffer())).toBeNull();
    expect(jpegBody(await scene(3).toColourspace('cmyk').jpeg().toBuffer())).toBeNull();
    expect(jpegBody(await scene(3).png().toBuffer())).toBeNull();
    const file = await scene(3).withExif(camera).jpeg().toBuffer();
    for (let length = 0; length < file.length - 1; length += 1)
      expect(jpegBody(file.subarray(0, length)), String(length)).toBeNull();
  });

  it('whatever bytes are turned, is found or is none, and never fails', async () => {
    const file = await scene(3).jpeg().toBuffer();
    const random = seededRandom(11);
    for (let i = 0; i < 3000; i++) {
      const turned = Buffer.from(file);
      for (let n = 0; n < 4; n++)
        turned[Math.floor(random.uniform() * 700)] = Math.floor(random.uniform() * 256);
      const body = jpegBody(turned);
      if (body) expect(body.bytes.length).toBeLessThanOrEqual(file.length);
    }
  });
});

describe('an object that holds a JPEG as it came', () => {
  it.each([1, 3] as const)(
    'of %i channels satisfies other toolkits, which find it bit for bit',
    async (channels) => {
      const file = await scene(channels).jpeg().toBuffer();
      const jpeg = jpegBody(file)!;
      const pixels = {
        ...exampleFacts().pixels,
        ...{ width, height, channels, bitsStored: 8, bytes: new Uint8Array(), jpeg }
      };
      const lossy = { ratio: 8, method: 'ISO_10918_1' };
      const set = datasetForPicture(exampleFacts({ ...unplaced, pixels, lossy, burnedIn: null }));
      expect(transferSyntaxOf(set)).toBe(jpegBaseline);
      const at = path.join(folder, `${channels}.dcm`);
      fs.writeFileSync(at, writeDicomFile(set));
      const { stderr } = spawnSync('dciodvfy', [at], { encoding: 'utf8' });
      expect(stderr.split('\n').filter((line) => line.startsWith('Error'))).toEqual([]);
      const raw = path.join(folder, `${channels}.raw`);
      spawnSync('gdcmraw', ['-i', at, '-o', raw]);
      expect(fs.readFileSync(raw).subarray(0, jpeg.bytes.length).equals(Buffer.from(jpeg.bytes))).toBe(true);
      expect(pixelBody(set)).toMatchObject({ type: 'image/jpeg', transferSyntax: jpegBaseline });
      // Decoded by others it shows what the file shows; how far two decoders may differ is the standard's.
      const plain = path.join(folder, `${channels}-plain.dcm`);
      expect(spawnSync('dcmdjpeg', [at, plain]).status).toBe(0);
      const decoded = path.join(folder, `${channels}-plain.raw`);
      spawnSync('gdcmraw', ['-i', plain, '-o', decoded]);
      const [theirs, ours] = [fs.readFileSync(decoded), await samples(file, channels)];
      const worst = Math.max(...ours.map((value, i) => Math.abs(value - theirs[i])));
      expect(worst).toBeLessThan(channels === 1 ? 3 : 12);
    }
  );
});
