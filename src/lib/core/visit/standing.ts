import type { PictureView } from '../picture/pictureView';
import { type Tray, wellsAlong } from '../tray/tray';

/** The pictures that stand for a tray: the keeper of each slot along its route, then what lies on its bench. */
export const standingOnTray = (tray: Tray): string[] => [
  ...wellsAlong(tray).flatMap((well) => well.keeper ?? []),
  ...tray.bench
];

/** The pictures that stand for a visit, in the order of its trays. */
export function standingPictures(
  trays: readonly { tray: Tray }[],
  pictures: readonly PictureView[]
): PictureView[] {
  const byId = new Map(pictures.map((picture) => [picture.pictureId, picture]));
  return trays.flatMap(({ tray }) => standingOnTray(tray)).flatMap((id) => byId.get(id) ?? []);
}
