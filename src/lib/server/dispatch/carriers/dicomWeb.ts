import { randomUUID } from 'node:crypto';
import type { Dataset } from '../../../core/dicom/dataset';
import { pixelDataTag } from '../../../core/dicom/dictionary';
import { dicomJson } from '../../../core/dicom/json';
import type { PixelBody } from '../../../core/dicom/pixelBody';
import type { StudyInstance } from '../../../core/fhir/imagingStudy';
import { NotDelivered, askOrWait } from './carrier';
import { type Asked, type WebPeer, askPeer, refusalOf } from './webPeer';

export type WebArchive = Omit<WebPeer, 'who'>;

const ask = (archive: WebArchive, path: string, asked: Asked) =>
  askPeer({ ...archive, who: 'archive' }, path, asked);

/** Whether the archive holds an instance already (QIDO-RS, PS3.18 10.6): asked before sending anew. */
export async function archiveHolds(
  archive: WebArchive,
  studyUid: string,
  instanceUid: string
): Promise<boolean> {
  const { response, bytes } = await ask(
    archive,
    `/studies/${studyUid}/instances?SOPInstanceUID=${instanceUid}`,
    { headers: { accept: 'application/dicom+json' } }
  );
  if (response.status === 204 || response.status === 404) return false;
  const refused = refusalOf('archive', response);
  if (refused) throw refused;
  if (!response.ok)
    throw new NotDelivered(`The archive could not say what it holds (${response.status}).`, false, askOrWait);
  try {
    const found = JSON.parse(bytes.toString('utf8')) as unknown;
    if (!Array.isArray(found)) throw new Error('no list');
    return found.length > 0;
  } catch {
    throw new NotDelivered(
      'The archive’s answer could not be read: it is no DICOM JSON.',
      false,
      'Look at what was said on the wire: perhaps another program answers at this address.'
    );
  }
}

/** A part of a body of several (RFC 2387). */
interface Part {
  headers: Record<string, string>;
  bytes: Uint8Array;
}

/** Asks for something to be stored in a study (STOW-RS, PS3.18 10.5). */
function askToStore(archive: WebArchive, studyUid: string, of: { type: string; parts: readonly Part[] }) {
  const boundary = `yonder-${randomUUID()}`;
  const pieces = of.parts.flatMap(({ headers, bytes }, at) => [
    Buffer.from(
      `${at === 0 ? '' : '\r\n'}--${boundary}\r\n${Object.entries(headers)
        .map(([name, value]) => `${name}: ${value}\r\n`)
        .join('')}\r\n`
    ),
    bytes
  ]);
  return ask(archive, `/studies/${studyUid}`, {
    method: 'POST',
    headers: {
      'content-type': `multipart/related; type="${of.type}"; boundary=${boundary}`,
      accept: 'application/dicom+json'
    },
    parts: of.parts.map(({ headers, bytes }) => ({ type: headers['Content-Type'], bytes: bytes.length })),
    body: Buffer.concat([...pieces, Buffer.from(`\r\n--${boundary}--\r\n`)])
  });
}

/** Stores one instance as the file it is. */
export async function storeInstance(archive: WebArchive, studyUid: string, file: Uint8Array): Promise<void> {
  saidOfStoring(
    await askToStore(archive, studyUid, {
      type: 'application/dicom',
      parts: [{ headers: { 'Content-Type': 'application/dicom' }, bytes: file }]
    })
  );
}

/** Statuses by which an archive says that it takes nothing but files. */
const takesFilesOnly: readonly number[] = [400, 405, 406, 415, 501];

/**
 * Stores one instance as what is said of it and its pixels, which the archive wraps (PS3.18 10.5.2, metadata and bulk
 * data). False where it takes nothing but files.
 */
export async function storeBody(
  archive: WebArchive,
  studyUid: string,
  set: Dataset,
  { vr, type, transferSyntax, bytes }: PixelBody
): Promise<boolean> {
  const uri = `${randomUUID()}/pixels`;
  const metadata = dicomJson(set, { [pixelDataTag]: { vr, uri } });
  const answered = await askToStore(archive, studyUid, {
    type: 'application/dicom+json',
    parts: [
      {
        headers: { 'Content-Type': 'application/dicom+json' },
        bytes: Buffer.from(JSON.stringify([metadata]))
      },
      {
        headers: { 'Content-Type': `${type}; transfer-syntax=${transferSyntax}`, 'Content-Location': uri },
        bytes
      }
    ]
  });
  if (takesFilesOnly.includes(answered.response.status)) return false;
  saidOfStoring(answered);
  return true;
}

