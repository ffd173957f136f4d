import { language } from '../writing';
import { toast } from 'svelte-sonner';
import { page } from '$app/state';
import { leastCropPx } from '$core/picture/layers/crop/crop';
import type { ClinicMarker } from '$core/calibration/markerShape';
import type { PlacedPoint } from '$core/calibration/scale';
import type { Notation } from '$core/anatomy/teeth';
import type { Place } from '$core/anatomy/place';
import type { Grade } from '$core/picture/gradeReasons';
import type { AboutPicture } from '$core/picture/layers/about/about';
import { layerKindOf } from '$core/picture/layers/all';
import type { Finding } from '$core/picture/layers/finding/finding';
import type { Graded } from '$core/picture/layers/grade/grade';
import {
  isMarker,
  type BoneHeight,
  type LongGiven,
  type ScaleGiven,
  scaleLayer,
  takenOver
} from '$core/picture/layers/scale/scale';
import type { PictureItem } from '$core/picture/pictureLayers';
import { type PictureView, lookOf, pictureName, placesOf } from '$core/picture/pictureView';
import { drawingsToKeep, keptOf, placeBetween, shownWindow } from '$core/picture/keptViews';
import type { KeptView } from '$core/picture/layers/kept/kept';
import { type PictureReading, isReading, wordsOf } from '$core/picture/readings';
import type { GuideWritten } from '$core/measurement/guides/written';
import type { Waiting } from '$core/picture/waiting';
import type { Stage, View } from '$core/raster/view';
import type { Look } from '$core/raster/look/look';
import { ownLookOf, withOwnLook } from '$core/raster/look/ownLook';
import { wellsAlong } from '$core/tray/tray';
import type { Histogram } from '../../workers/painter';
import { thePainter } from '../stage/painting';
import type { ShownDrawing } from '../stage/shownDrawing';
import { shapeOf } from '../stage/viewport.svelte';
import type { Deed } from '../stage/tools/tool';
import type { LayerChange } from '../visit/pending';
import type { VisitStore } from '../visit/visitStore.svelte';
import { Edits } from './edits.svelte';
import type { FittingGuide } from '$core/measurement/guides/fitting';
import { Guiding } from './guiding.svelte';
import { MarkerSearch, givenBy } from './markers.svelte';
import { GreyValues, type GreysState, greysInShort } from './greys.svelte';
import { Places } from './places.svelte';
import { Round } from './round.svelte';
import type { StationTable, TableTool } from './station';
import { ThenNow } from './thenNow.svelte';

export interface PutRight {
  taken: string | null;
  about: AboutPicture | null;
  places: readonly Place[] | null;
  /** "<tray> <slot>", or "bench". */
  slot: string | null;
}

export interface May {
  confirm: boolean;
  changePictures: boolean;
  send: boolean;
}

const scaleId = 'scale';
const histogramBins = 128;

/** The light table: which of the visit's pictures lies on it, the tool in hand, and what comes of using it. */
export class LightTable {
  private toolId = $state('window');
  highlighted = $state<string | null>(null);
  /** The frame that is on the stage, counted from 0. */
  frame = $state(0);
  /** Points that wait for their words or their place. */
  unsaid = $state.raw<{ kind: 'text' | 'label'; at: PlacedPoint } | null>(null);
  /** The reading that the next one of its kind is taken again of. */
  repeating = $state<string | null>(null);
  readonly markers = new MarkerSearch();
  private readonly greys = new GreyValues();
  /** Which side panel lies open: what the station is for, the look, or a guide. */
  panel = $state<'station' | 'look' | 'guide'>('station');
  /** How much room the picture has: what lies beside it stays, folds away, or all the window is the table's. */
  room = $state<'shared' | 'wide' | 'whole'>('shared');
  /** While it is held: the picture as it was stored, whatever its look. */
  asStored = $state(false);
  histogram = $state.raw<Histogram | null>(null);
  /** A line over a known length, until its length is given. */
  line = $state.raw<PlacedPoint[] | null>(null);
  private movedLine = $state.raw<PlacedPoint[] | null>(null);
  readonly edits: Edits;
  readonly places: Places;
  readonly thenNow: ThenNow;
  readonly guiding: Guiding;
  readonly round: Round;

