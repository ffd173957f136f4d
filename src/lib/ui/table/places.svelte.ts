import { goto } from '$app/navigation';
import { page } from '$app/state';
import type { PictureView } from '$core/picture/pictureView';
import type { Well } from '$core/tray/tray';
import { type Look, windowOf, withWindow } from '$core/raster/look/look';
import type { SharedView } from '$core/raster/view';
import { isAtTable } from '$core/visit/course';
import { painted, whereTo } from '../net/going';
import { send } from '../net/send';

/** How many pictures can lie side by side. */
export const counts = [1, 2, 3, 4, 6] as const;
export type Count = (typeof counts)[number];
const mostTakes = 4;
const nothing = '-';
/** In the address: as the tray of the picture in hand has them. */
const asOnTray = 'tray';

interface Given {
  /** The visit's pictures in their order. */
  ordered: readonly PictureView[];
  /** The one in hand. */
  picture: PictureView | null;
  /** Takes of its slot. */
  takes: readonly string[];
  /** The wells of its tray, along the route. */
  wells: readonly Well[];
}

/**
 * The places of the stage: one picture, or several side by side, of this visit or beside them some of earlier ones. One of
 * them is in hand. Which lie where is told by the page's address, so that it can be come back to.
 */
export class Places {
  /** Whether the takes of a slot lie side by side. */
  takesTogether = $state(false);
  /** Whether those side by side are zoomed and moved as one, and where they look then. */
  linked = $state(true);
  where = $state.raw<SharedView | null>(null);
  /** Whether the window of one is that of all. */
  windowsLinked = $state(false);
  /** The empty place that the next picture goes to. */
  target = $state<number | null>(null);
  /** The picture that is on its way into hand; what is pressed meanwhile counts from it. */
  coming: string | null = null;
  private elsewhere = $state.raw<ReadonlyMap<string, PictureView>>(new Map());

  constructor(private readonly given: () => Given) {}

  /** The wells that the places lie as, where all of a tray is seen in its own arrangement. */
  readonly tray: readonly Well[] | null = $derived.by(() => {
    const isAsked = page.url.searchParams.get('on') === asOnTray;
    return isAsked && this.mayLieAsOnTray ? this.given().wells : null;
  });
  /** Whether the picture in hand stands on a tray for which there are others. */
  get mayLieAsOnTray(): boolean {
    const { picture, wells } = this.given();
    const filled = wells.flatMap(({ keeper }) => keeper ?? []);
    return picture !== null && filled.length > 1 && filled.includes(picture.pictureId);
  }

  private readonly asked: readonly string[] | null = $derived.by(() => {
    const { picture } = this.given();
    if (this.tray) return this.tray.map(({ keeper }) => keeper ?? nothing);
    const ids = page.url.searchParams.get('on')?.split('.') ?? [];
    return picture && ids.length > 1 && ids.includes(picture.pictureId) ? ids.slice(0, 6) : null;
  });

  /** What lies in each place; null where nothing does, or it has yet to come. */
  readonly pictures: (PictureView | null)[] = $derived.by(() => {
    const { picture, takes, ordered } = this.given();
    if (!picture) return [];
    const find = (id: string) => ordered.find(({ pictureId }) => pictureId === id);
    if (this.asked) return this.asked.map((id) => find(id) ?? this.elsewhere.get(id) ?? null);
    const newest = this.takesTogether ? takes.slice(-mostTakes).flatMap((id) => find(id) ?? []) : [];
    return newest.length > 1 && newest.includes(picture) ? newest : [picture];
  });
  get several(): boolean {
    return this.pictures.length > 1;
  }
  get count(): Count {
    return this.asked && !this.tray ? (counts.find((count) => count >= this.asked!.length) ?? 6) : 1;
  }

  /** What a stage takes part in, if anything. */
  get sight(): SharedView | null | undefined {
    return this.linked && this.several && !this.tray ? this.where : undefined;
  }
  set sight(where: SharedView | null | undefined) {
    if (where !== undefined) this.where = where;
  }