/** @throws NotDelivered where an answer does not say that all was stored */
function saidOfStoring({ response, bytes }: { response: Response; bytes: Buffer }): void {
  const text = bytes.toString('utf8');
  const refused = refusalOf('archive', response);
  if (refused) throw refused;
  switch (response.status) {
    case 200:
    case 202:
      return saidStored(text, response.headers.get('content-type') ?? '');
    case 409:
      throw new NotDelivered(
        `The archive refused this picture: ${reasonIn(text)}.`,
        true,
        'Look at what was said on the wire and ask the archive’s keeper, then try again or send it elsewhere.'
      );
    case 413:
      throw new NotDelivered(
        'The archive says that this picture is too large for it.',
        true,
        'Ask its keeper to allow larger ones, or send it elsewhere.'
      );
    case 415:
    case 400:
      throw new NotDelivered(
        `The archive does not understand what it was sent (${response.status}).`,
        true,
        'Look at what was said on the wire and ask the archive’s keeper.'
      );
    default:
      throw new NotDelivered(`The archive refused for now (${response.status}).`, false, askOrWait);
  }
}

/** A success is one that lists what was stored; an answer that can't be read is asked about at the next try. */
function saidStored(text: string, type: string): void {
  if (!/json/.test(type) && text.trim() !== '')
    throw new NotDelivered(
      'The archive answered something that is no DICOM JSON.',
      false,
      'It is asked whether it has the picture before it is sent again. Look at what was said on the wire.'
    );
  if (text.trim() === '') return;
  let answer: Record<string, { Value?: unknown[] }>;
  try {
    answer = JSON.parse(text) as typeof answer;
  } catch {
    throw new NotDelivered('The archive’s answer could not be read.', false, askOrWait);
  }
  if ((answer['00081198']?.Value?.length ?? 0) > 0)
    throw new NotDelivered(
      `The archive refused this picture: ${reasonIn(text)}.`,
      true,
      'Ask the archive’s keeper.'
    );
}

type Uids = Pick<StudyInstance, 'studyUid' | 'seriesUid' | 'instanceUid'>;
const pathOf = (of: Uids) => `/studies/${of.studyUid}/series/${of.seriesUid}/instances/${of.instanceUid}`;

/** Reads an instance back (WADO-RS, PS3.18 10.4), to be held against what was sent; null where it can't be had. */
export const readBack = (archive: WebArchive, of: Uids): Promise<Buffer | null> =>
  firstPart(archive, pathOf(of), 'multipart/related; type="application/dicom"; transfer-syntax=*');

/** Whether an instance's pixels there are these, bit for bit, but for the byte that makes their number even. */
export async function bodyIsThere(
  archive: WebArchive,
  of: Uids,
  { type, transferSyntax, bytes }: PixelBody
): Promise<boolean> {
  const accept = `multipart/related; type="${type}"; transfer-syntax=${transferSyntax}`;
  const there = await firstPart(archive, `${pathOf(of)}/frames/1`, accept).catch(() => null);
  if (!there || there.length - bytes.length > 1) return false;
  return there.subarray(0, bytes.length).equals(Buffer.from(bytes));
}

async function firstPart(archive: WebArchive, path: string, accept: string): Promise<Buffer | null> {
  const { response, bytes } = await ask(archive, path, { headers: { accept } });
  const boundary = /boundary="?([^";]+)"?/i.exec(response.headers.get('content-type') ?? '')?.[1];
  if (!response.ok || !boundary) return null;
  const start = bytes.indexOf('\r\n\r\n');
  const end = bytes.lastIndexOf(`\r\n--${boundary}`);
  return start > 0 && end > start ? bytes.subarray(start + 4, end) : null;
}

/** Whether an archive answers at all (QIDO-RS for one study). */
export async function webEcho(archive: WebArchive): Promise<void> {
  const { response } = await ask(archive, '/studies?limit=1', {
    headers: { accept: 'application/dicom+json' }
  });
  const refused = refusalOf('archive', response);
  if (refused) throw refused;
  if (!response.ok && response.status !== 404)
    throw new NotDelivered(`The archive answered ${response.status}.`, false);
}

/** The failure reason of a STOW answer (0008,1197), in hexadecimal as archives' keepers know it. */
function reasonIn(text: string): string {
  try {
    const answer = JSON.parse(text) as Record<string, { Value?: { [tag: string]: { Value?: number[] } }[] }>;
    const code = answer['00081198']?.Value?.[0]?.['00081197']?.Value?.[0];
    return code === undefined ? 'it gave no reason' : `failure reason ${code.toString(16).toUpperCase()}h`;
  } catch {
    return 'it gave no reason';
  }
}
