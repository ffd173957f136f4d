import { type Tooth, toothKind } from '../../anatomy/teeth';
import { type Part, box, cutBy, ellipsoid, inset, limb, moved, planeAt, sweep } from '../solid/part';
import {
  type Frame,
  type Vec3,
  add,
  cross,
  dot,
  lengthOf,
  mix,
  movePoint,
  sub,
  times,
  turnVector,
  unit
} from '../space';
import { perMm } from '../xray/attenuation';
import type { Layer } from '../xray/layer';
import type { Body } from '../xray/radiograph';
import { clouds, trabeculae } from '../xray/weave';
import type { Mouth, PlacedTooth } from './dentition';
import { isLeft, isUpper, placeOf } from './sizes';
import { alongCanal, shortened } from './tooth';

const ligamentMm = 0.22;
const laminaMm = 0.3;
/** Enamel ends this far below the neck's middle. */
const neckLapMm = -0.35;

const all = (parts: readonly Part[], frame: Frame): Part[] => parts.map((part) => moved(part, frame));
const grown = (parts: readonly Part[], mm: number): Part[] => parts.flatMap((part) => inset(part, -mm) ?? []);

/** The teeth named, with the bone around them and the soft tissue over it. What is not named is left out of the beam. */
export function mouthBody(mouth: Mouth, teeth: readonly Tooth[]): Body {
  const here = mouth.teeth.filter((each) => teeth.includes(each.shape.tooth));
  const landmarks: Record<string, Vec3> = {};
  for (const { shape, frame, crestMm } of here) {
    for (const [name, point] of Object.entries(shape.landmarks))
      landmarks[`${shape.tooth} ${name}`] = movePoint(frame, point);
    const half = shape.size.width / 2;
    landmarks[`${shape.tooth} crest mesial`] = movePoint(frame, [half, 0, -crestMm]);
    landmarks[`${shape.tooth} crest distal`] = movePoint(frame, [-half, 0, -crestMm]);
  }
  return {
    layers: [...here.flatMap(toothLayers), ...boneLayers(mouth, here), ...softLayers(mouth, here)],
    landmarks
  };
}

function toothLayers(placed: PlacedTooth): Layer[] {
  const { shape, frame } = placed;
  const inFrame = (parts: readonly Part[]) => all(parts, frame);
  const aboveNeck = (parts: readonly Part[]) =>
    inFrame(parts.map((part) => cutBy(part, planeAt([0, 0, neckLapMm], [0, 0, -1]))));
  const crown = aboveNeck(shape.crown);
  const layers: Layer[] = [
    { parts: crown, perMm: perMm.enamel },
    { parts: aboveNeck(shape.core), perMm: perMm.dentine - perMm.enamel },
    { parts: inFrame(shape.roots), minus: crown, perMm: perMm.dentine }
  ];
  const hollow = [...shape.chamber, ...shape.canals];
  layers.push({ parts: inFrame(hollow), perMm: perMm.soft - perMm.dentine });
  for (const condition of placed.conditions) layers.push(...conditionLayers(placed, condition));
  return layers;
}

function conditionLayers(
  { shape, frame }: PlacedTooth,
  condition: PlacedTooth['conditions'][number]
): Layer[] {
  const { crown, width, depth } = shape.size;
  const inFrame = (parts: readonly Part[]) => all(parts, frame);
  switch (condition.kind) {
    case 'filling': {
      const slab = (x0: number, x1: number, y: number, floor: number) =>
        cutBy(
          inset(shape.crown[0], 0.04) ?? shape.crown[0],
          { normal: [1, 0, 0], offset: x1 },
          { normal: [-1, 0, 0], offset: -x0 },
          { normal: [0, 1, 0.12], offset: y + 0.12 * crown },
          { normal: [0, -1, 0.12], offset: y + 0.12 * crown },
          { normal: [0.08, 0, -1], offset: -floor }
        );
      const cavity = [slab(-width * 0.27, width * 0.26, depth * 0.17, crown - 3.3)];
      if (condition.at === 'mesial') cavity.push(slab(width * 0.24, width, depth * 0.18, crown - 4.6));
      if (condition.at === 'distal') cavity.push(slab(-width, -width * 0.24, depth * 0.18, crown - 4.5));
      return [{ parts: inFrame(cavity), perMm: perMm.amalgam, sharp: true }];
    }
    case 'crown':
      return [
        {
          parts: inFrame(shape.crown.flatMap((part) => inset(part, -0.15) ?? [])).map((part) =>
            cutBy(part, planeAt(movePoint(frame, [0, 0, 0.6]), turnVector(frame, [0, 0, -1])))
          ),
          minus: inFrame(shape.core),
          perMm: perMm.amalgam,
          sharp: true
        }
      ];
    case 'decay': {
      const side = condition.at === 'mesial' ? 1 : -1;
      return [
        {
          parts: inFrame([
            ellipsoid([side * width * 0.47, 0, crown * 0.36], [0.95, depth * 0.22, 0.75]),
            ellipsoid([side * width * 0.36, 0, crown * 0.38], [1.15, depth * 0.2, 1]),
            ellipsoid([side * width * 0.28, 0, crown * 0.4], [0.8, depth * 0.16, 0.8])
          ]),
          perMm: -perMm.dentine * 0.62
        }
      ];
    }
    case 'file':
      return [
        {
          parts: inFrame(
            shape.lines.flatMap((line) => alongCanal(line, crown, condition.shortMm, 0.34, 0.11))
          ),
          perMm: perMm.steel,
          sharp: true
        }
      ];
    case 'root filling':
      return [
        {
          parts: inFrame(
            shape.lines.flatMap((line) => {
              const points = shortened(line, condition.shortMm);
              return sweep(points.map((at, i) => ({ at, r: 0.6 - (0.4 * i) / (points.length - 1) })));
            })
          ),
          perMm: perMm.guttaPercha
        },
        {
          parts: inFrame([ellipsoid([0, 0, crown * 0.5], [width * 0.25, depth * 0.2, crown * 0.34])]),
          perMm: perMm.cement
        }
      ];
  }
}