  /** Pictures of earlier visits that the address names. */
  async fetchMissing(): Promise<void> {
    const { ordered, picture } = this.given();
    for (const id of this.asked ?? []) {
      if (id === nothing || this.elsewhere.has(id)) continue;
      if (ordered.some(({ pictureId }) => pictureId === id)) continue;
      const view = await send<PictureView>('GET', `/api/pictures/${id}`).catch(() => null);
      // Nobody else's picture lies under this patient's name, whatever an address says.
      if (view && view.patientId === picture?.patientId)
        this.elsewhere = new Map([...this.elsewhere, [id, view]]);
    }
  }

  private go(picture: string, on: readonly string[] | typeof asOnTray | null): void {
    const asked = `?picture=${picture}${on ? `&on=${typeof on === 'string' ? on : on.join('.')}` : ''}`;
    this.coming = picture;
    void this.bring(asked).finally(() => {
      if (this.coming === picture) this.coming = null;
    });
  }
  /** Whoever pressed a station and then a picture wants that picture there. */
  private async bring(asked: string): Promise<void> {
    await painted();
    const [present, path] = [page.url.pathname, whereTo()];
    const station = path.slice(path.lastIndexOf('/') + 1);
    const isLeaving = !isAtTable(station) || !present.startsWith(path.slice(0, -station.length));
    if (isLeaving) return;
    await goto(path + asked, { replaceState: path === present, noScroll: true, keepFocus: true });
  }

  /** So many places, with the picture in hand and those that follow it in the series. */
  lay(count: Count): void {
    const { ordered, picture } = this.given();
    if (!picture) return;
    this.target = null;
    this.takesTogether = false;
    if (count === 1) return this.go(picture.pictureId, null);
    const kept = (this.tray ? null : this.asked) ?? [picture.pictureId];
    const at = ordered.findIndex(({ pictureId }) => pictureId === picture.pictureId);
    const following = [...ordered.slice(at + 1), ...ordered.slice(0, at)]
      .map(({ pictureId }) => pictureId)
      .filter((id) => !kept.includes(id));
    const filled = kept.filter((id) => id !== nothing);
    // The one in hand stays, whichever of them has to go.
    const staying = [picture.pictureId, ...filled.filter((id) => id !== picture.pictureId)].slice(0, count);
    const on = [...filled.filter((id) => staying.includes(id)), ...following].slice(0, count);
    while (on.length < count) on.push(nothing);
    this.go(picture.pictureId, on);
  }

  /** All of the tray as it has them. */
  layAsOnTray(): void {
    const { picture } = this.given();
    this.target = null;
    this.takesTogether = false;
    if (picture && this.mayLieAsOnTray) this.go(picture.pictureId, asOnTray);
  }

  /** The next number of places, then the tray's own, then one again. */
  next(): void {
    if (this.tray) this.lay(1);
    else if (this.count === counts.at(-1) && this.mayLieAsOnTray) this.layAsOnTray();
    else this.lay(counts[(counts.indexOf(this.count) + 1) % counts.length]);
  }

  /** Takes a picture in hand: where it lies, else in the place of the one in hand, or the empty one that was chosen. */
  show(pictureId: string): void {
    if (this.tray) return this.go(pictureId, asOnTray);
    const on = this.asked;
    if (!on) return this.go(pictureId, null);
    if (on.includes(pictureId)) return this.go(pictureId, on);
    this.put(pictureId, this.target ?? on.indexOf(this.given().picture!.pictureId));
  }

  /** Lays a picture into a place; what lay there goes where it came from. It is taken in hand if it is of this visit. */
  put(pictureId: string, at: number): void {
    const { ordered, picture } = this.given();
    const on = [...(this.asked ?? [picture!.pictureId])];
    const from = on.indexOf(pictureId);
    if (from >= 0) on[from] = on[at];
    on[at] = pictureId;
    this.target = null;
    const mine = ordered.some((each) => each.pictureId === pictureId);
    const hand = mine ? pictureId : picture!.pictureId;
    this.go(
      on.includes(hand) ? hand : (on.find((id) => ordered.some((each) => each.pictureId === id)) ?? hand),
      on
    );
  }

  /** The window of the one in hand has changed: those beside it follow by as much, each in values of its own. */
  followed(before: Look, after: Look, beside: Look): Look {
    const [from, to, own] = [before, after, beside].map(windowOf);
    if (!from || !to || !own) return beside;
    const times = own.width / from.width;
    return withWindow(beside, {
      center: own.center + (to.center - from.center) * times,
      width: Math.max(1, (own.width * to.width) / from.width)
    });
  }
}
