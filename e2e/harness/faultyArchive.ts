import type { Asking } from './asking';
import { letteredPng } from './lettered';
import type { RunningClinic } from './running';

const pause = (ms: number) => new Promise((done) => setTimeout(done, ms));
const patienceMs = 300_000;

/** A visit of many pictures, all of one file. */
export async function visitOfMany(
  clinic: RunningClinic,
  who: Asking,
  many: number,
  file?: Buffer
): Promise<string> {
  const { visitId } = await who.teethVisit('QS-1060');
  await who.send(
    'POST',
    `/api/visits/${visitId}/files?name=one.png`,
    new Uint8Array(file ?? (await letteredPng()))
  );
  await clinic.rows(
    `insert into picture (picture_id, clinic_id, patient_id, visit_id, original_sha256, media_type, file_name, source, kind,
        width, height, channels, bits_stored, sample_offset, frames, facts, first_look, taken_at, instance_uid, number)
     select gen_random_uuid(), p.clinic_id, p.patient_id, p.visit_id, p.original_sha256, p.media_type, 'many ' || n, p.source,
       p.kind, p.width, p.height, p.channels, p.bits_stored, p.sample_offset, p.frames, p.facts, p.first_look, p.taken_at,
       '2.25.' || (770000 + n), n + 1000
     from generate_series(2, $2::int) n, (select * from picture where visit_id = $1 limit 1) p`,
    [visitId, many]
  );
  return visitId;
}

export async function archiveOf(clinic: RunningClinic): Promise<string> {
  const [archive] = await clinic.rows<{ destination_id: string }>(
    `select destination_id from destination where name = 'Mainland archive'`
  );
  return archive.destination_id;
}

/**
 * Sends a visit to an archive that fails a third of what it is asked, in five ways, and kills the worker at shares of
 * the way. What the archive refuses for good somebody sends again. Gives back how often each arrived.
 */
export async function throughFaults(
  clinic: RunningClinic,
  who: Asking,
  visitId: string,
  sendAgain: (parcelId: string) => Promise<unknown>,
  onprogress: (there: number) => void = () => {}
): Promise<{ times: number[]; sentAgain: number }> {
  await clinic.archiveFault('mixed');
  const ids = await clinic.rows<{ picture_id: string }>(
    'select picture_id from picture where visit_id = $1',
    [visitId]
  );
  const { said } = await who.send('POST', `/api/visits/${visitId}/parcels`, {
    destinationId: await archiveOf(clinic),
    identity: 'identified',
    pictureIds: ids.map((row) => row.picture_id)
  });
  const killAt = [0.1, 0.3, 0.55].map((share) => Math.round(share * ids.length));
  let sentAgain = 0;
  for (const until = Date.now() + patienceMs; ; await pause(250)) {
    const now = await deliveryCounts(clinic);
    const there = now.delivered ?? 0;
    onprogress(there);
    if (there === ids.length) break;
    if (Date.now() > until) throw new Error(`only ${there} of ${ids.length} arrived: ${JSON.stringify(now)}`);
    if (there >= killAt[0]) {
      killAt.shift();
      await clinic.kill('worker');
      clinic.startWorker();
    }
    if (now.failed && !now.waiting && !now.sending) {
      await clinic.archiveFault('none');
      await sendAgain(String(said.parcelId));
      sentAgain++;
    }
  }
  return { times: Object.values(await clinic.receipts()), sentAgain };
}

async function deliveryCounts(clinic: RunningClinic): Promise<Record<string, number>> {
  const rows = await clinic.rows<{ state: string; count: number }>(
    'select state, count(*)::int as count from delivery group by state'
  );
  return Object.fromEntries(rows.map(({ state, count }) => [state, count]));
}