  constructor(
    readonly store: VisitStore,
    private readonly given: () => { station: StationTable; may: May; notation: Notation }
  ) {
    this.edits = new Edits(store, () => this.picture!);
    this.places = new Places(() => ({
      ordered: this.ordered,
      picture: this.picture,
      takes: this.well?.takes ?? [],
      wells: this.wells
    }));
    this.thenNow = new ThenNow(store, () => this.picture);
    this.guiding = new Guiding(
      this.edits,
      () => ({ picture: this.picture, pictures: this.ordered }),
      () => (page.data.guides ?? []) as GuideWritten[]
    );
    this.round = new Round(store, () => this.guiding.now);
  }

  readonly station = $derived.by(() => this.given().station);
  readonly may = $derived.by(() => this.given().may);
  readonly notation = $derived.by(() => this.given().notation);

  /** The visit's pictures as the trays have them: what stands for something, then earlier takes. */
  readonly ordered: PictureView[] = $derived.by(() => {
    const standing = this.store.standing;
    const earlier = this.store.trays
      .flatMap(({ tray }) =>
        wellsAlong(tray).flatMap(({ takes, keeper }) => takes.filter((id) => id !== keeper))
      )
      .flatMap((id) => this.store.picture(id) ?? []);
    return [...standing, ...earlier];
  });
  readonly picture: PictureView | null = $derived.by(() => {
    const asked = page.url.searchParams.get('picture');
    return this.ordered.find((each) => each.pictureId === asked) ?? this.ordered[0] ?? null;
  });
  /** Those of the tray that it lies on, along the route. */
  readonly wells = $derived.by(() => {
    const shown = this.picture && this.store.trayOf(this.picture);
    return shown ? wellsAlong(shown.tray) : [];
  });
  readonly well = $derived.by(() => (this.picture ? this.store.wellOf(this.picture) : null));
  /** The clinic's markers that can be looked for; none where the pixels are not square, which makes circles oval. */
  readonly soughtMarkers: ClinicMarker[] = $derived.by(() => {
    const known = (page.data.markers ?? []) as ClinicMarker[];
    return this.pixelsAreSquare ? known.filter(({ shape }) => shape !== 'length') : [];
  });
  /** Those of them that can be drawn round. */
  readonly roundMarkers: ClinicMarker[] = $derived.by(() =>
    this.soughtMarkers.filter(({ shape }) => shape === 'ball' || shape === 'disc')
  );
  get pixelsAreSquare(): boolean {
    return this.picture !== null && Math.abs(this.edits.aspect - 1) < 0.001;
  }
  readonly tools: TableTool[] = $derived.by(() =>
    this.station.tools.filter(
      ({ changes, makes }) =>
        (this.may.changePictures || !changes) && (makes !== 'known circle' || this.roundMarkers.length > 0)
    )
  );
  readonly tool: TableTool = $derived.by(
    () => this.guiding.tool ?? this.tools.find((each) => each.id === this.toolId) ?? this.tools[0]
  );
  takeUp(toolId: string): void {
    if (!this.tools.some((each) => each.id === toolId)) return;
    this.toolId = toolId;
    this.guiding.placing = false;
    this.repeating = this.unsaid = null;
  }
  /** Measures the same thing once more: the next of its kind is a repeat of it. */
  again({ item, note }: PictureReading): void {
    this.takeUp(item.kind);
    if (this.tool.makes === item.kind) this.repeating = note.repeatOf ?? item.id;
  }

  show(pictureId: string): void {
    this.places.show(pictureId);
  }
  /** What lies before and after the picture in the series. */
  get neighbours(): PictureView[] {
    const at = this.ordered.findIndex((each) => each.pictureId === this.picture?.pictureId);
    return [this.ordered[at + 1], this.ordered[at - 1]].filter((each) => each !== undefined);
  }
  step(by: number): void {
    const from = this.places.coming ?? this.picture?.pictureId;
    const at = this.ordered.findIndex((each) => each.pictureId === from);
    const next = this.ordered[(at + by + this.ordered.length) % this.ordered.length];
    if (next) this.show(next.pictureId);
  }
  /** Another picture lies on the table: nothing that was begun on the one before goes on. */
  changed(): void {
    this.edits.leave();
    this.line = this.movedLine = null;
    this.highlighted = this.repeating = this.unsaid = null;
    this.guiding.lit = null;
    this.frame = 0;
    this.histogram = null;
    this.markers.forget();
    this.asStored = false;
    this.thenNow.forget();
    this.guiding.changed();
    const { current } = this.round;
    if (current && current.pictureId === this.picture?.pictureId) this.lookAt(current);
    if (!this.places.several) this.places.where = null;
  }

