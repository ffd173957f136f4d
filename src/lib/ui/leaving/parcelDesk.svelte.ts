import { type Claim, proposedClaim } from '$core/parcel/claim';
import { type DestinationKind, isArchive, wantsClaims } from '$core/parcel/destination';
import { placesInWords } from '$core/anatomy/place';
import type { Notation } from '$core/anatomy/teeth';
import type { Named } from '$core/parcel/fileNames';
import { type Packing, plainPacking } from '$core/parcel/packing';
import { type PictureView, pictureName, placesOf } from '$core/picture/pictureView';
import { dayAtClinic } from '../clock';

/** A destination as whoever sends chooses it. */
export interface SeenDestination {
  destinationId: string;
  name: string;
  kind: DestinationKind;
  where: string;
  settings: { identity: 'identified' | 'deidentified'; ruleId: string | null; packing: Packing };
}

/** Stands for a parcel that is fetched as a file, among the destinations. */
export const asFile = 'file';

/** What a person has chosen for a parcel: each destination brings its own way, and what is changed holds for this once. */
export class ParcelDesk {
  destinationId = $state('');
  identity = $state<'identified' | 'deidentified'>('identified');
  ruleId = $state('');
  packing = $state.raw<Packing>(plainPacking);
  warned = $state(false);
  /** What a person has changed of what a claims office is told, by picture. */
  private claims = $state.raw<Readonly<Record<string, Claim>>>({});

  constructor(
    private readonly destinations: readonly SeenDestination[],
    private readonly firstRule: string
  ) {
    this.choose(destinations[0]?.destinationId ?? asFile);
  }

  get destination(): SeenDestination | null {
    return this.destinations.find((each) => each.destinationId === this.destinationId) ?? null;
  }
  get isArchive(): boolean {
    return this.destination !== null && isArchive(this.destination);
  }
  get isClaim(): boolean {
    return this.destination !== null && wantsClaims(this.destination);
  }
  /** Names go along where anybody could open it: that has to be said. */
  get warns(): boolean {
    return this.identity === 'identified' && !this.isArchive && !this.isClaim;
  }

  choose(destinationId: string): void {
    this.destinationId = destinationId;
    const settings = this.destination?.settings;
    this.identity = settings?.identity ?? this.identity;
    this.ruleId = settings?.ruleId ?? (this.ruleId || this.firstRule);
    this.packing = settings?.packing ?? { ...plainPacking, format: 'package', drawings: 'beside' };
    this.warned = false;
  }

  change(packing: Partial<Packing>): void {
    this.packing = { ...this.packing, ...packing };
  }

  /** What a claims office is told of a picture: as it is proposed, or as a person has said. */
  claimOf(picture: PictureView): Claim {
    return this.claims[picture.pictureId] ?? proposedClaim(picture, dayAtClinic(picture.takenAt));
  }
  tell(picture: PictureView, part: Partial<Claim>): void {
    this.claims = { ...this.claims, [picture.pictureId]: { ...this.claimOf(picture), ...part } };
  }

  wish(pictures: readonly PictureView[]) {
    const pictureIds = pictures.map(({ pictureId }) => pictureId);
    return {
      destinationId: this.destinationId === asFile ? null : this.destinationId,
      identity: this.identity,
      ruleId: this.identity === 'deidentified' ? this.ruleId || null : null,
      packing: this.packing,
      pictureIds,
      ...(this.warns ? { warned: this.warned } : {}),
      ...(this.isClaim
        ? { claims: Object.fromEntries(pictures.map((each) => [each.pictureId, this.claimOf(each)])) }
        : {})
    };
  }

  /** What names of files would be made of, for the first of the pictures. */
  example(
    pictures: readonly PictureView[],
    patient: { name: string; recordNumber: string },
    notation: Notation
  ): Named[] {
    const kept = this.identity === 'identified';
    return pictures.slice(0, 3).map((picture) => ({
      who: kept ? patient.name : 'YT-…',
      number: kept ? patient.recordNumber : 'YT-…',
      date: kept ? picture.takenAt.slice(0, 10) : 'moved date',
      what: picture.slot?.name ?? pictureName(picture),
      place: placesInWords(placesOf(picture), notation),
      kind: picture.kind
    }));
  }
}

/** What became of a parcel that was asked for. */
export interface SentParcel {
  sent: number;
  left: number;
  parcelId: string | null;
}

/** What of it a person has to hear; empty where all goes. */
export const leftWords = ({ sent, left }: SentParcel): string =>
  sent === 0
    ? 'All of these are there already, or on their way.'
    : left > 0
      ? `${left} were there already, or on their way, and stay out.`
      : '';
