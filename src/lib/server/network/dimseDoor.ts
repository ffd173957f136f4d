import { randomUUID } from 'node:crypto';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import type { Writable } from 'node:stream';
import dimse from 'dcmjs-dimse';
import { fileStart } from '../../core/dicom/write';
import { finishIntake } from '../arrivals/intakeEnd';
import type { Sender } from '../arrivals/keeping';
import { takeIn } from '../arrivals/takeIn';
import { readReport } from '../dispatch/carriers/dimse';
import { hearCommitment } from '../dispatch/committed';
import { bytesOfFile } from '../pictures/receiving';
import { log } from '../log';
import { callerByTitle, openNetworkIntake } from './systems';

const { Server, Scp, Dataset } = dimse;
const { CEchoResponse, CStoreResponse, NEventReportResponse } = dimse.responses;
const {
  PresentationContextResult,
  RejectReason,
  RejectResult,
  RejectSource,
  SopClass,
  Status,
  TransferSyntax
} = dimse.constants;

type Association = InstanceType<typeof dimse.association.Association>;
type StoreRequest = InstanceType<typeof dimse.requests.CStoreRequest>;
type Context = InstanceType<typeof dimse.association.PresentationContext>;

/** What pictures may be sent in: as they are, and packed as the product opens them. */
const syntaxes: readonly string[] = [
  TransferSyntax.ExplicitVRLittleEndian,
  TransferSyntax.ImplicitVRLittleEndian,
  '1.2.840.10008.1.2.4.50',
  '1.2.840.10008.1.2.4.57',
  '1.2.840.10008.1.2.4.70',
  '1.2.840.10008.1.2.4.80',
  '1.2.840.10008.1.2.4.90',
  '1.2.840.10008.1.2.4.91',
  '1.2.840.10008.1.2.5'
];
/** Storage service classes (PS3.4 B.5). */
const storage = /^1\.2\.840\.10008\.5\.1\.4\.1\.1\./;

/** One association: whoever is known may store, anybody else is turned away and written down. */
class Receiver extends Scp {
  private from: Sender | null = null;
  private intake: Promise<string> | null = null;
  private count = 0;
  private readonly folder = path.join(os.tmpdir(), `yonder-dimse-${randomUUID()}`);
  /** What is being written, by the instance it is of. */
  private readonly files = new Map<string, string>();
  private over = false;

  constructor(...of: ConstructorParameters<typeof Scp>) {
    super(...of);
    (this as unknown as NodeJS.EventEmitter).on('close', () => void this.end());
  }

  override associationRequested(association: Association): void {
    void callerByTitle(association.getCallingAeTitle()).then(
      (from) => {
        if (!from)
          return this.sendAssociationReject(
            RejectResult.Permanent,
            RejectSource.ServiceUser,
            RejectReason.CallingAeNotRecognized
          );
        this.from = from;
        for (const { id } of association.getPresentationContexts()) {
          const context = association.getPresentationContext(id);
          const uid = context.getAbstractSyntaxUid();
          const offered = context.getTransferSyntaxUids();
          const syntax = syntaxes.find((each) => offered.includes(each));
          if (
            uid !== SopClass.Verification &&
            uid !== SopClass.StorageCommitmentPushModel &&
            !storage.test(uid)
          )
            context.setResult(PresentationContextResult.RejectAbstractSyntaxNotSupported);
          else if (!syntax) context.setResult(PresentationContextResult.RejectTransferSyntaxesNotSupported);
          else context.setResult(PresentationContextResult.Accept, syntax);
        }
        this.sendAssociationAccept();
      },
      (error: unknown) => {
        log.error({ error }, 'an association could not be looked at');
        this.sendAssociationReject(
          RejectResult.Transient,
          RejectSource.ServiceUser,
          RejectReason.NoReasonGiven
        );
      }
    );
  }

  override cEchoRequest(
    request: Parameters<InstanceType<typeof Scp>['cEchoRequest']>[0],
    done: Parameters<InstanceType<typeof Scp>['cEchoRequest']>[1]
  ): void {
    const response = CEchoResponse.fromRequest(request);
    response.setStatus(Status.Success);
    done(response);
  }

