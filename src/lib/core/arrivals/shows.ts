import { type Place, placeCodes, placeKey, placeWords } from '../anatomy/place';
import { bonesOf, isPaired } from '../anatomy/places/bone';
import { spineRegions } from '../anatomy/places/spine';
import type { Side } from '../anatomy/side';
import { isTooth } from '../anatomy/teeth';
import { foldedName } from '../people/names';
import type { Says } from './says';

/** What a picture seems to show, for a person to take or put right. */
export interface Shown {
  /** What the view is called: "right wrist, from the side"; empty where nothing is known. */
  name: string;
  places: Place[];
  /** Where that is known from, in words. */
  why: string[];
  /** What is missing of it: which side. */
  lacks: 'side' | null;
}

/** Words by which people and machines name a region, folded; the first that stands in a text is taken. */
const regionWords: readonly (readonly [RegExp, string])[] = [
  [/\b(pan|pano|panoramic|opg|opt|orthopantomogra\w*)\b/, 'wide:panoramic'],
  [/\b(ceph\w*|cefalo\w*)\b/, 'wide:skull from the side'],
  [/\b(c[ -]?spine|cspine|cervical|neck|hws)\b/, 'spine:neck'],
  [/\b(tl[ -]?spine|thoracolumbar|thoraco-lumbar)\b/, 'spine:chest and loin'],
  [/\b(t[ -]?spine|tspine|thoracic spine|bws)\b/, 'spine:chest'],
  [/\b(ls[ -]?spine|lumbosacral|lumbo-sacral)\b/, 'spine:loin and pelvis'],
  [/\b(l[ -]?spine|lspine|lumbar|lws)\b/, 'spine:loin'],
  [/\b(whole spine|spine|scoliosis)\b/, 'spine:whole'],
  [/\b(chest|thorax|cxr|lungs?)\b/, 'trunk:chest'],
  [/\b(abdomen|belly|abd)\b/, 'trunk:belly'],
  [/\b(finger|thumb|digit)s?\b/, 'bone:finger'],
  [/\b(wrists?|carpal|radius distal|distal radius)\b/, 'bone:wrist'],
  [/\b(carpus)\b/, 'bone:carpus'],
  [/\b(tarsus|hock)\b/, 'bone:tarsus'],
  [/\bhands?\b/, 'bone:hand'],
  [/\b(forearm|radius|ulna)\b/, 'bone:forearm'],
  [/\belbows?\b/, 'bone:elbow'],
  [/\b(upper ?arm|humerus)\b/, 'bone:upper arm'],
  [/\bshoulders?\b/, 'bone:shoulder'],
  [/\b(clavicle|collar ?bone)\b/, 'bone:clavicle'],
  [/\bpelvis\b/, 'bone:pelvis'],
  [/\bhips?\b/, 'bone:hip'],
  [/\b(femur|thigh)\b/, 'bone:femur'],
  [/\bstifles?\b/, 'bone:stifle'],
  [/\b(knees?|patella)\b/, 'bone:knee'],
  [/\b(whole leg|both legs|leg length|lower extremity)\b/, 'bone:whole leg'],
  [/\b(lower ?leg|tibia|fibula|(?<!(fore|front|hind|back) )leg)\b/, 'bone:lower leg'],
  [/\b(ankles?)\b/, 'bone:ankle'],
  [/\b(hind fetlock)s?\b/, 'bone:hind fetlock'],
  [/\b(fore fetlock|fetlock)s?\b/, 'bone:fore fetlock'],
  [/\b(hind foot|hind hoof)\b/, 'bone:hind foot'],
  [/\b(fore foot|fore hoof|hoof)\b/, 'bone:fore foot'],
  [/\b(foot|feet|calcaneus|heel)\b/, 'bone:foot'],
  [/\b(skull|cranium)\b/, 'bone:skull'],
  [/\b(cornea\w*|topograph\w*|eyes?)\b/, 'eye']
];

