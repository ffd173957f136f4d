import { randomUUID } from 'node:crypto';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { numberedSeries } from '../../core/arrivals/numbered';
import { dicomDate, dicomTime } from '../../core/dicom/dates';
import { inClinic } from '../database/connection';
import { newUid } from '../ids';
import { bytesOfFile, keepReceived, withOpened } from '../pictures/receiving';
import { composeOutside, openOutsideFacts } from '../work/processes';
import { type AboutPicture, isPicture, readAbout } from './about';
import { type Sender, aboutOf, keepArrival } from './keeping';
import { type ArrivalRow, markPartOf, waitingOfIntake } from './queries';

const inSeries = ['image/jpeg', 'image/png', 'image/tiff'];

/**
 * Numbered pictures of an intake become one series a folder, in the true order of their numbers. The pictures themselves
 * are kept as they came, behind the series.
 */
export async function gatherSeries(from: Sender, intakeId: string): Promise<void> {
  const rows = await inClinic(from.clinicId, (tx) => waitingOfIntake(tx, intakeId));
  const pictures = rows.flatMap((row): Numbered[] => {
    const about = readAbout(row.about);
    const may = isPicture(about) && about.frames === 1 && inSeries.includes(about.mediaType);
    return may ? [{ row, about }] : [];
  });
  for (const { name, files, remarks } of numberedSeries(pictures, ({ row }) => row.file_name))
    await gather(from, intakeId, name, files, remarks);
}

interface Numbered {
  row: ArrivalRow;
  about: AboutPicture;
}

/** All samples of a series together. */
const mostBytes = 600 * 1024 * 1024;
const fewest = 2;

const bytesASample = ({ bitsStored }: AboutPicture): number => (bitsStored > 8 ? 2 : 1);
const shapeOf = (about: AboutPicture): string =>
  [about.width, about.height, about.channels, bytesASample(about)].join(' ');

/** Those of the size and depth that most have: only such are frames of one picture. */
function alikeOf(all: readonly Numbered[]): Numbered[] {
  const byShape = new Map<string, Numbered[]>();
  for (const each of all) {
    const shape = shapeOf(each.about);
    byShape.set(shape, [...(byShape.get(shape) ?? []), each]);
  }
  return [...byShape.values()].sort((a, b) => b.length - a.length)[0] ?? [];
}

async function gather(
  from: Sender,
  intakeId: string,
  name: string,
  all: readonly Numbered[],
  remarks: readonly string[]
): Promise<void> {
  const alike = alikeOf(all);
  const [{ about: shape }] = alike;
  const bytes = alike.length * shape.width * shape.height * shape.channels * bytesASample(shape);
  if (alike.length < fewest || bytes > mostBytes) return;
  const rows = alike.map(({ row }) => row);
  const taken = rows.map((row) => row.taken_at).sort((a, b) => a.getTime() - b.getTime())[0];
  const dated = alike.every(({ about }) => about.dated);
  const beside = all.length - alike.length;
  const out = path.join(os.tmpdir(), `yonder-series-${randomUUID()}.dcm`);
  try {
    await composeOutside({
      clinicId: from.clinicId,
      digests: rows.map((row) => row.original_sha256.toString('hex')),
      bytes,
      uids: { study: newUid(), series: newUid(), instance: newUid() },
      description: name.slice(0, 64),
      date: dicomDate(taken, from.timeZone),
      time: dicomTime(taken, from.timeZone),
      out
    });
    const parts = rows.map(({ arrival_id }) => arrival_id);
    await withOpened(from.clinicId, bytesOfFile(out), openOutsideFacts, (received) =>
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