  /** The look on the stage. */
  readonly shownLook: Look = $derived.by(() => (this.asStored ? { steps: [] } : this.edits.look));
  /** The look of one that lies beside it: while a window is dragged for all, with as much of a change. */
  lookBeside(beside: PictureView): Look {
    const own = lookOf(beside);
    return this.places.windowsLinked && this.picture?.visitId === beside.visitId
      ? this.places.followed(lookOf(this.picture), this.edits.look, own)
      : own;
  }
  /** Keeps a look, and gives those beside it the same change of window where they are linked. */
  private setLook(look: Look, done: boolean): void {
    if (done && this.places.windowsLinked) {
      const before = lookOf(this.picture!);
      for (const each of this.places.pictures) {
        if (!each || each.pictureId === this.picture!.pictureId || each.visitId !== this.picture!.visitId)
          continue;
        const body = this.places.followed(before, look, lookOf(each));
        void this.store.act(
          each.pictureId,
          [{ kind: 'look', item: null, body }],
          'Window of those beside it'
        );
      }
    }
    this.edits.setLook(look, done);
  }
  /** Pictures of the visit that are of the same kind as this one. */
  readonly sameKind: PictureView[] = $derived.by(() =>
    this.ordered.filter(
      ({ pictureId, kind }) => pictureId !== this.picture?.pictureId && kind === this.picture?.kind
    )
  );
  /** Gives the look of this picture to those, each in values of its own. */
  giveLookTo(others: readonly PictureView[]): boolean {
    const own = ownLookOf(this.edits.look, this.picture!.firstLook);
    if (!own) return false;
    for (const { pictureId, firstLook } of others)
      void this.store.act(
        pictureId,
        [{ kind: 'look', item: null, body: withOwnLook(own, firstLook) }],
        'Look'
      );
    return true;
  }
  /** More of the picture has come to the stage: what its values are like is known now. */
  async lookAtValues(): Promise<void> {
    const { picture, frame } = this;
    if (!picture) return;
    const found = await thePainter().values(shapeOf(picture), frame, histogramBins);
    if (found && this.picture?.pictureId === picture.pictureId) this.histogram = found;
  }

  /** Opens what lies beside the picture for earlier ones of the same place, or closes it. */
  showThen(): void {
    if (this.thenNow.open) return this.thenNow.close();
    this.room = 'shared';
    void this.thenNow.show();
  }
  /** The scale that a guide's plumb line gives, where the clinic has one and the picture has no scale yet. */
  readonly plumbScale: LongGiven | null = $derived.by(() => {
    const { view, points } = this.guiding;
    const [a, b] = (view?.vertical ?? []).map((key) => points[key]);
    const known = ((page.data.markers ?? []) as ClinicMarker[]).filter(({ shape }) => shape === 'plumb line');
    if (!a || !b || known.length !== 1 || this.edits.scale) return null;
    const [{ name, sizeMm, toleranceMm }] = known;
    return {
      from: 'long marker',
      name,
      knownMm: sizeMm,
      toleranceMm,
      ends: [{ ...a }, { ...b }],
      aspect: this.edits.aspect
    };
  });
  /** Takes a guide up: what it asks for stands beside the picture. */
  startGuide(fit: FittingGuide): void {
    this.panel = 'guide';
    this.room = 'shared';
    this.guiding.start(fit);
  }

  /** Lays what waits for a clinician on the table, with what it says beside it. */
  lookAt({ pictureId, set, items }: Waiting): void {
    if (this.picture?.pictureId !== pictureId) return this.show(pictureId);
    this.room = 'shared';
    const doing = this.guiding.here.find((each) => each.set === set);
    this.panel = doing ? 'guide' : 'station';
    if (doing) this.guiding.rest(doing);
    else this.highlighted = items[0].item.id;
  }
  /**
   * Confirms what is looked at in the round; begins the round where nobody is in it. Nothing is confirmed that does not
   * lie on the table.
   */
  roundOn(): void {
    const { current, on } = this.round;
    if (!on) this.round.begin();
    else if (current && current.pictureId !== this.picture?.pictureId) this.lookAt(current);
    else this.round.confirm();
  }

  /** Lays the guides open, or the readings again. */
  showGuide(): void {
    this.panel = this.panel === 'guide' && this.room === 'shared' ? 'station' : 'guide';
    this.room = 'shared';
  }
  /** Lays the look's panel open, or the station's again. */
  showLook(): void {
    this.panel = this.panel === 'look' && this.room === 'shared' ? 'station' : 'look';
    this.room = 'shared';
  }
  /** Gives the picture that much room, or what it had before. */
  widen(room: 'wide' | 'whole'): void {
    this.room = this.room === room ? 'shared' : room;
  }

