import dimse from 'dcmjs-dimse';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { useClinic } from '../../../../e2e/harness/clinic';
import { parcelsOf } from '../../../../e2e/harness/parcels';
import { freePort } from '../../../../scripts/cluster.mjs';
import { dicomUid } from '../../core/identity/uuid7';
import { newId } from '../ids';
import { openDimseDoor } from '../network/dimseDoor';
import { deliver } from './deliver';
import { dispatchParcel } from './dispatchViews';

process.env.YONDER_ARCHIVE_PATIENCE_MS = '4000';
const clinic = useClinic();
const { set, visitWithPictures, sent, tryOnce } = parcelsOf(clinic);

const { Server, Scp, Client, Dataset } = dimse;
const { CFindResponse, CStoreResponse, NActionResponse } = dimse.responses;
const { NEventReportRequest } = dimse.requests;
const { PresentationContextResult, SopClass, Status } = dimse.constants;
type Asked = Parameters<InstanceType<typeof Scp>['nActionRequest']>[0];

/** How the archive of these tests answers when it is asked to keep something. */
let way: 'at once' | 'not kept' | 'another transaction' | 'later' | 'refuses' | 'knows nothing of it' =
  'at once';
const held = new Set<string>();
const askedFor: { uid: string; instances: string[] }[] = [];

function report(uid: string, kept: boolean, instances: readonly string[]) {
  const event = new NEventReportRequest(
    SopClass.StorageCommitmentPushModel,
    '1.2.840.10008.1.20.1.1',
    kept ? 1 : 2
  );
  const items = instances.map((each) => ({
    ReferencedSOPClassUID: '1.2.840.10008.5.1.4.1.1.1.3',
    ReferencedSOPInstanceUID: each,
    ...(kept ? {} : { FailureReason: 0x0112 })
  }));
  event.setDataset(
    new Dataset({ TransactionUID: uid, [kept ? 'ReferencedSOPSequence' : 'FailedSOPSequence']: items })
  );
  return event;
}

class Keeper extends Scp {
  override associationRequested(association: InstanceType<typeof dimse.association.Association>): void {
    for (const { id } of association.getPresentationContexts()) {
      const context = association.getPresentationContext(id);
      const commits = context.getAbstractSyntaxUid() === SopClass.StorageCommitmentPushModel;
      if (commits && way === 'knows nothing of it')
        context.setResult(PresentationContextResult.RejectAbstractSyntaxNotSupported);
      else context.setResult(PresentationContextResult.Accept, context.getTransferSyntaxUids()[0]);
    }
    this.sendAssociationAccept();
  }
  override cFindRequest(
    request: Parameters<InstanceType<typeof Scp>['cFindRequest']>[0],
    done: Parameters<InstanceType<typeof Scp>['cFindRequest']>[1]
  ): void {
    const uid = String(request.getDataset()!.getElement('SOPInstanceUID'));
    const pending = CFindResponse.fromRequest(request);
    pending.setDataset(new Dataset({ SOPInstanceUID: uid }));
    pending.setStatus(Status.Pending);
    const over = CFindResponse.fromRequest(request);
    over.setStatus(Status.Success);
    done(held.has(uid) ? [pending, over] : [over]);
  }
  override cStoreRequest(
    request: Parameters<InstanceType<typeof Scp>['cStoreRequest']>[0],
    done: Parameters<InstanceType<typeof Scp>['cStoreRequest']>[1]
  ): void {
    held.add(request.getAffectedSopInstanceUid()!);
    const response = CStoreResponse.fromRequest(request);
    response.setStatus(Status.Success);
    done(response);
  }
  override nActionRequest(
    request: Asked,
    done: (response: InstanceType<typeof NActionResponse>) => void
  ): void {
    const elements = request.getDataset()!.getElements() as {
      TransactionUID: string;
      ReferencedSOPSequence: { ReferencedSOPInstanceUID: string }[];
    };
    const uid = elements.TransactionUID;
    const instances = [elements.ReferencedSOPSequence]
      .flat()
      .map(({ ReferencedSOPInstanceUID: each }) => each);
    askedFor.push({ uid, instances });
    const response = NActionResponse.fromRequest(request);
    response.setStatus(way === 'refuses' ? Status.ProcessingFailure : Status.Success);
    done(response);
    if (way === 'at once') this.sendRequests(report(uid, true, instances));
    else if (way === 'not kept') this.sendRequests(report(uid, false, instances));
    else if (way === 'another transaction') this.sendRequests(report(dicomUid(newId()), true, instances));
  }
  override associationReleaseRequested(): void {
    this.sendAssociationReleaseResponse();
  }
}

