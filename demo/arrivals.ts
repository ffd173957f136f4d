import fs from 'node:fs';
import path from 'node:path';
import { Readable } from 'node:stream';
import type { ParsedMail } from 'mailparser';
import type { Place } from '../src/lib/core/anatomy/place';
import { datasetForPicture } from '../src/lib/core/dicom/objects/forPicture';
import type { ObjectFacts } from '../src/lib/core/dicom/objects/objectFacts';
import { writeDicomFile } from '../src/lib/core/dicom/write';
import { upright } from '../src/lib/core/raster/orientation';
import { type Raster, bytesOf } from '../src/lib/core/raster/raster';
import { firstLook } from '../src/lib/core/raster/statistics';
import { halved } from '../src/lib/core/raster/reduced';
import { patchOfRaster } from '../src/lib/core/raster/patch';
import { keepBytes } from '../src/lib/server/blobs/keep';
import { finishIntake } from '../src/lib/server/arrivals/intakeEnd';
import { intakeOfKey, openIntake } from '../src/lib/server/arrivals/intakes';
import { type Sender, fileArrives, keepArrival } from '../src/lib/server/arrivals/keeping';
import { takeIn } from '../src/lib/server/arrivals/takeIn';
import { inClinic } from '../src/lib/server/database/connection';
import { newUid } from '../src/lib/server/ids';
import { mailArrives } from '../src/lib/server/mail/mailArrives';
import type { Caller } from '../src/lib/server/people/caller';
import type { By } from '../src/lib/server/audit/write';
import { samplesMediaType } from '../src/lib/server/pictures/origin';
import { rasterOf } from '../src/lib/server/pictures/levels';
import { pictureRow } from '../src/lib/server/pictures/views';
import type { RenderPool } from '../standins/render/pool';
import { letterPdf } from './letter';
import { jawSlices } from './slices';

/** Nine spellings of three people, as a disc from elsewhere has them; each of another of their pictures. */
const disc: readonly {
  of: string;
  names: readonly [string, string, string];
  born: string;
  number: string;
}[] = [
  {
    of: 'QS-1040',
    names: ['DUNMALLOW^CORIN', 'Dunmallow Corin', 'Dunmalow^Corin'],
    born: '19581217',
    number: 'MG-20771'
  },
  {
    of: 'QS-1046',
    names: ['Harrowgate-Sund^Liv', 'Sund^Liv', 'HARROWGATE SUND^L'],
    born: '20010427',
    number: 'MG-31950'
  },
  {
    of: 'QS-1011',
    names: ['Kestrelle^Tobias', 'Tobin^Kestrelle', 'Kestrélle^Tobin'],
    born: '19741102',
    number: ''
  }
];

interface Of {
  raster: Raster;
  places: Place[];
  kind: ObjectFacts['kind'];
}

/** Pictures of a patient of the demo clinic, made smaller, as another house would have them. */
async function picturesOf(clinicId: string, record: string, most: number): Promise<Of[]> {
  return inClinic(clinicId, async (tx) => {
    const rows = await tx.sql<{ picture_id: string }>(
      `select p.picture_id from picture p join patient t using (patient_id)
       where t.record_number = $1 and p.kind = 'radiograph' order by p.taken_at, p.number limit $2`,
      record,
      most
    );
    return Promise.all(
      rows.map(async ({ picture_id }) => {
        const row = await pictureRow(tx, picture_id);
        return {
          raster: smaller(await rasterOf(clinicId, row, 0, 0)),
          places: [],
          kind: 'radiograph' as const
        };
      })
    );
  });
}

function smaller(raster: Raster): Raster {
  const { width, height, data } = halved(patchOfRaster(raster));
  return {
    ...raster,
    width,
    height,
    offset: 0,
    data: Uint16Array.from(data, (value) => value - raster.offset)
  };
}

interface File {
  raster: Raster[];
  kind: ObjectFacts['kind'];
  name: string;
  birthDate: string;
  id: string;
  description: string;
  places: Place[];
  date: string;
  frameMs?: number | null;
  species?: string;
  owner?: string;
}

function dicomOf(of: File): Buffer {
  const [first] = of.raster;
  const { width, height, channels, bitsStored, offset } = first;
  return Buffer.from(
    writeDicomFile(
      datasetForPicture({
        patient: {
          name: of.name,
          id: of.id,
          birthDate: of.birthDate,
          sex: '',
          species: of.species,
          owner: of.owner
        },
        study: {
          uid: newUid(),
          date: of.date,
          time: '101500',
          id: '1',
          accession: '',
          description: of.description
        },
        series: { uid: newUid(), number: 1, description: of.description },
        instance: { uid: newUid(), number: 1, date: of.date, time: '101700' },
        equipment: { manufacturer: 'Mainland General', model: 'Room 4', institution: 'Mainland General' },
        kind: of.kind,
        pixels: {
          width,
          height,
          channels,
          bitsStored,
          offset,
          frames: of.raster.length,
          frameMs: of.frameMs ?? null,
          bytes: new Uint8Array(Buffer.concat(of.raster.map(bytesOf)))
        },
        look: firstLook(first),
        orientation: upright,
        directions: null,
        slot: null,
        places: of.places,
        detectorSpacingMm: of.kind === 'radiograph' ? [0.28, 0.28] : null,
        scale: null,
        exposure: {},
        burnedIn: null,
        lossy: null
      })
    )
  );
}

