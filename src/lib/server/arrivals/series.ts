import { randomUUID } from 'node:crypto';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { numberedSeries } from '../../core/arrivals/numbered';
import { byPlane, planeName } from '../../core/arrivals/planes';
import { dicomDate, dicomTime } from '../../core/dicom/dates';
import { inClinic } from '../database/connection';
import { newUid } from '../ids';
import { readOrigin } from '../pictures/origin';
import { bytesOfFile, keepReceived, withOpened } from '../pictures/receiving';
import { composeOutside, openOutsideFacts } from '../work/processes';
import { type AboutPicture, isPicture, readAbout } from './about';
import { type Sender, aboutOf, keepArrival } from './keeping';
import { type ArrivalRow, markPartOf, waitingOfIntake } from './queries';

const inSeries = ['image/jpeg', 'image/png', 'image/tiff'];

/**
 * Numbered pictures of an intake become one series a folder, in the true order of their numbers; slices of one series one
 * stack, in their order along the normal of their plane. The pictures themselves are kept as they came, behind it.
 */
export async function gatherSeries(from: Sender, intakeId: string): Promise<void> {
  const rows = await inClinic(from.clinicId, (tx) => waitingOfIntake(tx, intakeId));
  const single = rows.flatMap((row): Single[] => {
    const about = readAbout(row.about);
    return isPicture(about) && about.frames === 1 ? [{ row, about }] : [];
  });
  const pictures = single.filter(({ about }) => inSeries.includes(about.mediaType));
  for (const { name, files, remarks } of numberedSeries(pictures, ({ row }) => row.file_name))
    await gather(from, intakeId, {
      name,
      files,
      remarks,
      reason: (count) => `${count} numbered pictures of one folder, in the order of their numbers.`,
      looksAsFirst: false,
      kept: (about) => ({ ...about, inFile: null, says: null })
    });
  for (const stack of stacksOf(single)) await gather(from, intakeId, stack);
}

/** What becomes the frames of one picture. */
interface Gathering {
  name: string;
  files: readonly Single[];
  remarks: readonly string[];
  reason: (count: number) => string;
  /** Whether it opens with the look of its first frame; else with one of all its samples. */
  looksAsFirst: boolean;
  /** What the series says of itself, beyond what its own file does, by its first frame. */
  kept: (about: AboutPicture, first: AboutPicture) => AboutPicture;
}

/** Fewer slices are pictures of their own. */
const fewestSlices = 4;

/**
 * Slices of one DICOM series that say where they lie, those of each plane in that order. A stack is what its first slice
 * says it is.
 */
function stacksOf(single: readonly Single[]): Gathering[] {
  const bySeries = new Map<string, Single[]>();
  for (const each of single) {
    const { says } = each.about;
    if (!says?.series.uid || says.instance.alongMm === null) continue;
    bySeries.set(says.series.uid, [...(bySeries.get(says.series.uid) ?? []), each]);
  }
  return [...bySeries.values()].flatMap((series) => {
    const planes = byPlane(series, ({ about }) => about.says!.instance.normal);
    return planes
      .filter((slices) => slices.length >= fewestSlices)
      .map((slices) => stackOf(slices, planes.length > 1));
  });
}

function stackOf(slices: readonly Single[], ofSeveral: boolean): Gathering {
  const instanceOf = ({ about }: Single) => about.says!.instance;
  const files = slices.toSorted(
    (a, b) =>
      instanceOf(a).alongMm! - instanceOf(b).alongMm! ||
      (instanceOf(a).number ?? 0) - (instanceOf(b).number ?? 0)
  );
  const [{ row, about }] = files;
  const { series, instance } = about.says!;
  const plane = ofSeveral && instance.normal ? `, ${planeName(instance.normal)}` : '';
  return {
    name: `${row.file_name.slice(0, row.file_name.lastIndexOf('/') + 1)}${series.description || 'Slices'}${plane}`,
    files,
    remarks: ofSeveral ? ['Its series holds slices of other planes too, which lie beside it.'] : [],
    reason: (count) => `${count} slices of one series, in their order along the normal of their plane.`,
    looksAsFirst: true,
    kept: (whole, first) => ({
      ...whole,
      kind: first.kind,
      firstLook: first.firstLook,
      pixelAspect: first.pixelAspect,
      inFile: first.inFile,
      says: first.says,
      // The whole has no number of its own that anybody else knows.
      origin: { ...first.origin, instanceUid: undefined }
    })
  };
}

interface Single {
  row: ArrivalRow;
  about: AboutPicture;
}

/** All samples of a series together. */
const mostBytes = 600 * 1024 * 1024;
const fewest = 2;

const bytesASample = ({ bitsStored }: AboutPicture): number => (bitsStored > 8 ? 2 : 1);
/** What frames of one picture have in common: a length that is measured on one holds on all. */
function shapeOf(about: AboutPicture): string {
  const { pixelSpacing, imagerPixelSpacing } = readOrigin(about.origin);
  const { width, height, channels, offset } = about;
  return JSON.stringify([
    width,
    height,
    channels,
    bytesASample(about),
    offset,
    pixelSpacing,
    imagerPixelSpacing
  ]);
}

/** Those of the size, depth and spacing that most have: only such are frames of one picture. */
function alikeOf(all: readonly Single[]): Single[] {
  const byShape = new Map<string, Single[]>();
  for (const each of all) {
    const shape = shapeOf(each.about);
    byShape.set(shape, [...(byShape.get(shape) ?? []), each]);
  }
  return [...byShape.values()].sort((a, b) => b.length - a.length)[0] ?? [];
}

async function gather(
  from: Sender,
  intakeId: string,
  { name, files: all, remarks, reason, looksAsFirst, kept }: Gathering
): Promise<void> {
  const alike = alikeOf(all);
  const [{ about: first }] = alike;
  const bytes = alike.length * first.width * first.height * first.channels * bytesASample(first);
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
      offset: first.offset,
      look: looksAsFirst ? first.firstLook : undefined,
      date: dicomDate(taken, from.timeZone),
      time: dicomTime(taken, from.timeZone),
      out
    });
    const parts = rows.map(({ arrival_id }) => arrival_id);
    await withOpened(from.clinicId, bytesOfFile(out), openOutsideFacts, (received) =>
      inClinic(from.clinicId, async (tx) => {
        await keepReceived(tx, received);
        const about = kept(aboutOf(received.found, from), first);
        const told = [
          ...remarks,
          ...(beside > 0
            ? [
                `${beside} of another size or spacing ${beside === 1 ? 'lies' : 'lie'} beside it as ${beside === 1 ? 'a picture' : 'pictures'} of ${beside === 1 ? 'its' : 'their'} own.`
              ]
            : [])
        ];
        const already = readOrigin(about.origin).remarks;
        const origin = { ...about.origin, remarks: [...told, ...already] };
        const { arrivalId } = await keepArrival(tx, from, {
          key: `${intakeId}:series:${parts[0]}`,
          digest: received.digest,
          fileName: name,
          title: '',
          remark: '',
          reason: reason(parts.length),
          about: { ...about, origin, dated },
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