  /** An archive says whether it keeps what it was sent (PS3.4 J.3.3). */
  override nEventReportRequest(
    report: Parameters<InstanceType<typeof Scp>['nEventReportRequest']>[0],
    done: Parameters<InstanceType<typeof Scp>['nEventReportRequest']>[1]
  ): void {
    const response = NEventReportResponse.fromRequest(report);
    const said = readReport(report);
    const heard =
      said && this.from ? hearCommitment(this.from.clinicId, said.uid, said.kept) : Promise.resolve(false);
    void heard.then(
      (known) => {
        response.setStatus(known ? Status.Success : Status.ProcessingFailure);
        done(response);
      },
      (error: unknown) => {
        log.error({ error }, 'what an archive keeps was not heard');
        response.setStatus(Status.ProcessingFailure);
        done(response);
      }
    );
  }

  /** The data set goes to a file as it comes, behind a head that says how it is written. */
  override createStoreWritableStream(context: Context, request: StoreRequest): Writable {
    fs.mkdirSync(this.folder, { recursive: true, mode: 0o700 });
    const file = path.join(this.folder, `${(this.count += 1)}.dcm`);
    const instanceUid = request.getAffectedSopInstanceUid() ?? '';
    this.files.set(instanceUid, file);
    const stream = fs.createWriteStream(file);
    stream.write(
      fileStart({
        classUid: request.getAffectedSopClassUid() ?? '',
        instanceUid,
        transferSyntax: context.getAcceptedTransferSyntaxUid() ?? TransferSyntax.ImplicitVRLittleEndian
      })
    );
    return stream;
  }

  override createDatasetFromStoreWritableStream(
    stream: Writable,
    _context: Context,
    done: (set: InstanceType<typeof Dataset>) => void
  ): void {
    const ready = () => done(new Dataset({}));
    if (stream.writableFinished) ready();
    else stream.once('finish', ready);
  }

  override cStoreRequest(
    request: StoreRequest,
    done: (response: InstanceType<typeof CStoreResponse>) => void
  ): void {
    const response = CStoreResponse.fromRequest(request);
    void this.keep(request.getAffectedSopInstanceUid() ?? '').then(
      (status) => {
        response.setStatus(status);
        done(response);
      },
      (error: unknown) => {
        log.error({ error }, 'an instance could not be kept');
        // Out of resources: whoever sends it keeps it and sends it again.
        response.setStatus(0xa700);
        done(response);
      }
    );
  }

  /** Stored before the sender is told so. */
  private async keep(instanceUid: string): Promise<number> {
    const file = this.files.get(instanceUid);
    this.files.delete(instanceUid);
    if (!file || !this.from) return Status.ProcessingFailure;
    this.intake ??= openNetworkIntake(this.from);
    const taken = await takeIn(this.from, await this.intake, {
      path: `${this.count}/${instanceUid}.dcm`,
      body: bytesOfFile(file)
    });
    await fs.promises.rm(file, { force: true });
    return taken.outcome === 'refused' ? 0xc000 : Status.Success;
  }

  override associationReleaseRequested(): void {
    this.sendAssociationReleaseResponse();
    void this.end();
  }

  override abort(): void {
    void this.end();
  }

  private async end(): Promise<void> {
    if (this.over) return;
    this.over = true;
    try {
      if (this.intake && this.from) await finishIntake(this.from, await this.intake, false);
    } catch (error) {
      log.error({ error }, 'an association was not ended');
    }
    await fs.promises.rm(this.folder, { recursive: true, force: true });
  }
}

/** Where other systems store by DIMSE (PS3.4 B, PS3.7, PS3.8). */
export function openDimseDoor(port: number, host = '127.0.0.1'): Promise<{ close: () => void }> {
  const server = new Server(Receiver);
  server.on('networkError', (error: Error) => log.warn({ error: error.message }, 'an association broke off'));
  return new Promise((open) => {
    server.on('listening', () => open(server));
    // Given on to the socket as it is, so that it can be told on which address to listen.
    server.listen({ port, host } as unknown as number);
  });
}