/**
 * The ridge between two neighbours, or behind the last tooth: a block along the way from one to the other, from the
 * bone's edge to past the roots, as wide as the jaw is there.
 */
function ridge(a: PlacedTooth, b: PlacedTooth | null, insetMm: number): Part {
  const upper = isUpper(a.shape.tooth);
  const next = b ?? a;
  const molar = toothKind(a.shape.tooth) === 'molar';
  const from = a.frame.origin;
  const lean = add(turnVector(a.frame, [0, 0, -1]), turnVector(next.frame, [0, 0, -1]));
  const root = unit(add(lean, [0, 0, upper ? 1 : -1]));
  const way = b ? sub(b.frame.origin, from) : turnVector(a.frame, [-10, 0, 0]);
  const along = unit(sub(way, times(root, dot(way, root))));
  const across = cross(root, along);
  const deep = (a.shape.size.root + next.shape.size.root) / 2 + (upper ? (molar ? 1.5 : 6) : 9);
  const crest = (a.crestMm + next.crestMm) / 2;
  const wide = (a.shape.size.depth + next.shape.size.depth) / 4 + 1.4 - insetMm;
  const [top, bottom] = [crest + insetMm, deep - insetMm];
  const middle = add(add(from, times(way, 0.5)), times(root, (top + bottom) / 2));
  const reach = lengthOf(way) / 2 + 1.3;
  return box(middle, [reach, wide, (bottom - top) / 2], { x: along, y: across, z: root, origin: [0, 0, 0] });
}

/** Neighbours along an arch from the right end to the left one, with the ends by themselves. */
function neighbours(arch: PlacedTooth[]): [PlacedTooth, PlacedTooth | null][] {
  const order = [...arch].sort((a, b) => a.frame.origin[0] - b.frame.origin[0]);
  const near = (a: PlacedTooth, b: PlacedTooth) => lengthOf(sub(a.frame.origin, b.frame.origin)) < 26;
  const pairs = order
    .slice(1)
    .flatMap((b, i): [PlacedTooth, PlacedTooth | null][] => (near(order[i], b) ? [[order[i], b]] : []));
  const ends = order.filter((each) => placeOf(each.shape.tooth) >= 7);
  return [...pairs, ...ends.map((each): [PlacedTooth, null] => [each, null])];
}

function boneLayers(mouth: Mouth, here: PlacedTooth[]): Layer[] {
  if (here.length === 0) return [];
  const plateMm = 1.1;
  const layers: Layer[] = [];
  for (const upper of [true, false]) {
    const arch = here.filter((each) => isUpper(each.shape.tooth) === upper);
    if (arch.length === 0) continue;
    const sockets = arch.flatMap((each) => all(grown(each.shape.roots, ligamentMm), each.frame));
    const linings = arch.flatMap((each) =>
      all(grown(each.shape.roots, ligamentMm + laminaMm), each.frame).map((part) => belowCrest(part, each))
    );
    const pairs = neighbours(arch);
    const blocks = pairs.map(([a, b]) => ridge(a, b, 0));
    const spongy = pairs.map(([a, b]) => ridge(a, b, plateMm));
    const peaks = peaksBetween(arch);
    layers.push(
      { parts: [...blocks, ...peaks], minus: [...sockets, ...spongy], perMm: perMm.cortical * 0.85 },
      {
        parts: spongy,
        minus: sockets,
        perMm: perMm.spongy,
        weave: trabeculae({
          seed: mouth.seed * 7 + (upper ? 1 : 2),
          spacingMm: upper ? 0.62 : 0.95,
          stretch: upper ? 1.15 : 0.75,
          depth: upper ? 0.62 : 0.8
        })
      },
      { parts: linings, minus: sockets, perMm: perMm.cortical * 0.75 },
      ...(upper ? palateLayers(arch) : mandibleLayers(arch, mouth.seed))
    );
  }
  return layers;
}

function belowCrest(part: Part, { frame, crestMm }: PlacedTooth): Part {
  return cutBy(part, planeAt(movePoint(frame, [0, 0, -crestMm]), turnVector(frame, [0, 0, 1])));
}

