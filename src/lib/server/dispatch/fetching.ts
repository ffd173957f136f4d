import { asFileName } from '../../core/parcel/fileNames';
import { writeAudit } from '../audit/write';
import { inClinic } from '../database/connection';
import { type Caller, demand } from '../people/caller';
import { Problem } from '../problem';
import { stopUnpacked } from './packParcel';
import { parcelFiles } from './parcelFiles';
import { announceParcel, parcelRow } from './parcelRow';
import { zipStream } from './zipStream';

/** So often pages are told how far somebody's fetching is. */
const tellEveryMs = 1_000;

/** A parcel as a ZIP, made while it is fetched: however many pictures it has, few are held at once. */
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
    await tx.sql('update parcel set packed_count = 0 where parcel_id = $1', parcelId);
    await writeAudit(tx, caller, 'parcel fetched', parcelId, { identity: row.identity });
    return row;
  });
  const { clinicId } = caller;
  let told = Promise.resolve();
  /** One after the other: how it ended is told last. */
  const standing = (set: string, ...values: unknown[]) =>
    (told = told
      .catch(() => {})
      .then(() =>
        inClinic(clinicId, async (tx) => {
          await tx.sql(`update parcel set ${set} where parcel_id = $1`, parcelId, ...values);
          await announceParcel(tx, parcelId);
        })
      ));
  let toldAt = Date.now();
  const count = (pictures: number) => {
    if (Date.now() - toldAt < tellEveryMs) return;
    toldAt = Date.now();
    // Only to be looked at: the fetching does not wait for it, and goes on without.
    standing('packed_count = $2', pictures).catch(() => {});
  };
  const stream = zipStream(parcelFiles(clinicId, parcelId, count), {
    taken: () => standing('fetched_at = now(), packed_count = 0'),
    left: () => standing('packed_count = 0'),
    // The ZIP broke off, and nobody at a browser sees why: Dispatch says it.
    stopped: (problem) => stopUnpacked(clinicId, parcelId, problem)
  });
  const day = parcel.madeAt.toISOString().slice(0, 10);
  return {
    stream,
    fileName: `${asFileName(`pictures ${day} ${parcelId.slice(-6)}`)}.zip`
  };
}
