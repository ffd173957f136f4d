import { getContext, setContext } from 'svelte';
import { toast } from 'svelte-sonner';
import type { Place } from '$core/anatomy/place';
import { upright } from '$core/raster/orientation';
import { type Tray, wellOf } from '$core/tray/tray';
import type { PaperChange } from '$core/papers/paper';
import type { PictureView } from '$core/picture/pictureView';
import { standingPictures } from '$core/visit/standing';
import type { Story, StoryPicture, StoryWriting } from '$core/visit/story';
import type { DeliveryView, DeviceView, TrayView, VisitView } from '$core/visit/visitView';
import type { Heard } from '../net/news';
import { onNewsSinceFetched } from '../net/news';
import { outbox } from '../net/outbox.svelte';
import { Refused, send } from '../net/send';
import { type LayerChange, type TrayWish, isUndoing, pictureWith, trayAfter, trayWith } from './pending';

/** A tray of the visit, with what this page has asked of it. */
export interface ShownTray {
  trayId: string;
  number: number;
  tray: Tray;
  /** How many events of it this program can't read. */
  unread?: number;
}

/**
 * A visit as its pages show it: what the server holds, renewed part by part as news come, and over it what was made here
 * and is still on its way.
 */
export class VisitStore {
  private held = $state.raw() as VisitView;
  private fetching = new Map<string, 'once' | 'again'>();
  /** Pictures as they were before the newest state of them, while something is taken back or brought back that it does not hold. */
  private before = $state.raw<ReadonlyMap<string, PictureView>>(new Map());

  constructor(
    view: VisitView,
    private readonly userId: string
  ) {
    this.held = view;
  }

  readonly head = $derived(this.held);
  readonly trays: ShownTray[] = $derived(
    this.held.trays.map(({ trayId, number, tray, seq, unread }) => ({
      trayId,
      number,
      tray: trayWith({ trayId, number, tray, seq }, outbox.changes.filter(unrefused), this.userId),
      unread
    }))
  );
  /** In the order they were taken. */
  readonly pictures: PictureView[] = $derived.by(() => {
    const mine = outbox.changes.filter(unrefused);
    return this.held.pictures.map((view) => {
      const from = isUndoing(view, mine) ? (this.before.get(view.pictureId) ?? view) : view;
      return pictureWith(this.lying(from), mine);
    });
  });
  readonly devices: DeviceView[] = $derived(this.held.devices);
  readonly deliveries: DeliveryView[] = $derived(this.held.deliveries);
  readonly people = $derived(this.held.people);

  /** Pictures that stand for something: keepers along the routes of the trays, then what lies on the benches. */
  readonly standing: PictureView[] = $derived(standingPictures(this.trays, this.pictures));

  readonly storyUrl = $derived.by(() => `/api/visits/${this.held.visitId}/story`);
  /** The story's pictures as whoever changes them sees them, with what is still on its way. */
  readonly storyPictures: { entry: StoryPicture; picture: PictureView }[] = $derived.by(() => {
    const url = this.storyUrl;
    const mine = outbox.changes.filter(
      (change) =>
        change.url === url &&
        unrefused(change) &&
        (change.body as { part: string }).part === 'pictures' &&
        (change.keptAs === null || change.keptAs > this.held.story.seq)
    );
    const last = mine.at(-1)?.body as { body: StoryPicture[] } | undefined;
    return (last?.body ?? this.held.story.pictures).flatMap((entry) => {
      const picture = this.picture(entry.pictureId);
      return picture ? [{ entry, picture }] : [];
    });
  });

  picture(pictureId: string): PictureView | undefined {
    return this.pictures.find((each) => each.pictureId === pictureId);
  }

  trayOf(picture: PictureView): ShownTray | null {
    return this.trays.find((each) => each.trayId === picture.trayId) ?? null;
  }

  wellOf(picture: PictureView) {
    const shown = this.trayOf(picture);
    return shown ? (wellOf(shown.tray, picture.pictureId) ?? null) : null;
  }

  /** Where a picture lies follows from the trays as they are shown. */
  private lying(view: PictureView): PictureView {
    for (const { trayId, tray } of this.trays) {
      const slot = wellOf(tray, view.pictureId)?.slot ?? null;
      if (!slot && ![...tray.bench, ...tray.dropped].includes(view.pictureId)) continue;
      if (trayId === view.trayId && slot?.id === view.slot?.id) return view;
      const firstOrientation = view.source === 'device' && slot ? slot.orientation : upright;
      return { ...view, trayId, slot, firstOrientation };
    }
    return view;
  }

  /** The whole visit anew. What has been heard of later than this was made stays. */
  take(view: VisitView): void {
    const { trays, pictures, visitId } = this.held;
    this.rememberBefore(view.pictures);
    this.held = view;
    if (view.visitId !== visitId) return;
    this.takeTrays(trays);
    for (const picture of pictures) this.takePictureOf(picture);
  }

