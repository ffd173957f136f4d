import { type ToothedSpecies, animalArch, animalToothKind } from '../anatomy/animalTeeth';
import type { Place } from '../anatomy/place';
import {
  type ToothKind,
  deciduousLowerArch,
  deciduousUpperArch,
  lowerArch,
  toothKind,
  upperArch
} from '../anatomy/teeth';
import type { BodyDrawing, Spot } from './drawing';

const width = 400;
const height = 446;
const labelOut = 27;

interface Arch {
  radiusX: number;
  radiusY: number;
  /** From the middle of the drawing to where the arch's ends lie. */
  gap: number;
  sweepDeg: number;
}

type Sizes = Record<ToothKind, [number, number]>;

interface Mouth {
  arch: Arch;
  sizes: Sizes;
  /** How wide a place along the arch is at least: three digits have to stand beside one another. */
  leastRoom: number;
  labelOut: number;
}

const adult: Mouth = {
  arch: { radiusX: 142, radiusY: 168, gap: 34, sweepDeg: 86 },
  sizes: { incisor: [20, 15], canine: [20, 19], premolar: [22, 23], molar: [29, 29] },
  leastRoom: 0,
  labelOut
};
const child: Mouth = {
  arch: { radiusX: 118, radiusY: 134, gap: 40, sweepDeg: 84 },
  sizes: { incisor: [24, 18], canine: [24, 22], premolar: [30, 28], molar: [36, 34] },
  leastRoom: 0,
  labelOut: 31
};
/** Inside the permanent teeth of a mouth that has both: their names stand nearer to the middle. */
const shed: Mouth = {
  arch: { radiusX: 100, radiusY: 118, gap: 36, sweepDeg: 80 },
  sizes: { incisor: [17, 14], canine: [18, 17], premolar: [22, 21], molar: [25, 24] },
  leastRoom: 0,
  labelOut: -23
};
/** Muzzles are longer than they are wide; what stands for a size is how long the row is, not the animal. */
const animals: Record<ToothedSpecies, Mouth> = {
  dog: {
    arch: { radiusX: 124, radiusY: 178, gap: 24, sweepDeg: 89 },
    sizes: { incisor: [13, 14], canine: [18, 24], premolar: [20, 17], molar: [23, 21] },
    leastRoom: 22,
    labelOut: 28
  },
  cat: {
    arch: { radiusX: 126, radiusY: 158, gap: 30, sweepDeg: 88 },
    sizes: { incisor: [15, 14], canine: [22, 28], premolar: [28, 20], molar: [26, 20] },
    leastRoom: 27,
    labelOut: 30
  },
  horse: {
    arch: { radiusX: 122, radiusY: 178, gap: 24, sweepDeg: 89 },
    sizes: { incisor: [17, 17], canine: [13, 15], premolar: [21, 22], molar: [22, 23] },
    leastRoom: 21,
    labelOut: 28
  }
};

export const personsTeeth = (): BodyDrawing =>
  mouth(adult, upperArch, lowerArch, (tooth) => ({ kind: 'tooth', tooth }), toothKind);

export const milkTeeth = (): BodyDrawing =>
  mouth(child, deciduousUpperArch, deciduousLowerArch, (tooth) => ({ kind: 'tooth', tooth }), toothKind);

/** Permanent teeth in the outer arches, milk teeth in the inner ones: a mouth between the two. */
export function mixedTeeth(): BodyDrawing {
  const outer = mouth(adult, upperArch, lowerArch, (tooth) => ({ kind: 'tooth', tooth }), toothKind);
  const inner = mouth(
    shed,
    deciduousUpperArch,
    deciduousLowerArch,
    (tooth) => ({ kind: 'tooth', tooth }),
    toothKind
  );
  const also = new Map(inner.words.map(({ text, picks }) => [text, picks]));
  return {
    ...outer,
    words: outer.words.map((word) => ({
      ...word,
      picks: word.picks && {
        ...word.picks,
        places: [...word.picks.places, ...(also.get(word.text)?.places ?? [])]
      }
    })),
    spots: [...outer.spots, ...inner.spots]
  };
}

