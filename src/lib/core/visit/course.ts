import type { Tray } from '../tray/tray';

export const stations = ['acquire', 'check', 'scale', 'measure', 'de-identify', 'file'] as const;
export type Station = (typeof stations)[number];

/** Stations of the light table: from one to another, what lies on it stays. */
export const isAtTable = (station: string): boolean => ['check', 'scale', 'measure'].includes(station);

export const stationNames: Record<Station, string> = {
  acquire: 'Acquire',
  check: 'Check',
  scale: 'Scale',
  measure: 'Measure',
  'de-identify': 'De-identify',
  file: 'File'
};

export interface CoursePicture {
  pictureId: string;
  hasScale: boolean;
  linked: boolean;
  readings: number;
  /** How many of them nobody has confirmed as they are now. */
  unconfirmed: number;
  delivered: boolean;
  onItsWay: boolean;
  /** Whether advice about it stands: nobody has said that it is not so. */
  advised: boolean;
}

export interface StationState {
  station: Station;
  /** How many things are left to do there. */
  left: number;
  /** Whether something was asked here and is done or open; false where nothing is asked yet, or ever. */
  required: boolean;
  /** How many of what stands here the computer doubts. It advises: nothing waits for that. */
  doubtful?: number;
  /** The same in words: "3 empty", "2 to confirm"; or what is so when nothing is left. */
  words: string;
}

/**
 * What each station of a visit has left, over all its trays. Pictures that stand for a slot (keepers), and those on the bench, want a scale
 * and sending; keepers want confirming and teeth. Takes that were superseded want nothing. Readings that were made want
 * confirming; de-identification is asked by nobody and only tells what there is.
 */
export function course(
  trays: readonly Tray[],
  pictures: readonly CoursePicture[]
): { states: StationState[]; clear: boolean } {
  const wells = trays.flatMap((tray) => Object.values(tray.wells));
  const byId = new Map(pictures.map((picture) => [picture.pictureId, picture]));
  const keepers = wells.flatMap((well) => (well.keeper === null ? [] : [well.keeper]));
  const standing = [...keepers, ...trays.flatMap((tray) => tray.bench)].flatMap((id) => byId.get(id) ?? []);
  const empty =
    wells.filter((well) => well.keeper === null).length +
    trays.reduce((sum, tray) => sum + tray.retakes.length, 0);
  const toConfirm = wells.filter((well) => well.keeper !== null && well.confirmed === null).length;
  const unscaled = standing.filter((picture) => !picture.hasScale).length;
  const doubtful = standing.filter(({ advised }) => advised).length;
  const readings = pictures.reduce((sum, picture) => sum + picture.readings, 0);
  const unconfirmed = pictures.reduce((sum, picture) => sum + picture.unconfirmed, 0);
  const unlinked = keepers.filter((id) => byId.get(id)?.linked === false).length;
  const underWay = standing.filter((picture) => picture.onItsWay && !picture.delivered).length;
  const unsent = standing.filter((picture) => !picture.delivered && !picture.onItsWay).length;
  const toFile = standing.filter(
    (picture) => !picture.delivered || (!picture.linked && keepers.includes(picture.pictureId))
  );
  const some = standing.length > 0;
  const hasSlots = wells.length > 0;
  const states: StationState[] = [
    {
      station: 'acquire',
      left: empty,
      required: hasSlots,
      doubtful,
      words: acquiring(empty, doubtful, hasSlots)
    },
    {
      station: 'check',
      left: toConfirm,
      required: keepers.length > 0,
      words: toConfirm > 0 ? `${toConfirm} to confirm` : keepers.length > 0 ? 'confirmed' : 'nothing yet'
    },
    {
      station: 'scale',
      left: unscaled,
      required: some,
      words: unscaled > 0 ? `${unscaled} unscaled` : some ? 'scaled' : 'nothing yet'
    },
    {
      station: 'measure',
      left: unconfirmed,
      required: readings > 0,
      words: measuring(readings, unconfirmed)
    },
    {
      station: 'de-identify',
      left: 0,
      required: false,
      words: some ? 'as needed' : 'nothing yet'
    },
    {
      station: 'file',
      left: toFile.length,
      required: some,
      words: filing(unsent, underWay, unlinked, some)
    }
  ];
  return { states, clear: some && states.every((state) => state.left === 0) };
}

function acquiring(empty: number, doubtful: number, hasSlots: boolean): string {
  const left = empty > 0 ? `${empty} empty` : hasSlots ? 'all taken' : 'no tray';
  return doubtful > 0 ? `${left}, ${doubtful} doubtful` : left;
}

function measuring(readings: number, unconfirmed: number): string {
  if (unconfirmed > 0) return `${unconfirmed} to confirm`;
  return readings === 0 ? 'no readings' : readings === 1 ? '1 reading' : `${readings} readings`;
}

function filing(unsent: number, underWay: number, unlinked: number, some: boolean): string {
  if (unsent > 0) return `${unsent} not sent`;
  if (unlinked > 0) return `${unlinked} not linked`;
  if (underWay > 0) return `${underWay} on the way`;
  return some ? 'filed' : 'nothing yet';
}