  /** Follows the news and what the server has taken. Returns how to stop. */
  follow(): () => void {
    const stopNews = onNewsSinceFetched((heard) =>
      heard.topic === 'all' ? void this.fetchAll() : this.hear(heard)
    );
    const stopOutbox = outbox.follow((change) => {
      if (change.url !== '/api/links') return;
      const { links } = change.body as { links: { pictureId: string }[] };
      void Promise.all(links.map(({ pictureId }) => this.fetchPicture(pictureId))).then(() =>
        outbox.forget(change.key)
      );
    });
    return () => {
      stopNews();
      stopOutbox();
    };
  }

  private hear(news: Exclude<Heard, { topic: 'all' }>): void {
    const { visitId, roomId } = this.held;
    if (news.topic === 'lamp') {
      if (news.roomId === roomId) this.takeDevice(news.device);
    } else if (
      news.topic === 'day' ||
      news.topic === 'arrivals' ||
      news.topic === 'sent-to' ||
      news.topic === 'dispatch' ||
      news.topic === 'shelf' ||
      news.topic === 'reading'
    )
      return;
    else if (news.visitId !== visitId) return;
    else if (news.topic === 'taken-over')
      toast.warning(`${news.by} took ${news.device} over for another visit.`, {
        description: 'Get it ready here again when it is free.',
        duration: 15_000
      });
    else if (news.topic === 'picture-left') this.letPictureGo(news.pictureId);
    else if (news.topic === 'deliveries') void this.fetchDeliveries();
    else if (news.topic === 'visit') void this.fetchAll();
    else if (news.topic === 'story') void this.lookAtStory();
    else if (news.topic === 'picture') {
      if (news.view && !this.held.pictures.some((each) => each.pictureId === news.pictureId))
        this.takePicture(news.view);
      else void this.fetchPicture(news.pictureId);
    } else this.hearTray(news);
  }

  private hearTray(news: Extract<Heard, { topic: 'tray' }>): void {
    const held = this.held.trays.find((each) => each.trayId === news.trayId);
    const after = held ? trayAfter(held, news.seq, news.events) : null;
    if (!after) void this.fetchTrays();
    else if (after !== held) this.takeTrays([after]);
    const confirmers = (news.events ?? []).flatMap((event) =>
      event.kind === 'keeper-confirmed' ? (event.by ?? []) : []
    );
    if (confirmers.some((by) => !(by in this.held.people))) void this.fetchAll();
  }

  private takeDevice(device: DeviceView): void {
    const rest = this.held.devices.filter((each) => each.deviceId !== device.deviceId);
    this.held = {
      ...this.held,
      devices: [...rest, device].sort((a, b) => a.name.localeCompare(b.name))
    };
  }

  /** A picture that was held before, unless it is held as new or newer. */
  private takePictureOf(view: PictureView): void {
    const known = this.held.pictures.find((each) => each.pictureId === view.pictureId);
    if (!known || known.seq < view.seq) this.takePicture(view);
  }

  private takePicture(view: PictureView): void {
    const known = this.held.pictures.find((each) => each.pictureId === view.pictureId);
    if (known && known.seq > view.seq) return;
    this.rememberBefore([view]);
    const rest = this.held.pictures.filter((each) => each.pictureId !== view.pictureId);
    this.held = { ...this.held, pictures: [...rest, view].sort((a, b) => a.number - b.number) };
  }

  /** Of pictures that are about to be held as these: acts that are being taken back may be in them, and the taking back not. */
  private rememberBefore(views: readonly PictureView[]): void {
    const mine = outbox.changes.filter(unrefused);
    const before = new Map(this.before);
    for (const view of views) {
      if (!isUndoing(view, mine)) {
        before.delete(view.pictureId);
        continue;
      }
      const known = this.held.pictures.find((each) => each.pictureId === view.pictureId);
      if (known && known.seq < view.seq && !before.has(view.pictureId)) before.set(view.pictureId, known);
    }
    this.before = before;
  }

  /** It lies in another visit now. */
  private letPictureGo(pictureId: string): void {
    const pictures = this.held.pictures.filter((each) => each.pictureId !== pictureId);
    this.held = { ...this.held, pictures };
  }

  private takeTrays(trays: readonly TrayView[]): void {
    const byId = new Map(this.held.trays.map((each) => [each.trayId, each]));
    for (const tray of trays) if (tray.seq > (byId.get(tray.trayId)?.seq ?? -1)) byId.set(tray.trayId, tray);
    this.held = { ...this.held, trays: [...byId.values()].sort((a, b) => a.number - b.number) };
  }

