import type { Place } from '$core/anatomy/place';
import type { LayerName } from '$core/picture/layers/all';
import { type PictureLayers, withLayer } from '$core/picture/pictureLayers';
import type { PictureView } from '$core/picture/pictureView';
import type { TrayEvent } from '$core/tray/events/all';
import { needsWholeLog } from '$core/tray/log';
import type { PatternBook } from '$core/tray/pattern';
import { reduce } from '$core/tray/reduce';
import { type Tray, holdsTake } from '$core/tray/tray';
import type { TrayView } from '$core/visit/visitView';

/** A change that the server does not have yet, or has as its so-manyeth step, which the page may not have heard of. */
export interface Pending {
  url: string;
  body: unknown;
  keptAs: number | null;
}

export interface LayerChange {
  kind: LayerName;
  item: string | null;
  /** The layer's new state; null takes it off. */
  body: unknown;
  /** What it was made of, where others may be at it too. */
  from?: unknown;
}

/** What a page asks of a tray; see the server's list. */
export type TrayWish =
  | TrayEvent
  | { kind: 'keeper-confirmed'; slotId: string; takeId: string }
  /** The newest own act, whichever it is: only the server knows which. */
  | { kind: 'take-back' }
  | { kind: 'bring-back' };

const isNews = (change: Pending, seq: number) => change.keptAs === null || change.keptAs > seq;

/**
 * A picture as whoever changes it sees it: with the acts that are still on their way. Taking back and bringing back are
 * followed as far as this page's own acts go; beyond them the server says what stands.
 */
export function pictureWith(view: PictureView, changes: readonly Pending[]): PictureView {
  const base = `/api/pictures/${view.pictureId}/`;
  let acts: LayerChange[][] = [];
  let undone: LayerChange[][] = [];
  for (const change of changes) {
    if (!change.url.startsWith(base) || !isNews(change, view.seq)) continue;
    const what = change.url.slice(base.length);
    if (what === 'acts') {
      acts = [...acts, (change.body as { changes: LayerChange[] }).changes];
      undone = [];
    } else if (what === 'take-back' && acts.length > 0) {
      undone = [acts[acts.length - 1], ...undone];
      acts = acts.slice(0, -1);
    } else if (what === 'bring-back' && undone.length > 0) {
      acts = [...acts, undone[0]];
      undone = undone.slice(1);
    }
  }
  const links = linksWith(view, changes);
  if (acts.length === 0 && undone.length === 0 && links === view.links) return view;
  const layers = acts.flat().reduce<PictureLayers>(withLayer, view.layers);
  return {
    ...view,
    links,
    placed: view.placed || links !== view.links,
    layers,
    takenAt: layers.taken?.at ?? view.takenAt,
    canTakeBack: acts.length > 0 || view.canTakeBack,
    canBringBack: undone.length > 0 || (acts.length === 0 && view.canBringBack)
  };
}

/**
 * Whether taking back or bringing back on a picture is on its way that a view does not hold yet. Only a view from before the
 * acts that it goes about can show what it comes to.
 */
export const isUndoing = ({ pictureId, seq }: PictureView, changes: readonly Pending[]): boolean =>
  changes.some(
    (change) =>
      isNews(change, seq) &&
      (change.url === `/api/pictures/${pictureId}/take-back` ||
        change.url === `/api/pictures/${pictureId}/bring-back`)
  );

function linksWith(view: PictureView, changes: readonly Pending[]): Place[] {
  let { links } = view;
  for (const change of changes) {
    if (change.url !== '/api/links') continue;
    const asked = (change.body as { links: { pictureId: string; places: Place[] }[] }).links;
    links = asked.find((each) => each.pictureId === view.pictureId)?.places ?? links;
  }
  return links;
}

/** No pattern is laid before the server has laid it. */
const closedBook: PatternBook = {
  pattern: () => {
    throw new RangeError('the pattern is not here');
  },
  route: () => {
    throw new RangeError('the route is not here');
  }
};

/** A tray with the wishes that are still on their way, as the server will take them. */
export function trayWith(held: TrayView, changes: readonly Pending[], userId: string): Tray {
  let { tray } = held;
  for (const change of changes) {
    if (change.url !== `/api/trays/${held.trayId}` || !isNews(change, held.seq)) continue;
    const wish = change.body as TrayWish;
    if (wish.kind === 'take-back' || wish.kind === 'bring-back' || wish.kind === 'tray-laid') continue;
    if (wish.kind === 'take-moved' && !holdsTake(tray, wish.takeId)) continue;
    const event = wish.kind === 'keeper-confirmed' ? { ...wish, by: userId, name: null } : wish;
    tray = reduce(tray, event, closedBook);
  }
  return tray;
}

/**
 * A tray after events it is told of. Null when it can't be known from them: some before are missing, or a pattern is
 * laid, and then the tray has to be fetched. The same object when they are old.
 */
export function trayAfter(held: TrayView, seq: number, events: readonly TrayEvent[] | null): TrayView | null {
  if (seq <= held.seq) return held;
  if (events === null || seq - events.length !== held.seq) return null;
  if (events.some(needsWholeLog)) return null;
  return { ...held, seq, tray: events.reduce((tray, event) => reduce(tray, event, closedBook), held.tray) };
}
