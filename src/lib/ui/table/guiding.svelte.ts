import { Waypoints } from '@lucide/svelte';
import { SvelteSet } from 'svelte/reactivity';
import type { PlacedPoint } from '$core/calibration/scale';
import { standingAdvice } from '$core/picture/adviceView';
import { doubtOf } from '$core/measurement/guides/doubts';
import { type FittingGuide, fittingGuides } from '$core/measurement/guides/fitting';
import type { Guide, GuideView, Landmark } from '$core/measurement/guides/guide';
import { type Likely, likelyPlace } from '$core/measurement/guides/likely';
import { type GuideWritten, guideWritten } from '$core/measurement/guides/written';
import type { Proposed } from '$core/measurement/guides/proposed';
import type { Sharpened } from '$core/measurement/guides/sharpened';
import {
  type GuideSet,
  type GuideSpread,
  type PictureNow,
  guideSetsOf,
  guideSpreads
} from '$core/picture/guideSets';
import type { PictureItem } from '$core/picture/pictureLayers';
import { type GuidePoints, guideViewOf, landmarkOf } from '$core/picture/layers/guide/guide';
import { type PictureView, placesOf } from '$core/picture/pictureView';
import { orientedSize, toImage, toOriented } from '$core/raster/orientation';
import { placeTool } from '../stage/tools/place';
import type { Tool } from '../stage/tools/tool';
import { shapeOf } from '../stage/viewport.svelte';
import type { Edits } from './edits.svelte';
import { Finding } from './finding';
import { Pressing } from './pressing.svelte';
import type { TableTool } from './station';

interface InHand {
  set: string;
  guide: Guide;
  view: string;
}

/** Doing a guide: which one, on which of its views, and the landmark that is wanted next. */
export class Guiding {
  private hand = $state.raw<InHand | null>(null);
  /** A landmark that was asked for out of its turn. */
  private chosen = $state<string | null>(null);
  private readonly skipped = new SvelteSet<string>();
  /** Whether somebody says that the picture shows the drawing as in a mirror. */
  private flipped = $state(false);
  /** Whether presses on the picture place landmarks. */
  placing = $state(false);
  /** What the computer found by itself on this picture, by the landmarks' keys. */
  private found = $state.raw<Readonly<Record<string, Proposed>>>({});
  looking = $state(false);
  /** Why it found nothing, in words. */
  foundNothing = $state('');
  private readonly finding = new Finding();
  private readonly pressing = new Pressing();
  /** Whether a press is pulled to the edge beside it. */
  pulls = $state(false);
  /** The result that is looked at: what it is made of lights up on the picture. */
  lit = $state.raw<{ set: string; needs: readonly string[] } | null>(null);

  /** The landmark that is pointed at on the picture, as `view.landmark`: its results light up. */
  pointed = $state.raw<{ set: string; landmark: string } | null>(null);

  constructor(
    private readonly edits: Edits,
    private readonly given: () => { picture: PictureView | null; pictures: readonly PictureView[] },
    private readonly clinics: () => readonly GuideWritten[] = () => []
  ) {}

  /** The visit's pictures as they are worked on at present. */
  readonly now: PictureNow[] = $derived.by(() => {
    const { picture, pictures } = this.given();
    return pictures.map((each) => ({
      picture: each,
      layers: each.pictureId === picture?.pictureId ? this.edits.layers : each.layers
    }));
  });
  /** All doings of guides in the visit. */
  readonly sets: GuideSet[] = $derived.by(() => guideSetsOf(this.now));
  /** Those that the picture on the table is part of. */
  readonly here: GuideSet[] = $derived.by(() => {
    const id = this.given().picture?.pictureId;
    return this.sets.filter(({ views }) =>
      [...views.values()].some(({ picture }) => picture.pictureId === id)
    );
  });
  /** How far those lie apart that were done more than once on this picture. */
  readonly spreads: GuideSpread[] = $derived.by(() => guideSpreads(this.here));
  /** Guides that the picture is made for. */
  readonly fitting: FittingGuide[] = $derived.by(() => {
    const { picture } = this.given();
    if (!picture) return [];
    return fittingGuides({ places: placesOf(picture), projection: picture.slot?.projection ?? null });
  });