const viewWords: readonly (readonly [RegExp, string])[] = [
  [/\b(lat|lateral|ll|rl|side|ml|lm|profile)\b/, 'from the side'],
  [/\b(ap|pa|front|frontal|dp|dv|vd)\b/, 'from the front'],
  [/\b(obl|oblique|lo|rao|lao|rpo|lpo)\b/, 'oblique'],
  [/\b(axial|ax|skyline|sunrise)\b/, 'axial']
];

/**
 * What a picture shows, from its header first, then its descriptions, then its file's name, then what its neighbours in
 * the same series say. Nothing is guessed where two of these contradict each other about the side.
 * @param neighbours what the others say that came with it, for the side alone
 */
export function shownIn(says: Says, fileName: string, neighbours: readonly Says[] = []): Shown {
  const whose = says.person.species || says.person.owner ? 'animal' : 'person';
  const { shows, series, study } = says;
  const described = [series.description, shows.protocol, study.description].join(' · ');
  const texts = [
    { text: shows.bodyPart, why: 'the header' },
    { text: described, why: 'its description' },
    { text: fileName.replace(/\.[a-z0-9]{1,5}$/i, ''), why: 'the file’s name' }
  ].map(({ text, why }) => ({ text: plain(text), why }));
  const teeth = teethIn(shows.structures, texts.slice(1));
  const side = sideIn(says, texts, neighbours);
  const view = firstOf(viewWords, [{ text: plain(shows.view), why: '' }, ...texts.slice(1)])?.what ?? '';
  if (teeth.places.length > 0 && whose === 'person')
    return {
      name: named('', teeth.places, described) || plainName(series.description),
      places: teeth.places,
      why: [teeth.why],
      lacks: null
    };
  const coded = placeOfCode(shows.regionCode, whose, side?.side ?? null);
  const worded = firstOf(regionWords, texts);
  const what =
    coded ?? (worded ? { ...placeOfWord(worded.what, whose, side?.side ?? null), why: worded.why } : null);
  if (!what)
    return { name: plainName(series.description || shows.protocol), places: [], why: [], lacks: null };
  const why = [what.why, ...(side && what.place && side.why !== what.why ? [side.why] : [])];
  if (!what.place)
    return { name: `${what.words}${view && `, ${view}`}, side not said`, places: [], why, lacks: 'side' };
  return { name: named(view, [what.place], ''), places: [what.place], why, lacks: null };
}

