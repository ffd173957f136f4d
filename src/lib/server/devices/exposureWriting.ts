import type { PictureView } from '../../core/picture/pictureView';
import type { Digest } from '../blobs/digest';
import { keepFile } from '../blobs/keep';
import { landingFolder } from '../config';
import { type Tx, beginInClinic } from '../database/connection';
import { newId, newUid, sha256 } from '../ids';
import { jobSeconds, queues } from '../jobs/boss';
import { type News, channel, packed } from '../news/announce';
import { readEvents } from '../trays/trays';
import { withOwnLook } from '../../core/raster/look/ownLook';
import { readOpening } from '../pictures/origin';
import { tokenOf } from './devices';
import { lampNews } from './arming';
import type { ExposureOffer } from './exposureOffer';
import { type ExposureContext, type ExposurePlan, type NumberedEvent, plannedExposure } from './exposurePlan';

/** The page that waits for a picture, and the next exposure, go before the jobs that look at this one and settle it. */
const adviseAfterSeconds = 1;
const settleAfterSeconds = 2;
/** Somebody else changed the tray in the same moment: worked out anew this often. */
const mostTurns = 20;

/** One exposure's part in the records: begun, then finished and committed, or left as if it had never been. */
export class ExposureWriting {
  readonly pictureId = newId();
  private readonly instanceUid = newUid();
  private tx: Tx | null = null;
  private plan: ExposurePlan | null = null;
  private number = 0;
  private lamps: News[] = [];

  constructor(
    private readonly context: ExposureContext,
    private readonly offered: { authorization: string | null; offer: ExposureOffer; key: string }
  ) {}

  /**
   * Writes everything but what follows from the last byte.
   * @returns the picture that this key has brought before, if any
   */
  async begin(digest: Buffer): Promise<string | null> {
    this.tx = await beginInClinic(this.context.clinicId);
    const { tx } = this;
    let stored: NumberedEvent[] = this.context.armed!.events;
    for (let turn = 0; turn < mostTurns; turn++) {
      this.plan = await this.planFor(stored);
      const row = await tx.one<{ outcome: string }>(
        'select store_exposure($1::jsonb) as outcome',
        JSON.stringify({
          ...this.plan.write,
          sha256: digest.toString('hex'),
          place: landingFolder() ? 'landed' : 'kept',
          jobs: [
            { queue: queues.advise, afterSeconds: adviseAfterSeconds, expireSeconds: jobSeconds },
            { queue: queues.settle, afterSeconds: settleAfterSeconds, expireSeconds: jobSeconds }
          ]
        })
      );
      const [outcome, detail] = row!.outcome.split(' ');
      if (outcome === 'known') return detail;
      if (outcome === 'stored') {
        this.number = Number(detail);
        this.lamps = await lampNews(
          tx,
          this.plan.arming.map((each) => each.deviceId)
        );
        return null;
      }
      stored = await tx.sql(
        'select seq, kind, version, body from tray_event where tray_id = $1 order by seq',
        this.context.armed!.trayId
      );
    }
    throw new Error('the tray changed again and again while an exposure came in');
  }

  private async planFor(stored: readonly NumberedEvent[]): Promise<ExposurePlan> {
    const { log, book } = await readEvents(this.tx!, stored);
    const tray = { seq: stored.at(-1)?.seq ?? 0, log, book };
    const { pictureId, instanceUid } = this;
    return plannedExposure(this.context, this.offered, { pictureId, instanceUid }, tray);
  }

  /** Where nothing lands, the bytes themselves go into the records, unless they are there already. */
  async keep(digest: Buffer, file: string): Promise<void> {
    const has = await this.tx!.one(
      'select 1 from blob_part where clinic_id = $1 and sha256 = $2 limit 1',
      this.context.clinicId,
      digest
    );
    if (!has) await keepFile(this.tx!, digest, file);
  }

  /**
   * The last of it, and the commit, once the bytes are safe: the clinic's audit is locked in between, and nobody who writes
   * there waits for a disk. Pages hear of it with the commit, the picture before the tray that holds it.
   */
  async finish(digest: Pick<Digest, 'firstLook' | 'bitsUsed'>): Promise<void> {
    const { armed, clinicId } = this.context;
    const { view, news } = this.plan!;
    const { visitId, slotId } = armed!;
    const firstLook = digest.firstLook!;
    const beyond = digest.bitsUsed > view.bitsStored ? beyondAnnounced(view, digest.bitsUsed) : null;
    const opensWith = readOpening(this.context.opensWith);
    const openLook = opensWith && withOwnLook(opensWith, firstLook);
    const seen = { ...view, ...beyond, firstLook, openLook, number: this.number };
    const picture: News = { topic: 'picture', visitId, pictureId: this.pictureId, view: seen };
    await this.tx!.sql(
      'select finish_exposure($1::jsonb)',
      JSON.stringify({
        pictureId: this.pictureId,
        firstLook,
        beyond,
        token: sha256(tokenOf(this.offered.authorization)!).toString('hex'),
        patientId: armed!.patientId,
        act: 'exposure stored',
        details: { visit: visitId, slot: slotId },
        channel,
        news: [picture, ...news, ...this.lamps].map((each) => JSON.parse(packed(each, clinicId)))
      })
    );
    await this.tx!.transaction.commit();
    this.tx = null;
  }

  /** Undoes what was begun and not finished. Safe at any time. */
  async leave(): Promise<void> {
    const leaving = this.tx;
    this.tx = null;
    await leaving?.transaction.rollback().catch(() => {});
  }
}

/** A device that sends more than it announced is told of, and its picture kept as it came: nobody is exposed twice for it. */
function beyondAnnounced(view: PictureView, bitsUsed: number): { bitsStored: number; remarks: string[] } {
  const said = `The device announced ${view.bitsStored} bits a sample and sent up to ${bitsUsed}. All of them are kept; have the device looked at.`;
  return { bitsStored: bitsUsed, remarks: [...view.remarks, said] };
}
