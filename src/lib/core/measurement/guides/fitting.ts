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

const fits: Readonly<Record<string, Fit>> = {
  'working-length': tooth(['periapical']),
  'crestal-bone': tooth(['bitewing', 'periapical']),
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
  'neck-curve': spine(['neck'], fromSide('neutral')),
  'pelvis-side': spine(['whole', 'loin', 'loin and pelvis'], fromSide('side')),
  posture: photograph({
    'posture from the front': 'front',
    'posture from the right': 'right',
    'posture from the left': 'left'
  }),
  'hip-cover': bone('animal', ['hip', 'pelvis'], fromFront('below')),
  'heart-score': ({ places, projection }) =>
    places.some((place) => place.kind === 'trunk' && place.region === 'chest' && place.whose === 'animal') &&
    projection === 'from the side'
      ? 'side'
      : null,
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
