import { type Tooth, toothKind } from '../../anatomy/teeth';
import { type Part, box, cutBy, ellipsoid, inset, limb, moved, planeAt, sweep } from '../solid/part';
import { type Frame, type Vec3, add, mix, movePoint, times, turnVector } from '../space';
import { perMm } from '../xray/attenuation';
import type { Layer } from '../xray/layer';
import type { Body } from '../xray/radiograph';
import { clouds, trabeculae } from '../xray/weave';
import type { Mouth, PlacedTooth } from './dentition';
import { isLeft, isUpper, placeOf } from './sizes';
import { alongCanal, shortened } from './tooth';

const ligamentMm = 0.22;
const laminaMm = 0.3;

const all = (parts: readonly Part[], frame: Frame): Part[] => parts.map((part) => moved(part, frame));
const grown = (parts: readonly Part[], mm: number): Part[] => parts.flatMap((part) => inset(part, -mm) ?? []);

/** The teeth named, with the bone around them and the soft tissue over it. What is not named is left out of the beam. */
export function mouthBody(mouth: Mouth, teeth: readonly Tooth[]): Body {
  const here = mouth.teeth.filter((each) => teeth.includes(each.shape.tooth));
  const landmarks: Record<string, Vec3> = {};
  for (const { shape, frame, crestMm } of here) {
    for (const [name, own] of Object.entries(shape.landmarks))
      landmarks[`${shape.tooth} ${name}`] = movePoint(frame, own);
    const half = shape.size.width / 2;
    landmarks[`${shape.tooth} crest mesial`] = movePoint(frame, [half, 0, -crestMm]);
    landmarks[`${shape.tooth} crest distal`] = movePoint(frame, [-half, 0, -crestMm]);
  }
  return { layers: [...here.flatMap(toothLayers), ...boneLayers(mouth, here), ...softLayers(mouth, here)], landmarks };
}

function toothLayers(placed: PlacedTooth): Layer[] {
  const { shape, frame } = placed;
  const own = (parts: readonly Part[]) => all(parts, frame);
  const crown = own(shape.crown.map((part) => cutBy(part, planeAt([0, 0, -0.35], [0, 0, -1]))));
  const layers: Layer[] = [
    { parts: crown, perMm: perMm.enamel },
    { parts: own(shape.core), perMm: perMm.dentine - perMm.enamel },
    { parts: own(shape.roots), minus: crown, perMm: perMm.dentine }
  ];
  const hollow = [...shape.chamber, ...shape.canals];
  layers.push({ parts: own(hollow), perMm: perMm.soft - perMm.dentine });
  for (const condition of placed.conditions) layers.push(...conditionLayers(placed, condition));
  return layers;
}

function conditionLayers({ shape, frame }: PlacedTooth, condition: PlacedTooth['conditions'][number]): Layer[] {
  const { crown, width, depth } = shape.size;
  const own = (parts: readonly Part[]) => all(parts, frame);
  switch (condition.kind) {
    case 'filling': {
      const shift = { middle: 0, mesial: width * 0.26, distal: -width * 0.26 }[condition.at];
      const floor = crown - 2.9;
      const cavity = [
        box([0, 0, crown - 1.6], [width * 0.27, depth * 0.2, 1.25]),
        ellipsoid([width * 0.1, 0, floor], [width * 0.16, depth * 0.17, 0.8])
      ];
      if (shift !== 0)
        cavity.push(
          box([shift * 1.25, 0, crown - 2.3], [width * 0.15, depth * 0.19, 1.9]),
          ellipsoid([shift * 1.3, 0, crown - 4.1], [width * 0.12, depth * 0.17, 0.7])
        );
      const inside = shape.crown.map((part) => inset(part, 0.05)).filter((part) => part !== null);
      return [{ parts: own(within(cavity, inside)), perMm: perMm.amalgam, sharp: true }];
    }
    case 'crown':
      return [
        {
          parts: own(shape.crown.flatMap((part) => inset(part, -0.15) ?? [])).map((part) =>
            cutBy(part, planeAt(movePoint(frame, [0, 0, 0.6]), turnVector(frame, [0, 0, -1])))
          ),
          minus: own(shape.core),
          perMm: perMm.amalgam,
          sharp: true
        }
      ];
    case 'decay': {
      const side = condition.at === 'mesial' ? 1 : -1;
      return [
        {
          parts: own([
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
          parts: own(shape.lines.flatMap((line) => alongCanal(line, crown, condition.shortMm, 0.34, 0.11))),
          perMm: perMm.steel,
          sharp: true
        }
      ];
    case 'root filling':
      return [
        {
          parts: own(
            shape.lines.flatMap((line) => {
              const points = shortened(line, condition.shortMm);
              return sweep(points.map((at, i) => ({ at, r: 0.6 - (0.4 * i) / (points.length - 1) })));
            })
          ),
          perMm: perMm.guttaPercha
        },
        { parts: own([ellipsoid([0, 0, crown * 0.5], [width * 0.25, depth * 0.2, crown * 0.34])]), perMm: perMm.cement }
      ];
  }
}

/** A cavity has no surface of its own outside the tooth: its pieces are kept below the biting surface. */
function within(cavity: Part[], inside: Part[]): Part[] {
  const top = inside.length > 0 ? Math.max(...inside.map((part) => (part.kind === 'cone' ? part.b[2] + part.rb : 0))) : 0;
  return cavity.map((part) => cutBy(part, planeAt([0, 0, top - 0.25], [0, 0, 1])));
}

/** The ridge around one tooth: from the bone's edge to past the roots, as wide as the jaw is there. */
function ridge({ shape, frame, crestMm }: PlacedTooth, insetMm: number): Part {
  const { tooth, size } = shape;
  const upper = isUpper(tooth);
  const molar = toothKind(tooth) === 'molar';
  const deep = upper ? (molar ? size.root + 1.5 : size.root + 7) : size.root + 9;
  const top = -crestMm - insetMm;
  const bottom = -deep + insetMm;
  const middle: Vec3 = [0, -0.4, (top + bottom) / 2];
  const half: Vec3 = [size.width / 2 + 0.12, size.depth / 2 + 1.6 - insetMm, (top - bottom) / 2];
  return moved(box(middle, half), frame);
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
    const blocks = arch.map((each) => ridge(each, 0));
    const spongy = arch.map((each) => ridge(each, plateMm));
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
        limb([x, size.depth * 0.36, -each.crestMm - 0.5], 0.75, [x, -size.depth * 0.36, -each.crestMm - 0.5], 0.75),
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
  const back = arch.filter((each) => placeOf(each.shape.tooth) >= 5).sort((a, b) => a.shape.tooth - b.shape.tooth);
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
  const middle = times(centers.reduce((sum, each) => add(sum, each), [0, 0, 0] as Vec3), 1 / centers.length);
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