  /** The clinic's own guides of a trade; all of them where the trade is not known. */
  written(trade: Guide['trade'] | null): FittingGuide[] {
    return this.clinics()
      .filter(({ written }) => trade === null || written.trade === trade)
      .map((each) => ({ guide: guideWritten(each), view: each.written.views[0].key }));
  }
  /** The version that a guide of the clinic has by now, where it is a later one than what was done; null otherwise. */
  laterVersion({ guide }: GuideSet): number | null {
    const version = this.clinics().find(({ key }) => key === guide.key)?.version ?? 0;
    return version > guide.version ? version : null;
  }

  readonly guide: Guide | null = $derived.by(() => this.hand?.guide ?? null);
  readonly view: GuideView | null = $derived.by(
    () => this.hand?.guide.views.find(({ key }) => key === this.hand!.view) ?? null
  );
  /** The doing in hand, with its results; null before its first landmark. */
  readonly set: GuideSet | null = $derived.by(
    () => this.sets.find(({ set }) => set === this.hand?.set) ?? null
  );
  private readonly body: GuidePoints | null = $derived.by(() => {
    const id = this.hand?.set;
    const item = this.edits.layers.items.find((each) => each.kind === 'guide' && each.id === id);
    return (item?.body as GuidePoints | undefined) ?? null;
  });
  readonly points: Readonly<Record<string, PlacedPoint>> = $derived.by(() =>
    this.body && this.body.view === this.hand?.view ? this.body.points : {}
  );
  /** The landmark that is wanted next. */
  readonly wanted: Landmark | null = $derived.by(() => {
    const landmarks = this.view?.landmarks ?? [];
    const chosen = landmarks.find(({ key }) => key === this.chosen);
    return chosen ?? landmarks.find(({ key }) => !this.points[key] && !this.skipped.has(key)) ?? null;
  });
  readonly tool: TableTool | null = $derived.by(() => {
    if (!this.placing || !this.wanted) return null;
    return {
      id: 'guide',
      words: 'Landmark',
      key: '',
      icon: Waypoints,
      tool: placeTool([this.wanted.name]) as Tool<unknown>,
      changes: true,
      makes: 'guide'
    };
  });
  /** Whether something was found on this picture, taken or not. */
  readonly foundSome: boolean = $derived.by(() => Object.keys(this.found).length > 0);
  /** Landmarks of this picture that the result looked at is made of, and the lines between them. */
  readonly litParts: { points: PlacedPoint[]; lines: [PlacedPoint, PlacedPoint][] } = $derived.by(() => {
    const item = this.edits.layers.items.find(({ kind, id }) => kind === 'guide' && id === this.lit?.set);
    const nothing = { points: [], lines: [] };
    if (!item || !this.lit) return nothing;
    const body = item.body as GuidePoints;
    const needed = new Set(this.lit.needs);
    const own = (key: string) => (needed.has(`${body.view}.${key}`) ? body.points[key] : undefined);
    const points = Object.keys(body.points).flatMap((key) => own(key) ?? []);
    const lines = (guideViewOf(body)?.lines ?? []).flatMap(([a, b]): [PlacedPoint, PlacedPoint][] => {
      const [from, to] = [own(a), own(b)];
      return from && to ? [[from, to]] : [];
    });
    return { points, lines };
  });
  /** What is pointed at on the picture. */
  point(id: string | null, index?: number): void {
    const item = this.edits.layers.items.find((each) => each.kind === 'guide' && each.id === id);
    const landmark = item && index !== undefined ? landmarkOf(item.body as GuidePoints, index) : undefined;
    this.pointed = item && landmark ? { set: item.id, landmark } : null;
  }
  /** Of what was found, what nobody has taken or put elsewhere. */
  readonly proposed: Readonly<Record<string, Proposed>> = $derived.by(() =>
    Object.fromEntries(Object.entries(this.found).filter(([key]) => !this.points[key]))
  );
  /** Better places for landmarks that were pressed roughly, hollow until somebody takes them. */
  readonly sharper: Readonly<Record<string, Sharpened>> = $derived.by(() =>
    this.hand ? this.pressing.better(this.points) : {}
  );
  /** Why somebody may doubt this picture or what is placed on it, in words. */
  readonly doubts: string[] = $derived.by(() => {
    const { picture } = this.given();
    if (!picture || !this.view) return [];
    const size = { width: picture.width, height: picture.height, pixelAspect: this.edits.aspect };
    const { orientation } = this.edits;
    const seen = Object.entries(this.points).map(
      ([key, point]) => [key, toOriented(point, size, orientation)] as const
    );
    const doubt = doubtOf(this.view, Object.fromEntries(seen));
    return [
      ...(orientation.mirrored === picture.firstOrientation.mirrored
        ? []
        : ['This picture has been mirrored since it came in: its left and right are exchanged.']),
      ...standingAdvice(picture.advice)
        .filter(({ kind }) => kind === 'turned' || kind === 'other side')
        .map(({ description }) => description),
      ...(doubt === 'mirrored'
        ? [
            'The patient’s right lies where the drawing has the left: the picture is mirrored, or sides are exchanged.'
          ]
        : []),
      ...(doubt === 'unlike'
        ? [`These landmarks lie unlike those of “${this.view.name}”: look whether this picture is that view.`]
        : [])
    ];
  });
  /** Where the wanted landmark is likely, in image pixels, and how far around it. */
  readonly likely: Likely | null = $derived.by(() => {
    const { picture } = this.given();
    if (!picture || !this.view || !this.wanted) return null;
    const size = { width: picture.width, height: picture.height, pixelAspect: this.edits.aspect };
    const { orientation } = this.edits;
    const placed = Object.fromEntries(
      Object.entries(this.points).map(([key, point]) => [key, toOriented(point, size, orientation)])
    );
    const found = likelyPlace(
      this.view,
      placed,
      this.wanted.key,
      orientedSize(size, orientation),
      this.flipped
    );
    return found && { ...found, at: toImage(found.at, size, orientation) };
  });