let port = 0;
let doorPort = 0;
let archive: InstanceType<typeof Server>;
let door: { close: () => void };
beforeAll(async () => {
  [port, doorPort] = [await freePort(), await freePort()];
  archive = new Server(Keeper);
  await new Promise<void>((open) => {
    archive.on('listening', () => open());
    archive.listen(port);
  });
  door = await openDimseDoor(doorPort);
  await clinic.owner.query(
    `insert into known_sender (clinic_id, sender_id, name, ae_title, added_by) values ($1, $2, 'The keeper', 'KEEPER', $3)`,
    [clinic.clinicId, newId(), clinic.caller().userId]
  );
});
afterAll(() => {
  archive.close();
  door.close();
});

/** The archive says something of its own accord, over an association that it opens. Resolves to the status it is answered with. */
const saidLater = (uid: string, kept: boolean, title = 'KEEPER') =>
  new Promise<number | string>((resolve) => {
    const client = new Client();
    const event = report(uid, kept, ['2.25.1']);
    const on = (emitter: unknown, name: string, act: (of: { getStatus: () => number }) => void) =>
      (emitter as NodeJS.EventEmitter).on(name, act);
    on(event, 'response', (response) => resolve(response.getStatus()));
    on(client, 'associationRejected', () => resolve('rejected'));
    on(client, 'networkError', () => resolve('broken off'));
    client.addRequest(event);
    client.send('127.0.0.1', doorPort, title, 'YONDER');
  });

async function delivered(how: typeof way) {
  way = how;
  const destinationId = await set({
    kind: 'dimse',
    host: '127.0.0.1',
    port,
    called: 'KEEPER',
    calling: 'YONDER'
  });
  const { visitId, pictureIds } = await visitWithPictures(1);
  const parcelId = await sent(visitId, { destinationId, pictureIds });
  const [item] = (await tryOnce(parcelId)).items;
  const now = async () => (await dispatchParcel(clinic.caller(), parcelId)).items[0];
  return { item, now };
}

describe('an archive that is asked to keep a picture', () => {
  it('says so at once, for the very instances that were sent', async () => {
    const { item } = await delivered('at once');
    expect(item).toMatchObject({ state: 'delivered', commitment: 'kept' });
    const { uid, instances } = askedFor.at(-1)!;
    expect(uid).toBe(dicomUid(item.deliveryId));
    expect(instances.every((each) => held.has(each))).toBe(true);
    expect(item.wire.map(({ said }) => said.request.split(' ')[0])).toEqual([
      'C-FIND',
      'C-STORE',
      'N-ACTION'
    ]);
  });

  it('does not keep it: that is told, tried again, and nothing goes twice', async () => {
    const { item, now } = await delivered('not kept');
    expect(item).toMatchObject({ state: 'waiting', commitment: '' });
    expect(item.reason).toBe('The archive says that it did not keep this picture.');
    way = 'at once';
    await deliver(clinic.clinicId, item.deliveryId);
    const again = await now();
    expect(again).toMatchObject({ state: 'delivered', commitment: 'kept', reason: '' });
    expect(again.wire.filter(({ said }) => said.request.startsWith('C-STORE'))).toHaveLength(1);
  });

  it.each(['knows nothing of it', 'refuses'] as const)(
    '%s: it is there, and nothing is claimed',
    async (how) => {
      const { item } = await delivered(how);
      expect(item).toMatchObject({ state: 'delivered', commitment: '' });
    }
  );

  it('answers for something else: that is no answer', async () => {
    const { item } = await delivered('another transaction');
    expect(item).toMatchObject({ state: 'delivered', commitment: 'asked' });
  });

  it('says so later, over an association of its own, and is heard if it is known', async () => {
    const { item, now } = await delivered('later');
    expect(item).toMatchObject({ state: 'delivered', commitment: 'asked' });
    const uid = dicomUid(item.deliveryId);
    expect(await saidLater(uid, true, 'STRANGER')).toBe('rejected');
    expect((await now()).commitment).toBe('asked');
    expect(await saidLater(uid, true)).toBe(Status.Success);
    expect((await now()).commitment).toBe('kept');
    // Of no delivery of this clinic nothing is changed, and the archive hears that.
    for (const other of [dicomUid(newId()), '1.2.3', '2.25.7'])
      expect(await saidLater(other, true), other).toBe(Status.ProcessingFailure);
  });

  it('says later that it has lost it: it has failed, with what to do', async () => {
    const { item, now } = await delivered('later');
    expect(await saidLater(dicomUid(item.deliveryId), false)).toBe(Status.Success);
    expect(await now()).toMatchObject({
      state: 'failed',
      commitment: '',
      reason: 'The archive says that it did not keep this picture.'
    });
    expect((await now()).next).toMatch(/^Try again/);
    const { rows } = await clinic.owner.query(
      `select 1 from audit_line where act = 'not kept' and subject = $1`,
      [item.deliveryId]
    );
    expect(rows).toHaveLength(1);
  });
});
