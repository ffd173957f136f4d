import { randomUUID } from 'node:crypto';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { numberedSeries } from '../../core/arrivals/numbered';
import { dicomDate, dicomTime } from '../../core/dicom/dates';
import { inClinic } from '../database/connection';
import { newUid } from '../ids';
import { keepReceived, withOpened } from '../pictures/receiving';
import { composeOutside, openOutsideFacts } from '../work/processes';
import { isPaper, readAbout } from './about';
import { type Sender, aboutOf, keepArrival } from './keeping';
import { type ArrivalRow, markPartOf, waitingOfIntake } from './queries';

const inSeries = ['image/jpeg', 'image/png', 'image/tiff'];

/**
 * Numbered pictures of an intake become one series a folder, in the true order of their numbers. The pictures themselves
 * are kept as they came, behind the series.
 */
export async function gatherSeries(from: Sender, intakeId: string): Promise<void> {
  const rows = (await inClinic(from.clinicId, (tx) => waitingOfIntake(tx, intakeId))).filter((row) => {
    const about = readAbout(row.about);
    return !isPaper(about) && about.frames === 1 && inSeries.includes(about.mediaType);
  });
  for (const series of numberedSeries(rows, (row) => row.file_name))
    await gather(from, intakeId, series.name, series.files, series.remarks);
}

async function gather(
  from: Sender,
  intakeId: string,
  name: string,
  rows: readonly ArrivalRow[],
  remarks: readonly string[]
): Promise<void> {
  const taken = rows.map((row) => row.taken_at).sort((a, b) => a.getTime() - b.getTime())[0];
  const dated = rows.every((row) => (readAbout(row.about) as { dated?: boolean }).dated === true);
  const out = path.join(os.tmpdir(), `yonder-series-${randomUUID()}.dcm`);
  try {
    const composed = await composeOutside({
      clinicId: from.clinicId,
      digests: rows.map((row) => row.original_sha256.toString('hex')),
      uids: { study: newUid(), series: newUid(), instance: newUid() },
      description: name.slice(0, 64),
      date: dicomDate(taken, from.timeZone),
      time: dicomTime(taken, from.timeZone),
      out
    });
    if (!composed) return;
    const parts = composed.frames.map((index) => rows[index].arrival_id);
    const beside = rows.length - parts.length;
    await withOpened(from.clinicId, fs.createReadStream(out), openOutsideFacts, (received) =>
      inClinic(from.clinicId, async (tx) => {
        await keepReceived(tx, received);
        const about = aboutOf(received.found, from);
        const told = [
          ...remarks,
          ...(beside > 0
            ? [
                `${beside} of another size ${beside === 1 ? 'lies' : 'lie'} beside it as ${beside === 1 ? 'a picture' : 'pictures'} of ${beside === 1 ? 'its' : 'their'} own.`
              ]
            : [])
        ];
        const origin = { ...about.origin, remarks: told };
        const { arrivalId } = await keepArrival(tx, from, {
          key: `${intakeId}:series:${parts[0]}`,
          digest: received.digest,
          fileName: name,
          title: '',
          remark: '',
          reason: `${parts.length} numbered pictures of one folder, in the order of their numbers.`,
          about: { ...about, origin, inFile: null, says: null, dated },
          takenAt: taken,
          bundle: { intakeId, key: rows[0].bundle_key }
        });
        await markPartOf(tx, arrivalId, parts);
      })
    );
  } finally {
    await fs.promises.rm(out, { force: true });
  }
}
