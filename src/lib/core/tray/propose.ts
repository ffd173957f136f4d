import { type Place, placeKey, placeWords } from '../anatomy/place';
import { type Projection, imagingOf } from '../anatomy/projections';
import {
  type Tooth,
  deciduousLowerArch,
  deciduousUpperArch,
  lowerArch,
  toothKind,
  toothName,
  toothParts,
  upperArch
} from '../anatomy/teeth';
import { type AnimalTooth, animalArch, animalToothKind, animalToothName } from '../anatomy/animalTeeth';
import { animalTeethView } from './shipped/animalMouths';
import { bitewing, occlusal, periapical } from './shipped/oral';
import { shippedPatterns } from './shipped/shipped';
import type { Slot } from './slot';

/** A slot that was asked for on the spot, before it has an id and a place on the tray. */
export type ProposedSlot = Omit<Slot, 'id' | 'at'>;

/** So many teeth side by side fit on a sensor. */
const mostTeeth = { front: 4, back: 3 };

const nowhere = { id: '', at: { x: 0.5, y: 0.5 } };
const withoutPlace = ({ id: _, at: __, ...rest }: Slot): ProposedSlot => rest;

/** Neighbours along an arch, front teeth and back teeth apart, no more together than one view shows. */
function alongArch(
  arch: readonly number[],
  wanted: ReadonlySet<number>,
  isFront: (tooth: number) => boolean
): number[][] {
  const groups: number[][] = [];
  let last = -2;
  for (const [i, tooth] of arch.entries()) {
    if (!wanted.has(tooth)) continue;
    const group = groups.at(-1);
    const front = isFront(tooth);
    const joins = group && last === i - 1 && isFront(group[0]) === front;
    if (joins && group.length < mostTeeth[front ? 'front' : 'back']) group.push(tooth);
    else groups.push([tooth]);
    last = i;
  }
  return groups;
}

const capital = (words: string): string => words[0].toUpperCase() + words.slice(1);

/** "Lower left first molar", "Lower left premolars", "Upper incisors": what a view of these teeth is called. */
function nameOfTeeth(names: readonly string[], kinds: ReadonlySet<string>): string {
  if (names.length === 1) return capital(names[0]);
  const where = names.map((name) => name.split(' ').slice(0, 2));
  const [jaw, side] = where[0];
  const oneSide = where.every(([, each]) => each === side);
  const what = kinds.size === 1 ? `${[...kinds][0]}s` : 'teeth';
  return capital(`${jaw} ${oneSide ? `${side} ` : ''}${what}`);
}

function toothViews(teeth: readonly Tooth[]): ProposedSlot[] {
  const wanted = new Set<number>(teeth);
  return [upperArch, lowerArch, deciduousUpperArch, deciduousLowerArch].flatMap((arch) =>
    alongArch(arch, wanted, (tooth) => ['incisor', 'canine'].includes(toothKind(tooth))).map((group) => {
      const name = nameOfTeeth(group.map(toothName), new Set(group.map(toothKind)));
      return withoutPlace(periapical({ ...nowhere, name, teeth: group }));
    })
  );
}

function animalTeethViews(places: readonly Extract<Place, { kind: 'animal tooth' }>[]): ProposedSlot[] {
  const species = [...new Set(places.map((place) => place.species))];
  return species.flatMap((each) => {
    const teeth = new Set(places.filter((place) => place.species === each).map(({ tooth }) => tooth));
    const isFront = (tooth: AnimalTooth) => ['incisor', 'canine'].includes(animalToothKind(tooth));
    return (['upper', 'lower'] as const).flatMap((jaw) =>
      alongArch(animalArch(each, jaw), teeth, isFront).map((group) => {
        const name = nameOfTeeth(group.map(animalToothName), new Set(group.map(animalToothKind)));
        return withoutPlace(animalTeethView(each, ['', name, group], nowhere.at));
      })
    );
  });
}

