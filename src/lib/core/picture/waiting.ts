import type { PictureNow } from './guideSets';
import type { GuidePoints } from './layers/guide/guide';
import { type DrawnItem, drawnItems, isReading } from './readings';

/** What a clinician looks at in one go: the readings of a picture, or its part of a guide. */
export interface Waiting {
  id: string;
  pictureId: string;
  /** The doing of a guide that it is part of; null for readings. */
  set: string | null;
  items: DrawnItem[];
}

/** What nobody has confirmed as it is now, picture by picture; parts of one guide follow one another. */
export function waitingOn(pictures: readonly PictureNow[]): Waiting[] {
  const all = pictures.flatMap(({ picture: { pictureId }, layers }): Waiting[] => {
    const open = drawnItems(layers).filter(
      ({ item, confirmedBy }) => isReading(item.kind) && confirmedBy === null
    );
    const readings = open.filter(({ item }) => item.kind !== 'guide');
    const parts = open.flatMap((drawn): Waiting[] => {
      if (drawn.item.kind !== 'guide') return [];
      const { set } = drawn.item.body as GuidePoints;
      return [{ id: `${pictureId} ${set}`, pictureId, set, items: [drawn] }];
    });
    return readings.length > 0
      ? [{ id: `${pictureId} readings`, pictureId, set: null, items: readings }, ...parts]
      : parts;
  });
  const first = new Map<string, number>();
  for (const [i, { set }] of all.entries()) if (set && !first.has(set)) first.set(set, i);
  return all
    .map((each, i) => ({ each, at: each.set ? first.get(each.set)! : i }))
    .toSorted((a, b) => a.at - b.at)
    .map(({ each }) => each);
}