  /** Whether the drawing is shown as in a mirror: as what is placed tells, or as somebody says. */
  readonly mirrored: boolean = $derived.by(() => this.likely?.mirrored ?? this.flipped);
  flip(): void {
    this.flipped = !this.flipped;
  }

  start({ guide, view }: FittingGuide): void {
    this.take({ set: crypto.randomUUID(), guide, view });
  }
  goOn(set: GuideSet): void {
    this.take({ set: set.set, guide: set.guide, view: this.viewHere(set) });
  }
  /** Shows a doing without asking for anything. */
  rest(set: GuideSet): void {
    this.goOn(set);
    this.placing = false;
  }
  private take(hand: InHand): void {
    this.hand = hand;
    this.chosen = null;
    this.flipped = false;
    this.skipped.clear();
    this.forgetFound();
    this.placing = true;
  }
  /** Which of a doing's views the picture on the table is. */
  viewHere({ guide, views }: GuideSet): string {
    const id = this.given().picture?.pictureId;
    return [...views].find(([, { picture }]) => picture.pictureId === id)?.[0] ?? guide.views[0].key;
  }
  /** The picture is another view of the guide. Of what was placed on it, what this view has too stays. */
  seeAs(view: string): void {
    if (!this.hand) return;
    const { body } = this;
    this.take({ ...this.hand, view });
    if (!body || body.view === view) return;
    const asked = new Set(this.view!.landmarks.map(({ key }) => key));
    this.keep(Object.fromEntries(Object.entries(body.points).filter(([key]) => asked.has(key))));
  }
  /** Looks for what can be found in the view without anybody pointing. */
  async find(): Promise<void> {
    const { picture } = this.given();
    if (!picture || !this.view?.finds || this.finding.underWay) return;
    if (picture.channels !== 3) {
      this.foundNothing = 'Markers are found by their colour, and this picture has none. Place them by hand.';
      return;
    }
    const { view } = this;
    const standing = { shape: shapeOf(picture), orientation: this.edits.orientation };
    this.foundNothing = '';
    this.looking = true;
    try {
      const done = await this.finding.run((finder) => finder.landmarks(standing, view!));
      if (!done) return;
      this.found = done.found;
      if (!this.foundSome)
        this.foundNothing =
          'No markers of one strong colour were found that lie as these landmarks do. Place them by hand.';
    } catch (error) {
      this.foundNothing = (error as Error).message;
    }
    this.looking = false;
  }
  stopFinding(): void {
    this.finding.stop();
    this.looking = false;
  }
  private forgetFound(): void {
    this.stopFinding();
    this.pressing.forget();
    this.found = {};
    this.foundNothing = '';
  }
  /** Takes what was found: one landmark, or all of them in one act. */
  accept(keys: readonly string[] = Object.keys(this.proposed)): void {
    const from: Readonly<Record<string, Proposed>> = { ...this.proposed, ...this.sharper };
    const taken = keys.filter((key) => from[key]);
    if (taken.length === 0) return;
    const placed = taken.map((key) => {
      const { x, y, uncertaintyPx } = from[key];
      return [key, { x, y, uncertaintyPx }] as const;
    });
    this.keep(
      { ...this.points, ...Object.fromEntries(placed) },
      taken.length === 1 ? 'Landmark taken as found' : `${taken.length} landmarks taken as found`
    );
    this.chosen = null;
    for (const key of taken) this.skipped.delete(key);
  }
  leave(): void {
    this.forgetFound();
    this.hand = this.chosen = null;
    this.placing = false;
  }
  /** Another picture lies on the table: a guide of several views goes on with the next of them. */
  changed(): void {
    const { hand, set } = this;
    if (!hand) return;
    const id = this.given().picture?.pictureId;
    const on = [...(set?.views ?? [])].find(([, { picture }]) => picture.pictureId === id)?.[0];
    const fits = this.fitting.find(({ guide }) => guide.key === hand.guide.key)?.view;
    const free = hand.guide.views.find(({ key }) => !set?.views.has(key))?.key;
    const view =
      on ?? (fits && !set?.views.has(fits) ? fits : hand.guide.views.length > 1 ? free : undefined);
    if (view) this.take({ ...hand, view });
    else this.leave();
  }