  readonly name = $derived.by(() => (this.picture ? pictureName(this.picture) : ''));
  readonly drawings: ShownDrawing[] = $derived.by(() => {
    const { readings } = this.edits;
    const items = readings
      .filter(({ item, note }) => !note.hidden && !this.guiding.hides(item))
      .map((reading): ShownDrawing => {
        const { id, kind, body } = reading.item;
        const greys = greysInShort(this.greysOf(reading.item));
        // What is done at present stands beside the picture.
        const own = id === this.guiding.set?.set ? '' : wordsOf(reading, this.notation, language());
        const words = [own, greys].filter(Boolean).join(', ');
        return { id, kind, body, words };
      });
    const proposed = this.markers.proposals.map((each): ShownDrawing => ({
      id: each.id,
      kind: 'scale',
      body: givenBy(each, each.markers[0], this.edits.aspect),
      words: ''
    }));
    const scale = this.scaleDrawn();
    const words = isMarker(scale) ? scale.name : 'known length';
    return [
      ...items,
      ...proposed,
      ...(scale ? [{ id: scaleId, kind: 'scale' as const, body: scale, words }] : [])
    ];
  });

  greysOf(item: PictureItem): GreysState | null {
    return this.greys.of(this.picture!, this.frame, item);
  }

  private scaleDrawn(): ScaleGiven | null {
    if (!this.station.showsScale) return null;
    const points = this.movedLine ?? this.line;
    const { scale } = this.edits.layers;
    if (!points) return scale?.from === 'picture' ? null : scale;
    const unknown: ScaleGiven = {
      from: 'line',
      ends: [points[0], points[1]],
      knownMm: 1,
      knownUncertaintyMm: 0,
      aspect: this.edits.aspect
    };
    return unknown;
  }

  /** What the stage shows becomes a picture of its own, at once. @returns whether it shows anything of the picture */
  keepView(view: View, stage: Stage): boolean {
    const window = shownWindow(view, stage);
    if (!window || !this.picture) return false;
    const standing = keptOf(this.store.pictures);
    const drawings = drawingsToKeep(this.edits.readings, this.edits.aspect, (reading) =>
      wordsOf(reading, this.notation, language())
    );
    const body: KeptView = {
      name: '',
      kind: this.edits.readings.some(({ item }) => isReading(item.kind)) ? 'measured' : 'detail',
      remark: '',
      keptAt: new Date().toISOString(),
      frame: this.frame,
      window,
      orientation: this.edits.orientation,
      look: this.shownLook,
      drawings,
      drawn: drawings.length > 0,
      place: placeBetween(standing.at(-1)?.kept.place, undefined)
    };
    const item = crypto.randomUUID();
    void this.store.act(this.picture.pictureId, [{ kind: 'kept', item, body }], 'Keeping a view');
    return true;
  }

  setGrade(body: Graded): void {
    void this.store.act(this.picture!.pictureId, [{ kind: 'grade', item: null, body }], 'Grade');
  }
  /** Reasons go with what serves less than it should. */
  grade(grade: Grade): void {
    if (!this.may.changePictures || !this.picture) return;
    const reasons = grade === 'diagnostic' ? [] : (this.picture.layers.grade?.reasons ?? []);
    this.setGrade({ grade, reasons });
  }
  addFinding(body: Finding): void {
    const item = crypto.randomUUID();
    void this.store.act(this.picture!.pictureId, [{ kind: 'finding', item, body }], 'Finding');
  }
  dropFinding(item: string): void {
    void this.store.act(
      this.picture!.pictureId,
      [{ kind: 'finding', item, body: null }],
      'Finding taken off'
    );
  }
  /** What was wrong about a picture, in one act; null for what was right. */
  putRight({ taken, about, places, slot }: PutRight): void {
    const { pictureId, trayId } = this.picture!;
    const changes: LayerChange[] = [
      ...(taken ? [{ kind: 'taken' as const, item: null, body: { at: taken } }] : []),
      ...(about ? [{ kind: 'about' as const, item: null, body: about }] : [])
    ];
    if (changes.length > 0) void this.store.act(pictureId, changes, 'Putting right');
    if (places) void this.store.link([{ pictureId, places: [...places] }]);
    if (!slot) return;
    const [toTray, slotId] = slot === 'bench' ? [trayId!, null] : slot.split(' ');
    void this.store.wish(toTray, { kind: 'take-moved', takeId: pictureId, slotId }, 'Moving a take');
  }

