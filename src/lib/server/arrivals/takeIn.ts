import { randomUUID } from 'node:crypto';
import fs from 'node:fs';
import os from 'node:os';
import nodePath from 'node:path';
import { bundleKeyOf } from '../../core/arrivals/bundleKey';
import { isToRead, packageRoots } from '../../core/arrivals/packageFiles';
import type { IndexedFile } from '../../core/dicom/fileSet';
import { shortened } from '../../core/text';
import { type Tx, inClinic } from '../database/connection';
import { fileNameOf } from '../pictures/bringIn';
import { pictureOfKey } from '../pictures/queries';
import { type Received, bytesOfFile, keepReceived, withOpened } from '../pictures/receiving';
import { Problem } from '../problem';
import { openOutsideFacts } from '../work/processes';
import { intakeHead, noteLine } from './intakes';
import { type Sender, aboutOf, keepArrival, keptFile } from './keeping';
import { type Found, lookInto } from './lookInto';
import { hereAlready, markPartOf } from './queries';
import { keepTold } from './toldBeside';
import { unpacked } from './unzip';
import { loopOfVideo } from './video';

/** One file of an intake as it comes. */
export interface IncomingFile {
  /** Where it lay, with "/" between folders. Only ever a name: nothing is written there. */
  path: string;
  body: AsyncIterable<Uint8Array>;
  /** The bundle of what lies beside it, which a paper that says nothing of itself belongs to. */
  besideKey?: string;
}

export interface TakenIn {
  outcome: 'kept' | 'known' | 'refused' | 'unpacked' | 'passed over';
  arrivalId?: string;
  sentence?: string;
  /** By which a picture's bundle is known. */
  bundleKey?: string;
}

/** A whole disc in one package. */
const mostIncoming = 2_000_000_000;

/** Files that systems leave everywhere and nobody means. */
const passedOver = /(^|\/)(__MACOSX\/|\._|\.DS_Store$|Thumbs\.db$|desktop\.ini$|autorun\.inf$)/i;

/**
 * Takes one file of an intake in: kept as an arrival, known already, or refused with its reason; a line says which. A
 * ZIP is unpacked, each of its files taken in by itself. The same path twice is one file.
 */
export async function takeIn(
  from: Sender,
  intakeId: string,
  file: IncomingFile,
  depth = 0
): Promise<TakenIn> {
  const path = fileNameOf(file.path.replaceAll('\\', '/'));
  const key = `${intakeId}:${file.path}`;
  const skipped = async (): Promise<TakenIn> => {
    for await (const chunk of file.body) void chunk;
    return { outcome: 'passed over' };
  };
  if (passedOver.test(path)) return skipped();
  const before = await inClinic(from.clinicId, async (tx) => {
    await intakeHead(tx, intakeId);
    return pictureOfKey(tx, key);
  });
  if (before) {
    await skipped();
    return { outcome: 'kept', arrivalId: before };
  }
  try {
    return await withOpened(
      from.clinicId,
      file.body,
      (part) => lookInto(part, path),
      async (received) => {
        const { found } = received;
        if (found.kind === 'index') {
          await noteIndex(from, intakeId, path, found.named);
          return { outcome: 'passed over' };
        }
        if (found.kind === 'video') return videoIn(from, intakeId, { key, path }, received);
        if (found.kind === 'told')
          return inClinic(from.clinicId, async (tx): Promise<TakenIn> => {
            const fresh = await keepTold(tx, intakeId, found, received.file);
            const outcome = fresh ? 'kept' : 'known';
            const words = fresh
              ? 'It tells of a picture, and goes onto that when it is given.'
              : 'It is here already.';
            await noteLine(tx, intakeId, { name: path, outcome, words });
            return { outcome };
          });
        if (found.kind === 'zip') return unpack(from, intakeId, path, received, depth);
        const { besideKey } = file;
        return inClinic(from.clinicId, (tx) =>
          keptOf(tx, from, intakeId, { key, path, besideKey }, received, found)
        );
      },
      { settles: (found) => ['picture', 'paper', 'video'].includes(found.kind), most: mostIncoming }
    );
  } catch (error) {
    // What fails on our side is no fault of the file: whoever brings it keeps it and offers it again.
    if (!(error instanceof Problem) || error.status >= 500) throw error;
    const words = `${error.sentence} ${error.next}`;
    await inClinic(from.clinicId, (tx) =>
      noteLine(tx, intakeId, { name: path, outcome: 'refused', code: error.code, words })
    );
    return { outcome: 'refused', sentence: words };
  }
}

