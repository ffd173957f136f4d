import { type GuideResult, type PlacedView, evaluated } from '../measurement/guides/evaluate';
import type { Formula, Guide } from '../measurement/guides/guide';
import type { Unit } from '../measurement/measured';
import { type Spread, spreadOf } from '../measurement/repeated';
import { type Orientation, type Size, toOriented } from '../raster/orientation';
import { type GuidePoints, guideDone } from './layers/guide/guide';
import { type PictureItem, type PictureLayers, scaleInUse } from './pictureLayers';
import { type PictureView, aspectOf } from './pictureView';

/** One view of a guide that was done: on which picture. */
export interface GuideOn {
  picture: PictureView;
  item: PictureItem;
  body: GuidePoints;
}

/** One doing of a guide over all the pictures it lies on. */
export interface GuideSet {
  set: string;
  guide: Guide;
  /** Whether the guide was another version when it was done. */
  changed: boolean;
  /** By the view's key. */
  views: Map<string, GuideOn>;
  results: GuideResult[];
}

/** A picture with what is on it, as it is worked on at present. */
export interface PictureNow {
  picture: PictureView;
  layers: PictureLayers;
}

/** All doings of guides on some pictures that this program has, the newest last. */
export function guideSetsOf(pictures: readonly PictureNow[]): GuideSet[] {
  const sets = new Map<string, GuideSet>();
  const placed = new Map<string, Record<string, PlacedView>>();
  for (const { picture, layers } of pictures)
    for (const item of layers.items) {
      if (item.kind !== 'guide') continue;
      const body = item.body as GuidePoints;
      const guide = guideDone(body);
      if (!guide) continue;
      const set = sets.get(body.set) ?? {
        set: body.set,
        guide,
        changed: false,
        views: new Map<string, GuideOn>(),
        results: []
      };
      // Views may be of several versions: it is measured by the newest of them.
      const newest = guide.version > set.guide.version ? guide : set.guide;
      const changed = set.changed || newest.version !== body.version || newest !== set.guide;
      sets.set(body.set, { ...set, guide: newest, changed });
      set.views.set(body.view, { picture, item, body });
      placed.set(body.set, {
        ...placed.get(body.set),
        [body.view]: placedView({ picture, layers }, body)
      });
    }
  return [...sets.values()].map((set) => ({ ...set, results: evaluated(set.guide, placed.get(set.set)!) }));
}

/**
 * Landmarks as they are seen, in widths of a pixel: what is left, right and down is the picture's as it stands, and a
 * mirrored one contradicts itself as it would for a person.
 */
function placedView({ picture, layers }: PictureNow, { points }: GuidePoints): PlacedView {
  const size: Size = {
    width: picture.width,
    height: picture.height,
    pixelAspect: aspectOf({ ...picture, layers })
  };
  const orientation: Orientation = layers.orientation ?? picture.firstOrientation;
  const scale = scaleInUse(layers, picture.fileScale);
  return {
    points: Object.fromEntries(
      Object.entries(points).map(([key, { x, y, uncertaintyPx }]) => [
        key,
        { ...toOriented({ x, y }, size, orientation), uncertaintyPx }
      ])
    ),
    scale: scale && { ...scale, mmPerPixelY: scale.mmPerPixelX }
  };
}

/** How far several doings of one guide on the same pictures lie apart. */
export interface GuideSpread {
  guide: Guide;
  count: number;
  results: { formula: Formula; unit: Unit; spread: Spread }[];
  /** Root mean square distance of each landmark from the mean of its places, in image pixels (n - 1), the widest first. */
  landmarks: { view: string; key: string; name: string; deviationPx: number }[];
}

/** The spread of every guide that was done more than once on the same picture, by whomever. */
export function guideSpreads(sets: readonly GuideSet[]): GuideSpread[] {
  const alike = new Map<string, GuideSet[]>();
  for (const set of sets)
    for (const [view, { picture }] of set.views) {
      const key = `${set.guide.key} ${view} ${picture.pictureId}`;
      alike.set(key, [...(alike.get(key) ?? []), set]);
    }
  const done = new Map<string, GuideSet[]>();
  for (const several of alike.values()) {
    if (several.length < 2) continue;
    const { key } = several[0].guide;
    done.set(key, [...new Set([...(done.get(key) ?? []), ...several])]);
  }
  return [...done.values()].map((several) => {
    const [{ guide }] = several;
    const results = several[0].results.flatMap(({ formula }) => {
      const values = several.flatMap((set) => {
        const result = set.results.find((each) => each.formula.key === formula.key);
        return result?.outcome === 'value' ? [result.value] : [];
      });
      // Pixels and millimetres are not compared.
      const same = values.filter(({ unit }) => unit === values[0].unit).map(({ value }) => value);
      const spread = spreadOf(same);
      return spread ? [{ formula, unit: values[0].unit, spread }] : [];
    });
    const landmarks = guide.views.flatMap((view) =>
      view.landmarks.flatMap(({ key, name }) => {
        const places = several.flatMap((set) => set.views.get(view.key)?.body.points[key] ?? []);
        const [x, y] = [spreadOf(places.map((each) => each.x)), spreadOf(places.map((each) => each.y))];
        if (!x || !y) return [];
        return [
          { view: view.key, key, name, deviationPx: Math.hypot(x.standardDeviation, y.standardDeviation) }
        ];
      })
    );
    return {
      guide,
      count: several.length,
      results,
      landmarks: landmarks.toSorted((a, b) => b.deviationPx - a.deviationPx)
    };
  });
}
