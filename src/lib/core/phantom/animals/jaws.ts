import { type Part, ellipsoid, inset, limb, moved } from '../solid/part';
import { type Vec3, shifted, stretched } from '../space';
import { perMm } from '../xray/attenuation';
import { intraoralSensor } from '../xray/detector';
import type { Layer } from '../xray/layer';
import { xrayView } from '../xray/view';
import { type Scene, bone, flesh, tube } from '../bones/kit';

/** A tooth of a lower jaw from the side: where its neck is along the jaw, its roots and its points. Millimetres. */
interface AnimalTooth {
  /** Modified Triadan number. */
  triadan: number;
  at: number;
  width: number;
  crown: number;
  root: number;
  roots: 1 | 2;
}

const jaws: Record<'dog' | 'cat', { teeth: AnimalTooth[]; length: number; depth: number }> = {
  dog: {
    length: 120,
    depth: 24,
    teeth: [
      { triadan: 404, at: 12, width: 10, crown: 17, root: 24, roots: 1 },
      { triadan: 405, at: 26, width: 5, crown: 4, root: 7, roots: 1 },
      { triadan: 406, at: 35, width: 9, crown: 7, root: 11, roots: 2 },
      { triadan: 407, at: 47, width: 10.5, crown: 8, root: 12, roots: 2 },
      { triadan: 408, at: 60, width: 12, crown: 9, root: 13, roots: 2 },
      { triadan: 409, at: 79, width: 22, crown: 13, root: 16, roots: 2 },
      { triadan: 410, at: 97, width: 9, crown: 6, root: 9, roots: 2 }
    ]
  },
  cat: {
    length: 52,
    depth: 10,
    teeth: [
      { triadan: 404, at: 6, width: 4.4, crown: 9, root: 10, roots: 1 },
      { triadan: 407, at: 18, width: 6, crown: 5, root: 6, roots: 2 },
      { triadan: 408, at: 26, width: 7, crown: 6, root: 6.6, roots: 2 },
      { triadan: 409, at: 35, width: 8.6, crown: 6.4, root: 7, roots: 2 }
    ]
  }
};

export interface AnimalJawWish {
  seed: number;
  species: 'dog' | 'cat';
  /** A tooth that is being dissolved at its neck, by Triadan number. */
  resorbing?: number;
}

/** The right lower jaw of a dog or cat from the side: cheek teeth with their roots, the canal, the lower border. */
export function animalJawScene(wish: AnimalJawWish): Scene {
  const { teeth, length, depth } = jaws[wish.species];
  const scale = wish.species === 'cat' ? 0.45 : 1;
  const layers: Layer[] = [];
  const landmarks: Record<string, Vec3> = {};
  const roots: Part[] = [];
  for (const tooth of teeth) {
    const made = toothParts(tooth, scale);
    roots.push(...made.roots);
    landmarks[`${tooth.triadan} neck`] = [0, tooth.at, 0];
    made.ends.forEach((end, i) => (landmarks[`${tooth.triadan} apex ${i + 1}`] = end));
    layers.push(
      { parts: made.crown, perMm: perMm.enamel },
      { parts: made.core, perMm: perMm.dentine - perMm.enamel },
      { parts: made.roots, minus: made.crown, perMm: perMm.dentine },
      { parts: made.pulp, perMm: perMm.soft - perMm.dentine }
    );
    if (tooth.triadan === wish.resorbing)
      layers.push({
        parts: [
          ellipsoid([0, tooth.at - tooth.width * 0.2, 0.4 * scale], [3 * scale, 2.6 * scale, 2 * scale])
        ],
        perMm: -perMm.dentine * 0.75
      });
  }
  const low = -depth * 0.62;
  const ridge = tube(
    [
      [0, -2, low * 0.55],
      [0, length * 0.25, low],
      [0, length * 0.6, low * 1.1],
      [0, length, low * 0.7]
    ],
    [depth * 0.36, depth * 0.5, depth * 0.54, depth * 0.56],
    stretched(0.55, 1, 1)
  );
  const sockets = roots.flatMap((part) => inset(part, -0.28 * scale) ?? []);
  const jawBone = bone({
    parts: ridge,
    cortexMm: 1.7 * scale,
    seed: wish.seed,
    spacingMm: 0.9 * Math.sqrt(scale)
  });
  layers.push(...jawBone.map((layer) => ({ ...layer, minus: sockets })));
  layers.push({
    parts: tube(
      [
        [0, length * 0.16, low * 1.1],
        [0, length * 0.55, low * 1.35],
        [0, length, low * 0.9]
      ],
      [1.6 * scale, 1.9 * scale, 2.1 * scale]
    ),
    perMm: -perMm.spongy * 0.7
  });
  layers.push(flesh([limb([0, -8, low], depth * 0.95, [0, length, low], depth * 1.2)], wish.seed + 3, 0.5));
  const view = xrayView({
    through: [0, length * 0.46, low * 0.35],
    along: [1, 0, 0],
    up: [0, 0, 1],
    toObjectMm: 400,
    toDetectorMm: 12,
    pitchMm: wish.species === 'cat' ? 0.034 : 0.08,
    width: 1500,
    height: 800
  });
  return {
    bodies: [{ layers, landmarks }],
    view,
    detector: { ...intraoralSensor, black: 0.1, white: wish.species === 'cat' ? 1.2 : 2.4 },
    truth: {}
  };
}