  private fetchAll(): Promise<void> {
    const { visitId } = this.held;
    return this.fetch<VisitView>(`/api/visits/${visitId}`, (view) => {
      if (view.visitId === this.held.visitId) this.take(view);
    });
  }

  private fetchPicture(pictureId: string): Promise<void> {
    return this.fetch<PictureView>(`/api/pictures/${pictureId}`, (view) => this.takePicture(view));
  }

  /** Looks at one picture anew. */
  look(pictureId: string): Promise<void> {
    return this.fetchPicture(pictureId);
  }

  private fetchTrays(): Promise<void> {
    const url = `/api/visits/${this.held.visitId}/trays`;
    return this.fetch<{ trays: TrayView[] }>(url, ({ trays }) => this.takeTrays(trays));
  }

  lookAtStory(): Promise<void> {
    const { visitId } = this.held;
    return this.fetch<Story>(this.storyUrl, (story) => {
      if (visitId === this.held.visitId) this.held = { ...this.held, story };
    });
  }

  private fetchDeliveries(): Promise<void> {
    const url = `/api/visits/${this.held.visitId}/deliveries`;
    return this.fetch<Pick<VisitView, 'deliveries' | 'told'>>(url, ({ deliveries, told }) => {
      this.held = { ...this.held, deliveries, told };
    });
  }

  /** One of a kind at a time; what is asked meanwhile is fetched once more afterwards. What fails, the next news mend. */
  private async fetch<T>(url: string, take: (answer: T) => void): Promise<void> {
    if (this.fetching.has(url)) {
      this.fetching.set(url, 'again');
      return;
    }
    do {
      this.fetching.set(url, 'once');
      try {
        take(await send<T>('GET', url));
      } catch (error) {
        if (!(error instanceof Refused)) throw error;
        break;
      }
    } while (this.fetching.get(url) === 'again');
    this.fetching.delete(url);
  }

  /** Asks something of a tray: shown at once, kept as soon as the server can be reached. */
  wish(trayId: string, wish: TrayWish, words: string): Promise<unknown> {
    return outbox.put({ url: `/api/trays/${trayId}`, body: wish, lane: `visit ${this.held.visitId}`, words });
  }

  /** One act on a picture: shown at once, kept as soon as the server can be reached. */
  act(pictureId: string, changes: LayerChange[], words: string): Promise<unknown> {
    const url = `/api/pictures/${pictureId}/acts`;
    return outbox.put({ url, body: { changes }, lane: `picture ${pictureId}`, words });
  }

  /** Writes a part of the story; resolves once the page has it as the server does. */
  writeStory({ part, body }: StoryWriting, words: string): Promise<void> {
    const lane = `story ${this.held.visitId} ${part}`;
    const put = { url: this.storyUrl, body: { part, body: $state.snapshot(body) }, lane, words };
    return outbox.put(put).then(() => this.lookAtStory());
  }

  /** Lays a paper with the visit; resolves once the page has it, or with null when it can't be one. */
  async addPaper(file: File): Promise<Record<string, unknown> | null> {
    const { visitId } = this.held;
    const url = `/api/visits/${visitId}/papers?name=${encodeURIComponent(file.name)}`;
    const answer = await outbox.put({ url, body: null, file, lane: papersLane(visitId), words: file.name });
    await this.lookAtStory();
    return answer;
  }

  /** Names a paper, puts it away or brings it back. */
  changePaper(paperId: string, change: PaperChange, words: string): Promise<void> {
    const lane = papersLane(this.held.visitId);
    return outbox
      .put({ url: `/api/papers/${paperId}`, body: change, lane, words })
      .then(() => this.lookAtStory());
  }

  takeBack(pictureId: string): Promise<unknown> {
    const url = `/api/pictures/${pictureId}/take-back`;
    return outbox.put({ url, body: {}, lane: `picture ${pictureId}`, words: 'Taking back' });
  }

  bringBack(pictureId: string): Promise<unknown> {
    const url = `/api/pictures/${pictureId}/bring-back`;
    return outbox.put({ url, body: {}, lane: `picture ${pictureId}`, words: 'Bringing back' });
  }

  /** Links pictures to exactly these places. */
  link(links: { pictureId: string; places: Place[] }[]): Promise<unknown> {
    const words = links.length === 1 ? 'Link to the chart' : `Links of ${links.length} pictures to the chart`;
    return outbox.put({ url: '/api/links', body: { links }, lane: `links ${this.held.visitId}`, words });
  }
}

export const papersLane = (visitId: string): string => `papers ${visitId}`;

const unrefused = (change: { refused: unknown }) => change.refused === null;

const key = Symbol('visit');

export const provideVisit = (store: VisitStore): VisitStore => setContext(key, store);
export const theVisit = (): VisitStore => getContext<VisitStore>(key);