/** Between neighbours the bone's edge is rounded off by a small ridge across. */
function peaksBetween(arch: PlacedTooth[]): Part[] {
  return arch.flatMap((each) => {
    const { size } = each.shape;
    return [size.width / 2, -size.width / 2].map((x) =>
      moved(
        limb(
          [x, size.depth * 0.36, -each.crestMm - 0.5],
          0.75,
          [x, -size.depth * 0.36, -each.crestMm - 0.5],
          0.75
        ),
        each.frame
      )
    );
  });
}

/** The floors of sinus and nose, thin bright lines over the upper roots, and the hard palate behind them. */
function palateLayers(arch: PlacedTooth[]): Layer[] {
  const floor = arch.flatMap((each, i) => {
    const next = arch[i + 1];
    if (!next || isLeft(next.shape.tooth) !== isLeft(each.shape.tooth)) return [];
    const at = (tooth: PlacedTooth): Vec3 => {
      const molar = placeOf(tooth.shape.tooth) >= 5;
      const [x, y] = movePoint(tooth.frame, [0, -1, -tooth.shape.size.root]);
      const [, , z] = movePoint(tooth.frame, [0, 0, -tooth.shape.size.root - (molar ? 0.8 : 6.5)]);
      return [x, y, z];
    };
    const [a, b] = [at(each), at(next)];
    return [sheetBetween(a, b, 4.5, 0.35)];
  });
  return floor.length > 0 ? [{ parts: floor, perMm: perMm.cortical * 0.8 }] : [];
}

/** A thin, rounded plate along the way from a to b. */
function sheetBetween(a: Vec3, b: Vec3, halfWidth: number, thick: number): Part {
  const dx = b[0] - a[0];
  const dy = b[1] - a[1];
  const along = Math.hypot(dx, dy);
  const x: Vec3 = [dx / along, dy / along, (b[2] - a[2]) / along];
  const y: Vec3 = [-dy / along, dx / along, 0];
  return box(mix(a, b, 0.5), [along / 2 + 0.2, halfWidth, thick], { x, y, z: [0, 0, 1], origin: [0, 0, 0] });
}

/** The jaw's lower border, and the canal of its nerve: a dark band between two fine lines. */
function mandibleLayers(arch: PlacedTooth[], seed: number): Layer[] {
  const below = (each: PlacedTooth, mm: number): Vec3 => {
    const [x, y] = movePoint(each.frame, [0, -1, -each.shape.size.root]);
    const [, , z] = movePoint(each.frame, [0, 0, -each.shape.size.root]);
    return [x, y, z - mm];
  };
  const back = arch
    .filter((each) => placeOf(each.shape.tooth) >= 5)
    .sort((a, b) => a.shape.tooth - b.shape.tooth);
  const layers: Layer[] = [];
  for (const left of [true, false]) {
    const side = back.filter((each) => isLeft(each.shape.tooth) === left);
    if (side.length < 2) continue;
    const line = side.map((each, i) => below(each, 4.6 - 0.5 * i));
    layers.push(
      { parts: sweep(line.map((at) => ({ at, r: 1.75 }))), perMm: perMm.cortical * 0.35 },
      { parts: sweep(line.map((at) => ({ at, r: 1.4 }))), perMm: -perMm.cortical * 0.35 - perMm.spongy * 0.6 }
    );
  }
  const base = arch.slice(0, -1).flatMap((each, i) => {
    const [a, b] = [below(each, 11), below(arch[i + 1], 11)];
    return Math.hypot(b[0] - a[0], b[1] - a[1]) < 14 ? [limb(a, 4.6, b, 4.6)] : [];
  });
  const core = base.flatMap((part) => inset(part, 2.4) ?? []);
  if (base.length > 0) {
    layers.push(
      { parts: base, perMm: perMm.cortical },
      {
        parts: core,
        perMm: perMm.spongy - perMm.cortical,
        weave: trabeculae({ seed: seed * 7 + 5, spacingMm: 1, depth: -0.5 })
      }
    );
  }
  return layers;
}

/** Gums around the necks, and cheek, lip and tongue as one cloudy thickness in front and behind. */
function softLayers(mouth: Mouth, here: PlacedTooth[]): Layer[] {
  if (here.length === 0) return [];
  const centers = here.map((each) => each.frame.origin);
  const middle = times(
    centers.reduce((sum, each) => add(sum, each), [0, 0, 0] as Vec3),
    1 / centers.length
  );
  const gums = here.map((each) => {
    const { size } = each.shape;
    return moved(
      ellipsoid([0, 0, -each.crestMm * 0.5 - 3], [size.width / 2 + 0.4, size.depth / 2 + 2.2, 5.2]),
      each.frame
    );
  });
  const roots = here.flatMap((each) => all([...each.shape.roots, ...each.shape.crown], each.frame));
  return [
    { parts: gums, minus: roots, perMm: perMm.soft * 0.8 },
    {
      parts: [ellipsoid(middle, [46, 46, 60])],
      perMm: perMm.soft * 0.16,
      weave: clouds(mouth.seed + 91, 14, 0.5)
    }
  ];
}