const plain = (text: string): string =>
  foldedName(text)
    .replace(/[_.,;:/\\()[\]#+-]+/g, ' ')
    .replace(/\s+/g, ' ');
const plainName = (text: string): string => text.replaceAll('_', ' ').trim().slice(0, 80);

function named(view: string, places: readonly Place[], described: string): string {
  if (places[0].kind === 'tooth') {
    if (/bite ?wing|\bbw\b/i.test(described)) return 'Bitewing';
    return /periapical|\bpa\b/i.test(described) ? 'Periapical' : '';
  }
  const words = placeWords(places[0], 'fdi');
  return `${words.charAt(0).toUpperCase()}${words.slice(1)}${view && !words.includes('from the') ? `, ${view}` : ''}`;
}

interface Sourced {
  text: string;
  why: string;
}

function firstOf(
  list: readonly (readonly [RegExp, string])[],
  texts: readonly Sourced[]
): { what: string; why: string } | null {
  for (const { text, why } of texts)
    for (const [pattern, what] of list) if (pattern.test(text)) return { what, why };
  return null;
}

function teethIn(structures: readonly string[], texts: readonly Sourced[]): { places: Place[]; why: string } {
  const as = (numbers: number[]): Place[] =>
    [...new Set(numbers)].filter(isTooth).map((tooth): Place => ({ kind: 'tooth', tooth }));
  const coded = as(structures.map(Number).filter(Number.isInteger));
  if (coded.length > 0) return { places: coded, why: 'the header' };
  for (const { text, why } of texts) {
    const match = /\b(?:tooth|teeth|t)\s*((?:[1-8][1-8]\b[\s,&and-]*)+)/.exec(text);
    const places = match ? as((match[1].match(/\d\d/g) ?? []).map(Number)) : [];
    if (places.length > 0) return { places, why };
  }
  return { places: [], why: '' };
}

const sideWords: Record<string, Side> = {
  r: 'right',
  right: 'right',
  rt: 'right',
  l: 'left',
  left: 'left',
  lt: 'left',
  b: 'both',
  both: 'both',
  bilateral: 'both'
};
const eyeSides: Record<string, Side> = { od: 'right', os: 'left' };

/** The side that is said; null where none is, or where header and words contradict each other. */
function sideIn(
  says: Says,
  texts: readonly Sourced[],
  neighbours: readonly Says[]
): { side: Side; why: string } | null {
  const header = sideWords[plain(says.shows.laterality).trim()];
  const worded = texts.slice(1).flatMap(({ text, why }) =>
    text.split(' ').flatMap((word) => {
      const side =
        word.length > 1 || why === 'the file’s name' ? (sideWords[word] ?? eyeSides[word]) : undefined;
      return side ? [{ side, why }] : [];
    })
  );
  const all = new Set([...(header ? [header] : []), ...worded.map(({ side }) => side)]);
  if (all.size > 1) return null;
  if (header) return { side: header, why: 'the header' };
  if (worded.length > 0) return worded[0];
  const beside = new Set(
    neighbours
      .filter(({ shows }) => shows.bodyPart === says.shows.bodyPart)
      .flatMap(({ shows }) => sideWords[plain(shows.laterality).trim()] ?? [])
  );
  const [only] = beside;
  return beside.size === 1 ? { side: only, why: 'the pictures beside it' } : null;
}

interface Found {
  place: Place | null;
  words: string;
}

function placeOfWord(word: string, whose: 'person' | 'animal', side: Side | null): Found {
  const [kind, what] = word.split(':');
  if (kind === 'wide') return { place: { kind: 'wide view', view: what as 'panoramic' }, words: what };
  if (kind === 'spine') return { place: { kind: 'spine', region: what as 'neck', whose }, words: what };
  if (kind === 'trunk') return { place: { kind: 'trunk', region: what as 'chest', whose }, words: what };
  if (kind === 'eye')
    return { place: side && side !== 'both' ? { kind: 'eye', side, gaze: null } : null, words: 'Eye' };
  return boneOf(what, whose, side);
}

function boneOf(what: string, whose: 'person' | 'animal', side: Side | null): Found {
  const asked = whose === 'animal' && what === 'knee' ? 'stifle' : what;
  const words = `${asked.charAt(0).toUpperCase()}${asked.slice(1)}`;
  const region = bonesOf(whose === 'animal' ? 'animals' : 'people').find((each) => each === asked);
  if (!region) return { place: null, words };
  if (!isPaired(region)) return { place: { kind: 'bone', region, side: null, whose }, words };
  return { place: side ? { kind: 'bone', region, side, whose } : null, words };
}

/** A place by the code of its region, where one of ours has it. */
function placeOfCode(
  code: string,
  whose: 'person' | 'animal',
  side: Side | null
): (Found & { why: string }) | null {
  if (code === '') return null;
  const why = 'the header';
  const bones = bonesOf(whose === 'animal' ? 'animals' : 'people').map((region) =>
    boneOf(region, whose, side ?? 'right')
  );
  const others: Place[] = [
    ...spineRegions.map((region): Place => ({ kind: 'spine', region, whose })),
    { kind: 'trunk', region: 'chest', whose },
    { kind: 'trunk', region: 'belly', whose }
  ];
  const other = others.find((place) => placeCodes(place).region.value === code);
  if (other) return { place: other, words: placeKey(other), why };
  const bone = bones.find(({ place }) => place && placeCodes(place).region.value === code);
  if (!bone) return null;
  const paired = bone.place?.kind === 'bone' && bone.place.side !== null;
  return { ...bone, place: paired && !side ? null : bone.place, why };
}