/** Keeps what an index names, to be held against what came once all has come. */
const noteIndex = (
  from: Sender,
  intakeId: string,
  path: string,
  named: readonly IndexedFile[]
): Promise<unknown> =>
  inClinic(from.clinicId, (tx) =>
    tx.sql(
      'update intake set named = named || $2::jsonb where intake_id = $1',
      intakeId,
      JSON.stringify(
        named.map((each) => ({ ...each, path: `${path.slice(0, path.lastIndexOf('/') + 1)}${each.path}` }))
      )
    )
  );

async function keptOf(
  tx: Tx,
  from: Sender,
  intakeId: string,
  { key, path, besideKey }: { key: string; path: string; besideKey?: string },
  received: Received<Found>,
  found: Extract<Found, { kind: 'picture' | 'paper' }>
): Promise<TakenIn> {
  const instance = found.kind === 'picture' ? (found.opened.origin.instanceUid ?? null) : null;
  // Two that are the same and come at one moment wait for one another.
  await tx.sql(
    'select pg_advisory_xact_lock(hashtextextended($1, 3))',
    instance ?? received.digest.toString('hex')
  );
  const bundleKey =
    found.kind === 'picture' ? bundleKeyOf(found.opened.says) : (besideKey ?? bundleKeyOf(null));
  const here = await hereAlready(tx, received.digest, instance);
  if (here) {
    const words = {
      chart: `It is in the chart of ${here.whose} already.`,
      bin: `It lies in the bin of ${here.whose}’s chart. Bring it back there.`,
      arrivals: 'It waits in Arrivals already.',
      'put away': 'It was put away in Arrivals. Bring it back there.'
    }[here.where];
    await noteLine(tx, intakeId, { name: path, outcome: 'known', words });
    return { outcome: 'known', sentence: words, bundleKey };
  }
  const reason = reasonOf(from);
  const { arrivalId } =
    found.kind === 'paper'
      ? await keptPaper(tx, from, { key, path, reason }, { intakeId, key: bundleKey }, received, found.pages)
      : await keptFile(
          tx,
          from,
          {
            key,
            fileName: path,
            reason,
            bundle: { intakeId, key: bundleKey }
          },
          { ...received, found: found.opened }
        );
  await noteLine(tx, intakeId, { name: path, outcome: 'kept' });
  return { outcome: 'kept', arrivalId, bundleKey };
}

