import { randomUUID } from 'node:crypto';

/** How long an archive may keep us waiting before the try counts as failed. */
const patienceMs = () => Number(process.env.YONDER_ARCHIVE_PATIENCE_MS ?? 15_000);

/** A try that did not work, in words for the person who follows the parcel. `final` when trying again can't help. */
export class NotDelivered extends Error {
  constructor(
    readonly reason: string,
    readonly final = false
  ) {
    super(reason);
  }
}

async function ask(url: string, init: RequestInit): Promise<Response> {
  try {
    return await fetch(url, { ...init, signal: AbortSignal.timeout(patienceMs()) });
  } catch (error) {
    const name = (error as Error).name;
    if (name === 'TimeoutError') {
      throw new NotDelivered(`The archive did not answer within ${Math.ceil(patienceMs() / 1000)} seconds.`);
    }
    const code = (error as { cause?: { code?: string } }).cause?.code ?? '';
    if (code === 'ECONNREFUSED' || code === 'ENOTFOUND')
      throw new NotDelivered('The archive is away: nothing listens there.');
    throw new NotDelivered('The connection to the archive broke off.');
  }
}

/** Whether the archive holds an instance already (QIDO-RS, PS3.18 10.6): asked before sending anew. */
export async function archiveHolds(base: string, studyUid: string, instanceUid: string): Promise<boolean> {
  const answer = await ask(`${base}/studies/${studyUid}/instances?SOPInstanceUID=${instanceUid}`, {
    headers: { accept: 'application/dicom+json' }
  });
  if (answer.status === 204 || answer.status === 404) return false;
  if (!answer.ok) throw new NotDelivered(`The archive could not say what it holds (${answer.status}).`);
  try {
    const found = (await answer.json()) as unknown[];
    return found.length > 0;
  } catch {
    throw new NotDelivered('The archive’s answer could not be read.');
  }
}

/** Stores one instance (STOW-RS, PS3.18 10.5). */
export async function storeInstance(base: string, studyUid: string, file: Uint8Array): Promise<void> {
  const boundary = `yonder-${randomUUID()}`;
  const body = Buffer.concat([
    Buffer.from(`--${boundary}\r\nContent-Type: application/dicom\r\n\r\n`),
    file,
    Buffer.from(`\r\n--${boundary}--\r\n`)
  ]);
  const answer = await ask(`${base}/studies/${studyUid}`, {
    method: 'POST',
    headers: {
      'content-type': `multipart/related; type="application/dicom"; boundary=${boundary}`,
      accept: 'application/dicom+json'
    },
    body
  });
  const text = await answer.text().catch(() => '');
  if (answer.status === 200) return;
  if (answer.status === 409) {
    throw new NotDelivered(`The archive refused this picture: ${reasonIn(text)}.`, true);
  }
  if (answer.status === 401 || answer.status === 403) {
    throw new NotDelivered('The archive does not let us store. Ask its keeper to allow this clinic.', true);
  }
  throw new NotDelivered(`The archive refused for now (${answer.status}).`);
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
