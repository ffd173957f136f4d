import dimse from 'dcmjs-dimse';
import { explicitLittleEndian, fileStart } from '../../../core/dicom/write';
import type { Commitment } from '../../../core/parcel/commitment';
import {
  HungUp,
  NotDelivered,
  type Who,
  type Wire,
  askOrWait,
  brokeOff,
  didNotAnswer,
  isAway,
  patienceMs
} from './carrier';

// What goes wrong is told where somebody follows it.
dimse.log.setLevel('silent');
const { Client, Dataset } = dimse;
const { CEchoRequest, CFindRequest, CStoreRequest, NActionRequest } = dimse.requests;
const { NEventReportResponse } = dimse.responses;
const { SopClass, Status, TransferSyntax } = dimse.constants;
type EventReport = InstanceType<typeof dimse.requests.NEventReportRequest>;
type Request = Parameters<InstanceType<typeof Client>['addRequest']>[0];
interface Response_ {
  getStatus(): number;
  getErrorComment?(): string;
  hasDataset(): boolean;
}

export interface DimseArchive {
  host: string;
  port: number;
  called: string;
  calling: string;
  wire: Wire;
}

/** A data set that goes as it was written, byte for byte: what follows the head of its file. */
class Written extends Dataset {
  constructor(
    private readonly body: Uint8Array,
    of: { sopClass: string; instanceUid: string }
  ) {
    super(
      { SOPClassUID: of.sopClass, SOPInstanceUID: of.instanceUid },
      TransferSyntax.ExplicitVRLittleEndian
    );
  }
  override getDenaturalizedDataset(): Buffer {
    return Buffer.from(this.body.buffer, this.body.byteOffset, this.body.byteLength);
  }
}

/** What may come over an association after the answer, and how long it is waited for. */
interface Later {
  waitMs: number;
  /** Hears a report; true where it is what was waited for. */
  hear: (report: EventReport) => boolean;
}

/** One request over an association of its own. Resolves to every answer that came. */
function asked(archive: DimseArchive, request: Request, what: string, later?: Later): Promise<Response_[]> {
  const { host, port, calling, called, wire } = archive;
  return new Promise((resolve, reject) => {
    const answers: Response_[] = [];
    let problem: NotDelivered | null = null;
    let settled = false;
    const client = new Client();
    const end = () => {
      if (settled) return;
      settled = true;
      clearTimeout(limit);
      const over = answers.some((each) => each.getStatus() !== Status.Pending);
      const failed =
        problem ?? (over ? null : new HungUp('The archive hung up before it answered.', false, askOrWait));
      wire({
        request: `${what} to ${called} at ${host}:${port}`,
        headers: { 'calling AE title': calling, 'called AE title': called },
        parts: [],
        answer: failed ? failed.reason : answers.map((each) => statusWords(each)).join(', '),
        answerHeaders: {},
        body: ''
      });
      if (failed) reject(failed);
      else resolve(answers);
    };
    const fail = (why: NotDelivered) => {
      problem ??= why;
      client.abort?.();
      end();
    };
    const limit = setTimeout(() => fail(didNotAnswer('archive')), patienceMs());
    (request as unknown as NodeJS.EventEmitter).on('response', (answer: Response_) => answers.push(answer));
    const on = <Of extends unknown[]>(name: string, act: (...of: Of) => void) =>
      (client as unknown as NodeJS.EventEmitter).on(name, act);
    on('networkError', (error: Error) =>
      fail(/ECONNREFUSED|ENOTFOUND/.test(error.message) ? isAway('archive') : brokeOff('archive'))
    );
    on('associationRejected', () => fail(titleUnknown('archive', calling, called)));
    on('closed', () => end());
    on(
      'nEventReportRequest',
      (report: EventReport, done: (answer: InstanceType<typeof NEventReportResponse>) => void) => {
        const heard = later?.hear(report) ?? false;
        const response = NEventReportResponse.fromRequest(report);
        response.setStatus(heard ? Status.Success : Status.ProcessingFailure);
        done(response);
        if (heard) end();
      }
    );
    client.addRequest(request);
    client.send(host, port, calling, called, {
      connectTimeout: patienceMs(),
      associationTimeout: patienceMs(),
      pduTimeout: patienceMs(),
      ...(later ? { associationLingerTimeout: later.waitMs } : {})
    });
  });
}

export const titleUnknown = (who: Who, calling: string, called: string) =>
  new NotDelivered(
    `The ${who} does not know ${calling}, or is not called ${called}.`,
    true,
    'Ask its keeper to enter this clinic’s title, or have the titles in Settings put right; then try again.'
  );