  /** What a tool did on the stage. */
  deed(deed: Exclude<Deed, { kind: 'view' }>): void {
    if (deed.kind === 'left') {
      this.movedLine = null;
      this.edits.leave();
    } else if (!this.may.changePictures) return;
    else if (deed.kind === 'look') this.setLook(deed.look, deed.done);
    else if (deed.kind === 'placed') this.placed(deed.points);
    else if (deed.id === scaleId) this.movedScale(deed.points, deed.done);
    else if (this.markers.has(deed.id)) this.markers.move(deed.id, deed.points, this.edits.aspect);
    else {
      const item = this.picture!.layers.items.find(
        ({ id, kind }) => id === deed.id && layerKindOf(kind).placed
      );
      if (item) this.edits.move(item, deed.points, deed.done);
    }
  }

  private placed(points: PlacedPoint[]): void {
    const { makes } = this.tool;
    if (makes === 'known circle') {
      this.markers.drawn(points, this.roundMarkers);
      this.takeUp('window');
    } else if (makes === 'level line') {
      this.edits.straighten(points[0], points[1]);
      this.takeUp('window');
    } else if (makes === 'crop') {
      if (!this.edits.crop(points[0], points[1]))
        toast.warning('That is too little to be seen.', {
          description: `Draw over at least ${leastCropPx} pixels of the picture each way.`
        });
      this.takeUp('window');
    } else if (makes === 'guide') {
      this.guiding.place(points[0]);
    } else if (makes === 'known length') {
      this.line = points;
      this.takeUp('window');
    } else if (makes === 'text' || makes === 'label') {
      this.unsaid = { kind: makes, at: points[0] };
      // What is asked now stands beside the picture.
      this.room = 'shared';
    } else if (makes) {
      const body = layerKindOf(makes).placed!.made!(points);
      this.highlighted = this.edits.add(makes, body, this.repeating);
      this.repeating = null;
    }
  }
  /** The words, or the place, of what was pointed at last. */
  say(said: { words: string } | { place: Place }): void {
    if (!this.unsaid) return;
    const { kind, at } = this.unsaid;
    this.highlighted = this.edits.add(kind, { at, ...said });
    this.unsaid = null;
  }

  private movedScale(points: PlacedPoint[], done: boolean): void {
    const { scale } = this.picture!.layers;
    if (this.line || !scale) {
      this.movedLine = done ? null : points;
      if (done) this.line = points;
      return;
    }
    const body = scaleLayer.placed!.withPoints(scale, points);
    if (done) this.edits.setScale(body);
    else this.edits.drag({ kind: 'scale', item: null, body });
  }

  /** Whether a marker can lie at another height than what is measured: not where both lie on the sensor in a mouth. */
  readonly boneMayLieElsewhere: boolean = $derived.by(() => {
    const { picture } = this;
    if (picture?.kind !== 'radiograph') return false;
    const places = placesOf(picture);
    const inMouth = places.every(({ kind }) => kind === 'tooth' || kind === 'animal tooth');
    return places.length === 0 || !inMouth;
  });
  /** Says how far from the marker the bone lies; null for nobody having said it. */
  sayBone(bone: BoneHeight | null): void {
    const { scale } = this.edits.layers;
    if (!isMarker(scale)) return;
    const { bone: _, ...rest } = scale;
    this.edits.setScale(bone ? { ...rest, bone } : rest);
  }

  /** Pictures of the visit that the scale given here may hold for: from the same device, at the same size, with none given. */
  readonly alike: PictureView[] = $derived.by(() => {
    const { picture } = this;
    const given = picture?.layers.scale;
    if (!picture || !given || given.from === 'picture') return [];
    return this.ordered.filter(
      (each) =>
        each.pictureId !== picture.pictureId &&
        each.source === 'device' &&
        each.from === picture.from &&
        each.layers.scale === null &&
        each.width * each.height === picture.width * picture.height
    );
  });
  giveScaleTo(others: readonly PictureView[]): void {
    const body = takenOver(this.edits.scale!, this.picture!.pictureId, this.name);
    for (const { pictureId } of others)
      void this.store.act(pictureId, [{ kind: 'scale', item: null, body }], 'Scale');
  }

  /** Uses the drawn line as so many millimetres. */
  useLine(knownMm: number, knownUncertaintyMm: number): void {
    const points = this.line!;
    this.edits.setScale({
      from: 'line',
      ends: [points[0], points[1]],
      knownMm,
      knownUncertaintyMm,
      aspect: this.edits.aspect
    });
    this.line = null;
  }
}
