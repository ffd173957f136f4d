import { Readable } from 'node:stream';
import yazl from 'yazl';
import { asFileName } from '../../core/parcel/fileNames';
import { writeAudit } from '../audit/write';
import { inClinic } from '../database/connection';
import { log } from '../log';
import { type Caller, demand } from '../people/caller';
import { Problem } from '../problem';
import { parcelFiles } from './parcelFiles';
import { announceParcel, parcelRow } from './parcelRow';

/** Pictures that are packed already get no smaller. */
const alreadySmall = /\.(jpg|png|tif|pdf)$/;

/** A parcel as a ZIP, made while it is fetched: never more than one picture is held at once. */
export async function fetchParcel(
  caller: Caller,
  parcelId: string
): Promise<{ stream: ReadableStream<Uint8Array>; fileName: string }> {
  await demand(caller, 'send', parcelId);
  const parcel = await inClinic(caller.clinicId, async (tx) => {
    const row = await parcelRow(tx, parcelId);
    if (row.destinationId !== null || row.state !== 'open')
      throw new Problem(
        'not-ready',
        row.state === 'checking'
          ? 'This parcel is still being packed and looked through.'
          : row.state === 'stopped'
            ? 'This parcel was stopped: something stands in it that must not leave.'
            : 'This parcel can’t be fetched as a file.',
        row.state === 'checking' ? 'Wait until Dispatch says that it is ready.' : 'See why in Dispatch.',
        409
      );
    await writeAudit(tx, caller, 'parcel fetched', parcelId, { identity: row.identity });
    return row;
  });
  const zip = new yazl.ZipFile();
  const out = Readable.from(zip.outputStream as unknown as AsyncIterable<Buffer>);
  void filled(caller.clinicId, parcelId, zip, out);
  const day = parcel.madeAt.toISOString().slice(0, 10);
  return {
    stream: Readable.toWeb(out) as ReadableStream<Uint8Array>,
    fileName: `${asFileName(`pictures ${day} ${parcelId.slice(-6)}`)}.zip`
  };
}

/** One file after the other, each only once whoever fetches has taken the one before: a slow line holds no memory. */
async function filled(clinicId: string, parcelId: string, zip: yazl.ZipFile, out: Readable): Promise<void> {
  try {
    for await (const { path, bytes } of parcelFiles(clinicId, parcelId)) {
      if (out.destroyed) return;
      const source = Readable.from([Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength)]);
      const taken = new Promise<void>((resolve, reject) => {
        source.once('close', resolve);
        source.once('error', reject);
        out.once('close', resolve);
      });
      zip.addReadStream(source, path, { compress: !alreadySmall.test(path) });
      await taken;
    }
    zip.end();
    if (!out.closed) await new Promise<void>((resolve) => out.once('close', resolve));
    if (!out.readableEnded) return;
    await inClinic(clinicId, async (tx) => {
      await tx.sql('update parcel set fetched_at = now() where parcel_id = $1', parcelId);
      await announceParcel(tx, parcelId);
    });
  } catch (error) {
    // The ZIP ends in its middle, so that nobody takes it for whole.
    if (!(error instanceof Problem)) log.error({ err: error }, 'a parcel could not be packed');
    out.destroy(error as Error);
  }
}
