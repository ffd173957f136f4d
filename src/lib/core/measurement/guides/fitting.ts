import type { Place } from '../../anatomy/place';
import type { Projection } from '../../anatomy/projections';
import { guides } from './all';
import type { Guide } from './guide';

/** What a picture shows, as far as is known. */
export interface Shows {
  places: readonly Place[];
  projection: Projection | null;
}

/** Of each guide, which of its views a picture may be; null for none. */
type Fit = (shows: Shows) => string | null;

const bone =
  (
    whose: 'person' | 'animal',
    regions: readonly string[],
    view: (projection: Projection | null) => string | null
  ): Fit =>
  ({ places, projection }) =>
    places.some((place) => place.kind === 'bone' && place.whose === whose && regions.includes(place.region))
      ? view(projection)
      : null;
const fromFront = (key: string) => (projection: Projection | null) =>
  projection === 'from the side' ? null : key;
const fromSide = (key: string) => (projection: Projection | null) =>
  projection === 'from the side' || projection === null ? key : null;
const tooth =
  (views: readonly Projection[]): Fit =>
  ({ places, projection }) =>
    places.some(({ kind }) => kind === 'tooth') && projection !== null && views.includes(projection)
      ? 'tooth'
      : null;
const photograph =
  (views: Readonly<Record<string, string>>): Fit =>
  ({ places }) => {
    for (const place of places)
      if (place.kind === 'photograph' && views[place.view]) return views[place.view];
    return null;
  };
const spine =
  (regions: readonly string[], view: (projection: Projection | null) => string | null): Fit =>
  ({ places, projection }) =>
    places.some((place) => place.kind === 'spine' && regions.includes(place.region))
      ? view(projection)
      : null;

const chestOfAnimal =
  (views: { side: string; other?: string }): Fit =>
  ({ places, projection }) => {
    const isChest = places.some(
      (place) => place.kind === 'trunk' && place.region === 'chest' && place.whose === 'animal'
    );
    if (!isChest || projection === null) return null;
    return (projection === 'from the side' ? views.side : views.other) ?? null;
  };
/** Upper premolars and molars, under the sinus. */
const isUpperBack = (tooth: number) => [1, 2].includes(Math.floor(tooth / 10)) && tooth % 10 >= 4;

const fits: Readonly<Record<string, Fit>> = {
  'working-length': tooth(['periapical']),
  'crestal-bone': tooth(['bitewing', 'periapical']),
  'caries-depth': tooth(['bitewing', 'periapical']),
  'sinus-height': ({ places, projection }) =>
    projection === 'periapical' && places.some((place) => place.kind === 'tooth' && isUpperBack(place.tooth))
      ? 'site'
      : null,
  'implant-site': ({ places, projection }) =>
    projection === 'periapical' && places.some(({ kind }) => kind === 'tooth') ? 'site' : null,
  'leg-length': bone('person', ['whole leg'], fromFront('standing')),
  'leg-axes': bone('person', ['whole leg'], fromFront('standing')),
  'hip-roof': bone('person', ['pelvis', 'hip'], fromFront('front')),
  'knee-cap': bone('person', ['knee'], fromSide('side')),
  'heel-bone': bone('person', ['foot', 'ankle'], fromSide('side')),
  'great-toe': bone('person', ['foot'], fromFront('above')),
  'distal-radius': bone('person', ['wrist', 'hand'], (projection) =>
    projection === 'from the side' ? 'side' : 'front'
  ),
  'spine-curve': spine(['whole', 'chest', 'loin', 'chest and loin'], fromFront('front')),
  'spine-balance': spine(['whole'], fromFront('front')),
  'neck-curve': spine(['neck'], fromSide('neutral')),
  'pelvis-side': spine(['whole', 'loin', 'loin and pelvis'], fromSide('side')),
  posture: photograph({
    'posture from the front': 'front',
    'posture from the right': 'right',
    'posture from the left': 'left'
  }),
  'hip-cover': bone('animal', ['hip', 'pelvis'], fromFront('below')),
  'heart-score': chestOfAnimal({ side: 'side' }),
  'heart-score-cat': chestOfAnimal({ side: 'side' }),
  'chest-shape': chestOfAnimal({ side: 'side', other: 'above' }),
  'knee-cap-dog': ({ places, projection }) =>
    bone('animal', ['stifle'], fromSide('side'))({ places, projection }) ??
    bone('animal', ['femur'], fromFront('front'))({ places, projection }),
  'elbow-fit': bone('animal', ['elbow'], fromSide('side')),
  hoof: bone('animal', ['fore foot', 'hind foot'], fromSide('side')),
  'plateau-angle': bone('animal', ['stifle'], fromSide('side')),
  'eye-widths': ({ places }) => (places.some(({ kind }) => kind === 'eye') ? 'eye' : null)
};

export interface FittingGuide {
  guide: Guide;
  view: string;
}

/** Guides that a picture is made for, with the view that it is. */
export const fittingGuides = (shows: Shows): FittingGuide[] =>
  guides.flatMap((guide) => {
    const view = fits[guide.key]?.(shows);
    return view ? [{ guide, view }] : [];
  });

/** The trade that a picture belongs to by its places; null where they do not tell. */
export function tradeOf(places: readonly Place[]): Guide['trade'] | null {
  const [first] = places;
  if (!first) return null;
  if ('whose' in first) return first.whose === 'animal' ? 'animals' : 'bones';
  switch (first.kind) {
    case 'tooth':
      return 'teeth';
    case 'animal tooth':
      return 'animals';
    case 'eye':
      return 'eyes';
    default:
      return null;
  }
}