/** A video becomes a loop; the video itself is kept behind it as it came. */
async function videoIn(
  from: Sender,
  intakeId: string,
  { key, path }: { key: string; path: string },
  received: Received<Found>
): Promise<TakenIn> {
  const here = await inClinic(from.clinicId, (tx) => hereAlready(tx, received.digest, null));
  if (here) {
    const words = 'This video is here already.';
    await inClinic(from.clinicId, (tx) => noteLine(tx, intakeId, { name: path, outcome: 'known', words }));
    return { outcome: 'known', sentence: words };
  }
  const out = nodePath.join(os.tmpdir(), `yonder-video-${randomUUID()}.dcm`);
  const name = path.split('/').at(-1)!;
  try {
    const { takenAt, remarks } = await loopOfVideo(received.file, out, shortened(name, 64));
    return await withOpened(from.clinicId, bytesOfFile(out), openOutsideFacts, (loop) =>
      inClinic(from.clinicId, async (tx) => {
        await keepReceived(tx, loop);
        await keepReceived(tx, received);
        const about = aboutOf(loop.found, from);
        const bundle = { intakeId, key: bundleKeyOf(null) };
        const shared = {
          title: '',
          remark: '',
          reason: reasonOf(from),
          takenAt: takenAt ?? new Date(),
          bundle
        };
        const { arrivalId } = await keepArrival(tx, from, {
          ...shared,
          key,
          digest: loop.digest,
          fileName: path,
          about: {
            ...about,
            origin: { ...about.origin, remarks },
            inFile: null,
            says: null,
            dated: takenAt !== null
          }
        });
        const video = await keepArrival(tx, from, {
          ...shared,
          key: `${key}:video`,
          digest: received.digest,
          fileName: path,
          about: { version: 2, kind: 'video', mediaType: 'video/mp4', pages: 1 }
        });
        await markPartOf(tx, arrivalId, [video.arrivalId]);
        await noteLine(tx, intakeId, { name: path, outcome: 'kept' });
        return { outcome: 'kept' as const, arrivalId };
      })
    );
  } finally {
    await fs.promises.rm(out, { force: true });
  }
}

async function keptPaper(
  tx: Tx,
  from: Sender,
  file: { key: string; path: string; reason: string },
  bundle: { intakeId: string; key: string },
  received: Received<unknown>,
  pages: number
) {
  await keepReceived(tx, received);
  return keepArrival(tx, from, {
    key: file.key,
    digest: received.digest,
    fileName: file.path,
    title: '',
    remark: '',
    reason: file.reason,
    about: { version: 2, kind: 'paper', mediaType: 'application/pdf', pages },
    takenAt: new Date(),
    bundle
  });
}

const reasonOf = ({ source, name }: Sender): string =>
  ({
    mail: `It came by mail from ${name}.`,
    network: `${name} sent it.`,
    disc: `${name} had it read from a folder.`
  })[source as string] ?? `${name} brought it in.`;

async function unpack(
  from: Sender,
  intakeId: string,
  path: string,
  { file }: Received<Found>,
  depth: number
): Promise<TakenIn> {
  if (depth > 0)
    throw new Problem(
      'zip-in-zip',
      'This is a ZIP package inside another one.',
      'Unpack the outer one and bring this one in by itself.',
      422
    );
  const goesOn = async () => {
    const { cancelled } = await inClinic(from.clinicId, (tx) => intakeHead(tx, intakeId));
    return !cancelled;
  };
  let ofOurs = false;
  let isRead: (name: string) => boolean = () => true;
  // Papers of a package belong to the pictures before them.
  let besideKey: string | undefined;
  await unpacked(file, {
    listed: (names) => {
      ofOurs = packageRoots(names).length > 0;
      isRead = isToRead(names);
    },
    counted: (count) =>
      inClinic(from.clinicId, async (tx) => {
        // The package itself was counted as one file.
        await tx.sql(
          'update intake set said = greatest(coalesce(said, 1), 1) - 1 + $2 where intake_id = $1',
          intakeId,
          count
        );
      }),
    goesOn,
    entry: async (name, body) => {
      // Pages, small pictures and tables lie in a package for those who have not this product.
      if (!isRead(name)) {
        for await (const chunk of body) void chunk;
        return;
      }
      const { bundleKey } = await takeIn(
        from,
        intakeId,
        { path: `${path}/${name}`, body, ...(ofOurs ? { besideKey } : {}) },
        depth + 1
      );
      besideKey ??= bundleKey;
    },
    refused: (name, words) =>
      inClinic(from.clinicId, async (tx) => {
        await noteLine(tx, intakeId, {
          name: `${path}/${name}`,
          outcome: 'refused',
          code: 'zip-entry',
          words
        });
      })
  });
  return { outcome: 'unpacked' };
}