export const statusWords = (answer: Pick<Response_, 'getStatus' | 'getErrorComment'>): string =>
  `status ${answer.getStatus().toString(16).toUpperCase().padStart(4, '0')}h${
    answer.getErrorComment?.() ? ` (${answer.getErrorComment()})` : ''
  }`;

/** Whether an archive answers (C-ECHO). */
export async function dimseEcho(archive: DimseArchive): Promise<void> {
  const [answer] = await asked(archive, new CEchoRequest(), 'C-ECHO');
  if (answer.getStatus() !== Status.Success)
    throw new NotDelivered(`The archive answered with ${statusWords(answer)}.`, true);
}

/**
 * Whether an archive holds an instance (C-FIND at image level). Null where it does not answer such questions: then
 * nothing can be known before it is sent anew, and the archive has to know the instance by its number.
 */
export async function dimseHolds(
  archive: DimseArchive,
  of: { studyUid: string; seriesUid: string; instanceUid: string }
): Promise<boolean | null> {
  const request = CFindRequest.createImageFindRequest({
    StudyInstanceUID: of.studyUid,
    SeriesInstanceUID: of.seriesUid,
    SOPInstanceUID: of.instanceUid
  });
  try {
    const answers = await asked(archive, request, 'C-FIND');
    const last = answers.at(-1)!;
    if (last.getStatus() !== Status.Success) return null;
    return answers.some((each) => each.getStatus() === Status.Pending && each.hasDataset());
  } catch (error) {
    if (error instanceof HungUp) return null;
    throw error;
  }
}

/** Stores one instance (C-STORE). */
export async function dimseStore(
  archive: DimseArchive,
  file: Uint8Array,
  of: { sopClass: string; instanceUid: string }
): Promise<void> {
  const start = fileStart({
    classUid: of.sopClass,
    instanceUid: of.instanceUid,
    transferSyntax: explicitLittleEndian
  });
  const request = new CStoreRequest(new Written(file.subarray(start.length), of));
  const [answer] = await asked(archive, request, 'C-STORE');
  const status = answer.getStatus();
  // Warnings (Bxxx) say that something was changed or left out there, and that it is kept.
  if (status === Status.Success || (status & 0xf000) === 0xb000) return;
  const words = `The archive refused this picture: ${statusWords(answer)}.`;
  if ((status & 0xff00) === 0xa700)
    throw new NotDelivered(
      `${words} It is out of room.`,
      false,
      'Ask its keeper to make room; it is tried again by itself.'
    );
  throw new NotDelivered(
    words,
    true,
    'Ask the archive’s keeper what it does not take, or send it elsewhere.'
  );
}

/** So long an archive may take to say that it keeps something, before it is taken to say so by another way. */
const commitWaitMs = 1_500;

/** What an archive answers about keeping, read from its report; null for one about something else. */
export function readReport(report: EventReport): { uid: string; kept: boolean } | null {
  if (report.getAffectedSopClassUid() !== SopClass.StorageCommitmentPushModel) return null;
  const said = report.getDataset()?.getElements() as
    { TransactionUID?: string; FailedSOPSequence?: unknown[] } | undefined;
  const uid = said?.TransactionUID?.trim() ?? '';
  return uid === ''
    ? null
    : { uid, kept: report.getEventTypeId() === 1 && (said!.FailedSOPSequence ?? []).length === 0 };
}

/**
 * Asks an archive to commit itself to keep instances (PS3.4 J.3). It may say so at once, or later over an association of
 * its own ('asked'); empty where it knows nothing of such promises.
 */
export async function dimseCommit(
  archive: DimseArchive,
  instances: readonly { sopClass: string; instanceUid: string }[],
  transactionUid: string
): Promise<Commitment | 'not kept'> {
  const request = new NActionRequest(
    SopClass.StorageCommitmentPushModel,
    // The one instance of this class that there is.
    '1.2.840.10008.1.20.1.1',
    1
  );
  request.setDataset(
    new Dataset({
      TransactionUID: transactionUid,
      ReferencedSOPSequence: instances.map(({ sopClass, instanceUid }) => ({
        ReferencedSOPClassUID: sopClass,
        ReferencedSOPInstanceUID: instanceUid
      }))
    })
  );
  let kept: boolean | null = null;
  const [answer] = await asked(archive, request, 'N-ACTION (storage commitment)', {
    waitMs: commitWaitMs,
    hear: (report) => {
      const said = readReport(report);
      if (said?.uid !== transactionUid) return false;
      kept = said.kept;
      return true;
    }
  });
  if (answer.getStatus() !== Status.Success) return '';
  // The compiler does not see that it was heard meanwhile.
  const heard = kept as boolean | null;
  return heard === null ? 'asked' : heard ? 'kept' : 'not kept';
}