const wristOf = (side: 'right' | 'left'): Place => ({ kind: 'bone', region: 'wrist', side, whose: 'person' });
const described: Record<string, { words: string; places: Place[] }> = {
  'QS-1040': { words: 'Wrist right', places: [wristOf('right')] },
  'QS-1046': {
    words: 'Whole spine, standing',
    places: [{ kind: 'spine', region: 'whole', whose: 'person' }]
  },
  'QS-1011': { words: 'Tooth 46', places: [{ kind: 'tooth', tooth: 46 }] }
};

/** The disc as a folder: DICOM files without an ending, and what such discs have beside them. */
async function writeDisc(clinicId: string, folder: string): Promise<void> {
  if (fs.existsSync(path.join(folder, 'README.TXT'))) return;
  fs.mkdirSync(path.join(folder, 'DICOM'), { recursive: true });
  let number = 0;
  for (const { of, names, born, number: id } of disc) {
    const pictures = await picturesOf(clinicId, of, 3);
    if (pictures.length === 0) continue;
    for (const [i, name] of names.entries()) {
      const { raster, kind } = pictures[i % pictures.length];
      const { words, places } = described[of];
      const file = dicomOf({
        raster: [raster],
        kind,
        name,
        birthDate: i === 2 ? '' : born,
        id,
        description: words,
        places,
        date: `2025${String(3 + 2 * i).padStart(2, '0')}1${number % 9}`
      });
      fs.writeFileSync(path.join(folder, 'DICOM', `IM${String((number += 1)).padStart(4, '0')}`), file);
    }
  }
  fs.writeFileSync(path.join(folder, 'DICOM', 'IM0099'), Buffer.from('DICM, and then the copy broke off'));
  fs.writeFileSync(path.join(folder, 'README.TXT'), 'Pictures of three patients, Mainland General.\r\n');
}

export interface ArrivalsWish {
  caller: Caller & By;
  userOf: (signIn: string) => string;
  roomOf: (name: string) => string;
  pool: RenderPool;
  /** Where discs lie that the server may read. */
  discs: string;
  now: Date;
}

/** What waits on the sorting desk when the demo clinic opens, and a disc that is to be read yet. */
export async function addArrivals({ caller, userOf, roomOf, pool, discs, now }: ArrivalsWish): Promise<void> {
  const { clinicId, timeZone } = caller;
  if (await inClinic(clinicId, (tx) => intakeOfKey(tx, 'demo slices'))) return;
  await writeDisc(clinicId, path.join(discs, 'From the mainland'));
  const from: Sender = {
    clinicId,
    source: 'drop',
    name: 'Mara Fennick',
    roomId: null,
    userId: userOf('mara'),
    timeZone,
    by: { system: 'demo' }
  };
  await exposureOfNobody(
    from,
    await pool.render({
      kind: 'wrist',
      wish: { seed: 12, side: 'right', inclinationDeg: 22, volarTiltDeg: 9, ulnarVarianceMm: 0 },
      from: 'front',
      seed: 77
    }),
    roomOf('Bones'),
    now
  );
  const wound = await pool.render({ kind: 'wound', seed: 8, lengthMm: 31, widthMm: 6 });
  const jpeg = await photograph(wound.frames[0]);
  await fileArrives(
    { ...from, source: 'phone' },
    {
      key: 'demo phone wound',
      fileName: '',
      title: 'Shin, day 3',
      remark: 'Redder at the lower end than on Monday.',
      reason: 'Mara Fennick sent it from a phone.',
      body: Readable.from([jpeg])
    }
  );
  const ewe = await pool.render({ kind: 'ewe', seed: 11, burnedIn: ['MADDOCK MAJOR', 'PONY'] });
  const other = await pool.render({ kind: 'wound', seed: 21, lengthMm: 52, widthMm: 9 });
  const herLeg = await photograph(other.frames[0]);
  await letters(caller, userOf, { jpeg: herLeg, loop: ewe.frames, frameMs: ewe.frameMs ?? 50 }, now);
  // Last: its intake says that all of this is there.
  const intakeId = await inClinic(clinicId, (tx) =>
    openIntake(tx, from, {
      source: 'drop',
      name: 'Teal Harbour jaw',
      said: null,
      forUser: userOf('mara'),
      key: 'demo slices'
    })
  );
  for (const { name, bytes } of await jawSlices())
    await takeIn(from, intakeId, { path: `Teal Harbour jaw/${name}`, body: Readable.from([bytes]) });
  await finishIntake(from, intakeId, false);
}