function toothParts(tooth: AnimalTooth, scale: number) {
  const { width, crown, root, at } = tooth;
  const place = (parts: Part[]) => parts.map((part) => moved(part, shifted([0, at, 0])));
  const thin = stretched(0.55, 1, 1);
  const single = tooth.roots === 1;
  const points: Vec3[] = single
    ? [[0, width * 0.1, crown]]
    : [
        [0, -width * 0.08, crown],
        [0, width * 0.3, crown * 0.56],
        [0, -width * 0.36, crown * 0.4]
      ];
  const neck = single ? width * 0.5 : width * 0.27;
  const feet: Vec3[] = single
    ? [[0, 0, 0]]
    : [
        [0, -width * 0.2, 0.2],
        [0, width * 0.22, 0.2],
        [0, -width * 0.24, 0.2]
      ];
  const enamel = 0.55 * Math.sqrt(scale);
  const outer = points.map((tip, i) => limb(feet[i] ?? [0, 0, 0], neck, tip, 0.5 * scale + 0.2, thin));
  const inner = points.map((tip, i) =>
    limb(feet[i] ?? [0, 0, 0], neck - 0.12, [tip[0], tip[1] * 0.9, tip[2] - 2.2 * enamel], 0.2 * scale, thin)
  );
  const ends: Vec3[] = single
    ? [[0, width * 0.35, -root]]
    : [
        [0, -width * 0.3, -root],
        [0, width * 0.32, -root * 0.94]
      ];
  const rootParts = ends.map((end) =>
    limb(
      [0, single ? 0 : end[1] * 0.72, 0],
      single ? neck * 0.96 : neck * 0.82,
      [end[0], end[1], end[2] + neck * 0.22],
      neck * 0.22,
      thin
    )
  );
  const pulp = [
    ...ends.map((end) =>
      limb([0, end[1] * 0.6, crown * 0.2], neck * 0.2, [0, end[1], end[2] * 0.93], neck * 0.07)
    ),
    ...points
      .slice(0, 1)
      .map((tip) => limb([0, 0, 0], neck * 0.22, [0, tip[1] * 0.6, crown * 0.5], neck * 0.08))
  ];
  return {
    crown: place(outer),
    core: place(inner),
    roots: place(rootParts),
    pulp: place(pulp),
    ends: ends.map((end): Vec3 => [end[0], end[1] + at, end[2]])
  };
}