export const animalTeeth = (species: ToothedSpecies): BodyDrawing =>
  mouth(
    animals[species],
    animalArch(species, 'upper'),
    animalArch(species, 'lower'),
    (tooth) => ({ kind: 'animal tooth', species, tooth }),
    animalToothKind
  );

/** Both arches as two half ovals that open towards each other's back teeth. */
function mouth(
  how: Mouth,
  upper: readonly number[],
  lower: readonly number[],
  placeOf: (tooth: number) => Place,
  kindOf: (tooth: number) => ToothKind
): BodyDrawing {
  const half = (teeth: readonly number[], sign: -1 | 1) =>
    spotsAlong(
      how,
      teeth.map((tooth) => ({ place: placeOf(tooth), size: how.sizes[kindOf(tooth)] })),
      sign
    );
  const [x, y] = [width / 2, height / 2];
  const [uppers, lowers] = [half(upper, -1), half(lower, 1)];
  const side = (spots: readonly Spot[]) => spots.map(({ place }) => place);
  const onRight = [...uppers, ...lowers].filter((spot) => spot.x < x);
  const onLeft = [...uppers, ...lowers].filter((spot) => spot.x > x);
  return {
    width,
    height,
    outline: [{ path: `M${x - 58} ${y}H${x + 58}`, stroke: 1 }],
    words: [
      { text: 'upper', x, y: y - 16, picks: { words: 'All of the upper jaw', places: side(uppers) } },
      { text: 'lower', x, y: y + 26, picks: { words: 'All of the lower jaw', places: side(lowers) } },
      {
        text: 'right',
        x: x - 84,
        y: y + 5,
        picks: { words: 'All of the right side', places: side(onRight) }
      },
      { text: 'left', x: x + 84, y: y + 5, picks: { words: 'All of the left side', places: side(onLeft) } }
    ],
    spots: [...uppers, ...lowers]
  };
}

/** Teeth side by side along a half oval, each as wide as it is: spaced by the length of the bow. */
function spotsAlong(
  { arch, leastRoom, labelOut: out }: Mouth,
  teeth: readonly { place: Place; size: [number, number] }[],
  sign: -1 | 1
): Spot[] {
  const angleAt = bow(arch);
  const rooms = teeth.map(({ size }) => Math.max(leastRoom, size[0]));
  const total = rooms.reduce((sum, room) => sum + room, 0);
  let before = 0;
  return teeth.map(({ place, size }, i) => {
    const angle = angleAt((before + rooms[i] / 2) / total);
    before += rooms[i];
    const x = width / 2 + arch.radiusX * Math.sin(angle);
    const y = height / 2 + sign * (arch.gap + arch.radiusY * Math.cos(angle) * 0.92);
    const normal = Math.atan2((sign * Math.cos(angle)) / arch.radiusY, Math.sin(angle) / arch.radiusX);
    return {
      place,
      x,
      y,
      shape: 'crown',
      width: size[0],
      height: size[1],
      turnDeg: (normal * 180) / Math.PI + 90,
      label: { x: x + Math.cos(normal) * out, y: y + Math.sin(normal) * out }
    };
  });
}

const bowSteps = 400;

/** The angle on a half oval at a share of its length. */
function bow({ radiusX, radiusY, sweepDeg }: Arch): (share: number) => number {
  const most = (sweepDeg * Math.PI) / 180;
  const angles = Array.from({ length: bowSteps + 1 }, (_, i) => -most + (2 * most * i) / bowSteps);
  const lengths = [0];
  for (let i = 1; i < angles.length; i++) {
    const dx = radiusX * (Math.sin(angles[i]) - Math.sin(angles[i - 1]));
    const dy = radiusY * 0.92 * (Math.cos(angles[i]) - Math.cos(angles[i - 1]));
    lengths.push(lengths[i - 1] + Math.hypot(dx, dy));
  }
  return (share) => {
    const wanted = share * lengths[bowSteps];
    const at = Math.max(
      1,
      lengths.findIndex((length) => length >= wanted)
    );
    const part = (wanted - lengths[at - 1]) / (lengths[at] - lengths[at - 1]);
    return angles[at - 1] + part * (angles[at] - angles[at - 1]);
  };
}