async function photograph({ width, height, data }: Raster): Promise<Buffer> {
  const { default: sharp } = await import('sharp');
  return sharp(Buffer.from(data as Uint8Array), { raw: { width, height, channels: 3 } })
    .jpeg({ quality: 90 })
    .toBuffer();
}

/** A panel that noticed the beam while it rested. */
async function exposureOfNobody(
  from: Sender,
  { frames: [raster], pitchMm }: Awaited<ReturnType<RenderPool['render']>>,
  roomId: string,
  now: Date
): Promise<void> {
  const { width, height, channels, bitsStored, offset } = raster;
  await inClinic(from.clinicId, async (tx) =>
    keepArrival(
      tx,
      { ...from, source: 'device', name: 'Panel 1', roomId, userId: null },
      {
        key: 'demo exposure of nobody',
        digest: await keepBytes(tx, bytesOf(raster)),
        fileName: '',
        title: '',
        remark: '',
        reason: 'Nobody had got Panel 1 ready when it exposed.',
        takenAt: new Date(now.getTime() - 26 * 60_000),
        about: {
          version: 2,
          mediaType: samplesMediaType,
          kind: 'radiograph',
          width,
          height,
          channels,
          bitsStored,
          offset,
          frames: 1,
          frameMs: null,
          firstLook: firstLook(raster),
          origin: {
            version: 2,
            from: 'Panel 1',
            imagerPixelSpacing: pitchMm === null ? undefined : [pitchMm, pitchMm]
          },
          inFile: null,
          says: null,
          dated: true
        }
      }
    )
  );
}

/** Mail: from the specialist, whom the clinic knows, and from somebody it does not. */
async function letters(
  { clinicId, timeZone }: Caller,
  userOf: (signIn: string) => string,
  { jpeg, loop, frameMs }: { jpeg: Buffer; loop: Raster[]; frameMs: number },
  now: Date
): Promise<void> {
  await inClinic(clinicId, (tx) =>
    tx.sql(
      `insert into known_sender (clinic_id, sender_id, name, address, added_by)
       select $1, gen_random_uuid(), 'Teal Harbour specialist', 'reports@teal-harbour.example', $2
       where not exists (select 1 from known_sender where clinic_id = $1 and address = 'reports@teal-harbour.example')`,
      clinicId,
      userOf('orsin')
    )
  );
  const to = { clinicId, userId: userOf('orsin'), name: 'Orsin Vael', timeZone };
  const day = new Intl.DateTimeFormat('en-GB', { dateStyle: 'long', timeZone }).format(now);
  const letter = await letterPdf(
    {
      fileName: 'Report.pdf',
      from: 'Teal Harbour, the specialist for animals',
      paragraphs: [
        'Dear colleague, thank you for sending Major. The tendon of the right fore leg is whole; a small dark spot is seen in its middle third and should be looked at again in six weeks.',
        'The loop lies with this letter. Walking in hand until then, no trotting.'
      ]
    },
    day
  );
  const loopFile = dicomOf({
    raster: loop,
    kind: 'ultrasound',
    name: 'Maddock^Major',
    birthDate: '20110601',
    id: 'TH-0912',
    description: 'Tendon, right fore leg',
    places: [],
    date: new Date(now.getTime() - 2 * 86_400_000).toISOString().slice(0, 10).replaceAll('-', ''),
    frameMs,
    species: 'pony',
    owner: 'Maddock^Bryndis'
  });
  await mailArrives(to, {
    ...mailOf('Major, right fore leg', 'reports@teal-harbour.example', 'Teal Harbour'),
    text: 'As promised on the telephone: the loop and our report.',
    attachments: [
      attachment('Report.pdf', 'application/pdf', Buffer.from(letter)),
      attachment('loop.dcm', 'application/dicom', loopFile)
    ]
  });
  await mailArrives(to, {
    ...mailOf('my leg', 'b.maddock@ferrymail.example', 'Bryndis'),
    text: 'Doctor, this is what it looks like today. It does not hurt. Bryndis M.',
    attachments: [attachment('IMG_4471.jpg', 'image/jpeg', jpeg)]
  });
}

const mailOf = (subject: string, address: string, name: string): Omit<ParsedMail, 'attachments'> => ({
  headers: new Map(),
  headerLines: [],
  html: false,
  subject,
  messageId: `<demo ${subject}>`,
  from: { value: [{ address, name }], html: '', text: '' }
});

const attachment = (
  filename: string,
  contentType: string,
  content: Buffer
): ParsedMail['attachments'][number] => ({
  type: 'attachment',
  filename,
  contentType,
  content,
  size: content.length,
  contentDisposition: 'attachment',
  related: false,
  headers: new Map(),
  checksum: '',
  cid: '',
  release: null,
  partId: ''
});