/** The views that are usual of a place, as the patterns that ship have them; one from the front where they have none. */
function usualViews(place: Place): ProposedSlot[] {
  const key = placeKey(place);
  for (const { pattern } of shippedPatterns) {
    const own = pattern.slots.filter(({ places }) => places.length === 1 && placeKey(places[0]) === key);
    if (own.length > 0) return own.map(withoutPlace);
  }
  return [
    {
      name: `${capital(placeWords(place, 'fdi'))}, from the front`,
      places: [place],
      projection: 'front to back',
      orientation: { quarterTurns: 0, mirrored: false },
      directions: ['L', 'F'],
      shape: 'standing'
    }
  ];
}

/**
 * The views that show these places, as one would take them: neighbouring teeth together as far as a sensor reaches,
 * bones and joints in their usual two or three. To be changed by whoever asked.
 */
export function proposedSlots(places: readonly Place[]): ProposedSlot[] {
  const teeth = places.flatMap((place) => (place.kind === 'tooth' ? [place.tooth] : []));
  const animal = places.flatMap((place) => (place.kind === 'animal tooth' ? [place] : []));
  const others = places.filter((place) => place.kind !== 'tooth' && place.kind !== 'animal tooth');
  return [...toothViews(teeth), ...animalTeethViews(animal), ...others.flatMap(usualViews)];
}

/** The projections in which a proposed slot could be taken as well. */
export function projectionsFor({ places, projection }: ProposedSlot): Projection[] {
  if (places.every((place) => place.kind === 'tooth')) return ['periapical', 'bitewing', 'occlusal'];
  if (places.every((place) => place.kind === 'animal tooth')) return ['periapical', 'occlusal'];
  if (imagingOf(projection) !== 'radiograph' || projection === 'panoramic') return [projection];
  return ['front to back', 'back to front', 'from the side', 'oblique', 'axial'];
}

/** The teeth that bite on these, for a bitewing: upper 16 on lower 46. */
function withOpposite(teeth: readonly Tooth[]): Tooth[] {
  const opposite = [4, 3, 2, 1];
  const known = new Set<number>([...upperArch, ...lowerArch, ...deciduousUpperArch, ...deciduousLowerArch]);
  const all = teeth.flatMap((tooth) => {
    const { quadrant, place, deciduous } = toothParts(tooth);
    return [tooth, (opposite[quadrant - 1] + (deciduous ? 4 : 0)) * 10 + place];
  });
  return [...new Set(all)].filter((tooth) => known.has(tooth));
}

/** The same slot taken otherwise: the sensor lies as it has to for that, a bitewing shows both jaws. */
export function takenAs(slot: ProposedSlot, projection: Projection): ProposedSlot {
  if (slot.projection === projection) return slot;
  const teeth = slot.places.flatMap((place) => (place.kind === 'tooth' ? [place.tooth] : []));
  const view = { ...nowhere, name: slot.name, teeth };
  if (teeth.length > 0 && projection === 'bitewing')
    return withoutPlace(
      bitewing({
        ...view,
        name: slot.name.replace(/^(Upper|Lower) (\w)/, (_, __, first) => first.toUpperCase()),
        teeth: withOpposite(teeth)
      })
    );
  if (teeth.length > 0 && projection === 'periapical') return withoutPlace(periapical(view));
  if (teeth.length > 0 && projection === 'occlusal') return withoutPlace(occlusal(view));
  return { ...slot, projection };
}

/** A take that shows less of a slot's places is not of that slot. */
const leastShare = 0.5;

/** Which take of the bench belongs into which empty slot, by the places it was linked to: each take and slot once. */
export function filledByAnatomy(
  takes: readonly { takeId: string; places: readonly Place[] }[],
  empty: readonly Slot[]
): { takeId: string; slotId: string }[] {
  const left = [...empty];
  return takes.flatMap(({ takeId, places }) => {
    const keys = new Set(places.map(placeKey));
    if (keys.size === 0) return [];
    const shared = (slot: Slot) => slot.places.filter((place) => keys.has(placeKey(place))).length;
    const [best] = [...left]
      .filter((slot) => shared(slot) >= leastShare * slot.places.length)
      .sort((a, b) => shared(b) / b.places.length - shared(a) / a.places.length || shared(b) - shared(a));
    if (!best) return [];
    left.splice(left.indexOf(best), 1);
    return [{ takeId, slotId: best.id }];
  });
}
