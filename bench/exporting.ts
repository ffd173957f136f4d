import fs from 'node:fs';
import path from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { ReadableStream } from 'node:stream/web';
import sharp from 'sharp';
import { password } from '../demo/clinic';
import { Asking } from '../e2e/harness/asking';
import { visitOfMany } from '../e2e/harness/faultyArchive';
import type { RunningClinic } from '../e2e/harness/running';
import { seededRandom } from '../src/lib/core/random';
import { plainPacking } from '../src/lib/core/parcel/packing';
import { memoryOf } from './memory';
import type { Row } from './report';

const pictures = 1000;
const [width, height] = [900, 700];
/** However many pictures, memory grows by no more. */
const mostGrowth = 150e6;

/** By then everything that packs has started. */
const early = 0.1;
const watchEveryMs = 500;

/** How much more memory all processes of a clinic took while bytes went through, at most, from a certain byte on. */
class MemoryWhile {
  private first: number | null = null;
  private most = 0;

  constructor(
    private readonly clinic: RunningClinic,
    private readonly from: number
  ) {}

  async *through(bytes: AsyncIterable<Buffer>): AsyncGenerator<Buffer> {
    let [size, looked] = [0, 0];
    for await (const chunk of bytes) {
      size += chunk.length;
      if (size >= this.from && performance.now() - looked > watchEveryMs) {
        looked = performance.now();
        const now = memoryOf(this.clinic.pids());
        this.first ??= now;
        this.most = Math.max(this.most, now);
      }
      yield chunk;
    }
  }
  growth = (): number => this.most - (this.first ?? 0);
}

/** Something between a film and noise: no file format makes it small. */
function grainy(): Promise<Buffer> {
  const random = seededRandom(17);
  const data = Uint8Array.from({ length: width * height }, (_, i) => {
    const [x, y] = [i % width, Math.floor(i / width)];
    return 110 + 60 * Math.sin(x / 90) * Math.cos(y / 70) + 6 * random.normal();
  });
  return sharp(data, { raw: { width, height, channels: 1 } })
    .toColourspace('b-w')
    .png()
    .toBuffer();
}

/** Pictures fetched as one ZIP of PNG files, from the wish to the last byte on the disk. */
export async function benchExport(clinic: RunningClinic, folder: string): Promise<Row[]> {
  const mara = await Asking.as(clinic, 'mara', password);
  const file = await grainy();
  const visitId = await visitOfMany(clinic, mara, pictures, file);
  const ids = await clinic.rows<{ picture_id: string }>(
    'select picture_id from picture where visit_id = $1',
    [visitId]
  );
  // Whatever is brought in has its sizes from then on.
  await clinic.rows(
    `insert into picture_level (clinic_id, picture_id, frame, level, width, height, encoding, bytes)
     select l.clinic_id, p.picture_id, l.frame, l.level, l.width, l.height, l.encoding, l.bytes
     from picture_level l, picture p where p.visit_id = $1 and l.picture_id in
       (select picture_id from picture where visit_id = $1) on conflict do nothing`,
    [visitId]
  );
  const source = path.join(folder, 'source.png');
  fs.writeFileSync(source, file);
  const started = performance.now();
  for (let i = 0; i < pictures; i++) {
    const copy = path.join(folder, `copy${i % 20}.png`);
    fs.copyFileSync(source, copy);
    fs.writeFileSync(copy, await sharp(copy).png().toBuffer());
  }
  const referenceMs = performance.now() - started;

  const begun = performance.now();
  const { said } = await mara.send('POST', `/api/visits/${visitId}/parcels`, {
    destinationId: null,
    identity: 'identified',
    packing: { ...plainPacking, format: 'png' },
    pictureIds: ids.map((row) => row.picture_id),
    warned: true
  });
  const parcelId = String(said.parcelId);
  const answer = await fetch(`${clinic.origin}/api/parcels/${parcelId}/file`, {
    headers: { cookie: mara.cookie }
  });
  const zip = path.join(folder, 'export.zip');
  const memory = new MemoryWhile(clinic, early * pictures * file.length);
  await pipeline(
    Readable.fromWeb(answer.body as ReadableStream),
    (bytes: AsyncIterable<Buffer>) => memory.through(bytes),
    fs.createWriteStream(zip)
  );
  const oursMs = performance.now() - begun;
  const bytes = fs.statSync(zip).size;
  if (bytes < pictures * file.length * 0.8) throw new Error(`only ${bytes} bytes came out`);
  return [
    {
      name: `${pictures} pictures of ${width} x ${height} fetched as one ZIP of PNG files`,
      oursMs,
      reference: 'copying each and compressing it as PNG',
      referenceMs,
      limit: 1.3,
      note: `${(bytes / 1e6).toFixed(0)} MB`
    },
    {
      name: 'Memory that all processes took more from the first tenth of it to the last (MB written as ms)',
      oursMs: memory.growth() / 1e6,
      reference: '150 MB',
      referenceMs: mostGrowth / 1e6,
      limit: 1
    }
  ];
}