  place({ x, y, uncertaintyPx }: PlacedPoint): void {
    const { wanted } = this;
    if (!wanted) return;
    const press = { x, y, uncertaintyPx };
    this.keep({ ...this.points, [wanted.key]: press }, wanted.name);
    this.chosen = null;
    this.skipped.delete(wanted.key);
    if (this.pulls) void this.pull(wanted, press);
  }
  /** The press stands at once; the edge beside it is an act of its own, so that taking one back leaves the press. */
  private async pull({ key, name }: Landmark, press: PlacedPoint): Promise<void> {
    const { picture } = this.given();
    const at = picture && (await this.pressing.pulled(picture, press).catch(() => null));
    const now = this.points[key];
    if (!at || now?.x !== press.x || now.y !== press.y) return;
    this.keep({ ...this.points, [key]: at }, `${name} pulled to the edge`);
  }
  skip(): void {
    if (this.wanted) this.skipped.add(this.wanted.key);
    this.chosen = null;
  }
  choose(key: string): void {
    this.chosen = key;
    this.skipped.delete(key);
    this.placing = true;
  }
  /** Takes the landmark before the wanted one off, and asks for it again. */
  back(): void {
    const landmarks = this.view?.landmarks ?? [];
    const until = this.wanted ? landmarks.findIndex(({ key }) => key === this.wanted!.key) : landmarks.length;
    const last = landmarks.slice(0, until).findLast(({ key }) => this.points[key] || this.skipped.has(key));
    if (!last) return;
    this.skipped.delete(last.key);
    this.chosen = null;
    if (!this.points[last.key]) return;
    const { [last.key]: _, ...rest } = this.points;
    this.keep(rest, `${last.name} taken off`);
  }
  get canGoBack(): boolean {
    return Object.keys(this.points).length > 0 || this.skipped.size > 0;
  }
  /** While one is done, what others were done on the picture is out of the way. */
  hides({ id, kind }: PictureItem): boolean {
    return kind === 'guide' && this.hand !== null && id !== this.hand.set;
  }
  isSkipped = (key: string): boolean => this.skipped.has(key);

  /** What a guide of the clinic asks for in the version in hand: it goes along with what is done. */
  private writtenOf({ key, version }: Guide): GuidePoints['written'] {
    const done = this.sets.flatMap(({ views }) => [...views.values()].map(({ body }) => body));
    const own = this.clinics().find((each) => each.key === key && each.version === version);
    return own?.written ?? done.find((body) => body.guide === key && body.version === version)?.written;
  }

  private keep(points: GuidePoints['points'], message?: string): void {
    const { set, guide, view } = this.hand!;
    const written = this.writtenOf(guide);
    const body: GuidePoints = {
      set,
      guide: guide.key,
      version: guide.version,
      view,
      points,
      ...(written ? { written } : {})
    };
    this.edits.put('guide', set, Object.keys(points).length > 0 ? body : null, message);
    const { picture } = this.given();
    if (picture && this.view) void this.pressing.look(picture, this.view, points);
  }
}
