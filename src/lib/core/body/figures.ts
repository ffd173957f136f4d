import type { Place } from '../anatomy/place';
import type { ToothedSpecies } from '../anatomy/animalTeeth';
import { type BoneRegion, isPaired } from '../anatomy/places/bone';
import { gazes } from '../anatomy/places/eye';
import type { BodyDrawing, Spot } from './drawing';

type Oval = [x: number, y: number, width: number, height: number, turnDeg?: number];

const oval = (place: Place, [x, y, width, height, turnDeg = 0]: Oval, label: Spot['label'] = null): Spot => ({
  place,
  x,
  y,
  shape: 'oval',
  width,
  height,
  turnDeg,
  label
});

/** Bones of one figure; those that there are two of are given for the patient's left and mirrored. */
function bones(whose: 'person' | 'animal', middle: number, ovals: Partial<Record<BoneRegion, Oval>>): Spot[] {
  return (Object.entries(ovals) as [BoneRegion, Oval][]).flatMap(([region, [dx, y, w, h, turn = 0]]) => {
    if (!isPaired(region))
      return [oval({ kind: 'bone', region, side: null, whose }, [middle + dx, y, w, h, turn])];
    return [
      oval({ kind: 'bone', region, side: 'right', whose }, [middle - dx, y, w, h, -turn]),
      oval({ kind: 'bone', region, side: 'left', whose }, [middle + dx, y, w, h, turn])
    ];
  });
}

/** A person standing, arms held off the body. */
export function personsBones(): BodyDrawing {
  const whose = 'person';
  return {
    width: 400,
    height: 446,
    outline: [
      { path: 'M200 14a25 29 0 1 0 .1 0Z', stroke: 0 },
      { path: 'M200 66V84', stroke: 24 },
      {
        path: 'M160 84Q200 74 240 84Q252 128 236 172Q232 200 242 226Q200 246 158 226Q168 200 164 172Q148 128 160 84Z',
        stroke: 0
      },
      { path: 'M158 94Q132 140 112 190L92 236', stroke: 25 },
      { path: 'M242 94Q268 140 288 190L308 236', stroke: 25 },
      { path: 'M89 244L80 270', stroke: 27 },
      { path: 'M311 244L320 270', stroke: 27 },
      { path: 'M178 230L172 318L174 402', stroke: 34 },
      { path: 'M222 230L228 318L226 402', stroke: 34 },
      { path: 'M170 416L152 424', stroke: 24 },
      { path: 'M230 416L248 424', stroke: 24 }
    ],
    words: [
      { text: 'right', x: 52, y: 60 },
      { text: 'left', x: 348, y: 60 }
    ],
    spots: [
      oval({ kind: 'trunk', region: 'chest', whose }, [200, 122, 64, 64]),
      oval({ kind: 'trunk', region: 'belly', whose }, [200, 186, 60, 44]),
      oval({ kind: 'spine', region: 'neck', whose }, [200, 72, 20, 22]),
      oval({ kind: 'spine', region: 'chest', whose }, [200, 122, 18, 50]),
      oval({ kind: 'spine', region: 'loin', whose }, [200, 182, 18, 34]),
      ...bones(whose, 200, {
        skull: [0, 40, 34, 38],
        clavicle: [30, 89, 30, 13, -8],
        shoulder: [50, 102, 22, 22],
        'upper arm': [67, 142, 15, 36, -23],
        elbow: [86, 180, 21, 21],
        forearm: [99, 211, 15, 28, -24],
        wrist: [111, 241, 21, 21],
        hand: [117, 265, 23, 22],
        finger: [123, 288, 18, 18],
        pelvis: [0, 220, 42, 20],
        hip: [32, 232, 21, 21],
        femur: [25, 272, 18, 44, 2],
        knee: [28, 318, 26, 24],
        'lower leg': [27, 362, 17, 42],
        ankle: [26, 403, 23, 19],
        foot: [46, 424, 26, 17]
      })
    ]
  };
}

/** Hands raised with the palms towards the viewer, and feet from above: as their pictures are hung. */
export function handsAndFeet(): BodyDrawing {
  const mirrored = (paths: readonly { path: (x: (at: number) => number) => string; stroke: number }[]) =>
    paths.flatMap(({ path, stroke }) => [
      { path: path((at) => at), stroke },
      { path: path((at) => 400 - at), stroke }
    ]);
  return {
    width: 400,
    height: 446,
    outline: mirrored([
      {
        path: (x) =>
          `M${x(70)} 128Q${x(100)} 112 ${x(132)} 130Q${x(140)} 168 ${x(124)} 202H${x(80)}Q${x(64)} 166 ${x(70)} 128Z`,
        stroke: 0
      },
      { path: (x) => `M${x(102)} 196V226`, stroke: 40 },
      { path: (x) => `M${x(78)} 138L${x(57)} 84`, stroke: 20 },
      { path: (x) => `M${x(92)} 130L${x(82)} 52`, stroke: 22 },
      { path: (x) => `M${x(106)} 128L${x(106)} 36`, stroke: 23 },
      { path: (x) => `M${x(122)} 132L${x(131)} 56`, stroke: 22 },
      { path: (x) => `M${x(122)} 180Q${x(144)} 164 ${x(160)} 130`, stroke: 24 },
      {
        path: (x) =>
          `M${x(64)} 302Q${x(100)} 272 ${x(142)} 286Q${x(150)} 330 ${x(128)} 372Q${x(128)} 430 ${x(102)} 434Q${x(78)} 430 ${x(80)} 376Q${x(64)} 340 ${x(64)} 302Z`,
        stroke: 0
      },
      { path: (x) => `M${x(132)} 296V262`, stroke: 27 },
      { path: (x) => `M${x(110)} 286V258`, stroke: 19 },
      { path: (x) => `M${x(93)} 290L${x(90)} 267`, stroke: 18 },
      { path: (x) => `M${x(79)} 298L${x(74)} 279`, stroke: 17 },
      { path: (x) => `M${x(68)} 310L${x(60)} 295`, stroke: 16 }
    ]),
    words: [
      { text: 'right', x: 102, y: 20 },
      { text: 'left', x: 298, y: 20 }
    ],
    spots: bones('person', 200, {
      'little finger': [133, 104, 15, 42, 21],
      'ring finger': [114, 84, 15, 52, 7],
      'middle finger': [94, 74, 15, 58, 0],
      'index finger': [73, 86, 15, 52, -7],
      thumb: [52, 152, 16, 44, -31],
      hand: [99, 162, 42, 42],
      wrist: [98, 216, 32, 20],
      'great toe': [68, 268, 19, 30],
      'second toe': [90, 266, 14, 26],
      'third toe': [109, 275, 13, 23, 7],
      'fourth toe': [124, 287, 12, 20, 14],
      'little toe': [137, 302, 12, 17, 27],
      foot: [98, 332, 44, 54],
      ankle: [97, 386, 32, 26],
      heel: [98, 418, 30, 20]
    })
  };
}

type Outline = BodyDrawing['outline'];
/** What tells a dog from a cat and a horse when they lie on their backs. */
const heads: Record<ToothedSpecies | 'any', Outline> = {
  any: [
    { path: 'M200 10Q224 12 228 46Q232 72 214 82H186Q168 72 172 46Q176 12 200 10Z', stroke: 0 },
    { path: 'M176 60Q150 56 146 78', stroke: 13 },
    { path: 'M224 60Q250 56 254 78', stroke: 13 }
  ],
  // A long muzzle, and ears that hang.
  dog: [
    {
      path: 'M200 6Q214 7 216 28Q234 40 232 62Q228 84 200 86Q172 84 168 62Q166 40 184 28Q186 7 200 6Z',
      stroke: 0
    },
    { path: 'M172 50Q150 54 148 90', stroke: 17 },
    { path: 'M228 50Q250 54 252 90', stroke: 17 }
  ],
  // A round head, and ears that stand.
  cat: [
    { path: 'M200 20Q234 22 234 54Q232 84 200 86Q168 84 166 54Q166 22 200 20Z', stroke: 0 },
    { path: 'M168 58L150 20L188 30Z', stroke: 0 },
    { path: 'M232 58L250 20L212 30Z', stroke: 0 }
  ],
  // A long head that is narrow at the nose, and small ears.
  horse: [
    {
      path: 'M200 4Q218 5 219 22Q222 40 230 58Q228 80 200 86Q172 80 170 58Q178 40 181 22Q182 5 200 4Z',
      stroke: 0
    },
    { path: 'M176 70L162 92', stroke: 11 },
    { path: 'M224 70L238 92', stroke: 11 }
  ]
};
const tails: Record<ToothedSpecies | 'any', Outline> = {
  any: [{ path: 'M200 312Q204 368 192 424', stroke: 12 }],
  dog: [{ path: 'M200 312Q214 352 234 378', stroke: 13 }],
  cat: [{ path: 'M200 312Q190 370 214 398Q232 420 206 434', stroke: 10 }],
  horse: [
    { path: 'M200 306V330', stroke: 14 },
    { path: 'M200 326Q180 372 188 428Q200 436 212 428Q220 372 200 326Z', stroke: 0 }
  ]
};
const paws: Outline = [
  { path: 'M62 190L57 204', stroke: 30 },
  { path: 'M338 190L343 204', stroke: 30 },
  { path: 'M78 414L74 422', stroke: 30 },
  { path: 'M322 414L326 422', stroke: 30 }
];
const hooves: Outline = [
  { path: 'M50 182L76 190L66 216L38 206Z', stroke: 0 },
  { path: 'M350 182L324 190L334 216L362 206Z', stroke: 0 },
  { path: 'M66 402L94 406L88 434L58 430Z', stroke: 0 },
  { path: 'M334 402L306 406L312 434L342 430Z', stroke: 0 }
];

/** An animal with four legs lying on its back, seen from above it, the head at the top. */
export function animalsBones(species: ToothedSpecies | null = null): BodyDrawing {
  const whose = 'animal';
  return {
    width: 400,
    height: 446,
    outline: [
      ...heads[species ?? 'any'],
      { path: 'M200 84V112', stroke: 34 },
      {
        path: 'M164 112Q200 96 236 112Q256 166 240 220Q236 262 240 300Q200 330 160 300Q164 262 160 220Q144 166 164 112Z',
        stroke: 0
      },
      { path: 'M166 128L118 116L84 146L62 190', stroke: 22 },
      { path: 'M234 128L282 116L316 146L338 190', stroke: 22 },
      { path: 'M168 292L118 296L84 336L92 384L78 414', stroke: 24 },
      { path: 'M232 292L282 296L316 336L308 384L322 414', stroke: 24 },
      ...tails[species ?? 'any'],
      ...(species === 'horse' ? hooves : paws)
    ],
    words: [
      { text: 'right', x: 48, y: 40 },
      { text: 'left', x: 352, y: 40 }
    ],
    spots: [
      oval({ kind: 'trunk', region: 'chest', whose }, [200, 160, 68, 72]),
      oval({ kind: 'trunk', region: 'belly', whose }, [200, 238, 62, 54]),
      oval({ kind: 'spine', region: 'neck', whose }, [200, 98, 19, 24]),
      oval({ kind: 'spine', region: 'chest', whose }, [200, 160, 18, 52]),
      oval({ kind: 'spine', region: 'loin', whose }, [200, 238, 18, 44]),
      ...bones(whose, 200, {
        skull: [0, 44, 36, 44],
        shoulder: [40, 128, 22, 22],
        'upper arm': [63, 121, 24, 14, -14],
        elbow: [86, 116, 21, 21],
        forearm: [102, 132, 24, 14, 41],
        carpus: [117, 148, 20, 20],
        'fore fetlock': [129, 172, 18, 18],
        'fore foot': [140, 196, 20, 20],
        pelvis: [0, 290, 44, 22],
        hip: [35, 292, 20, 20],
        femur: [60, 294, 24, 14, 4],
        stifle: [84, 298, 21, 21],
        'lower leg': [101, 318, 24, 14, 50],
        tarsus: [115, 340, 21, 21],
        'hind fetlock': [109, 380, 18, 18],
        'hind foot': [120, 412, 21, 21]
      })
    ]
  };
}

/** Both eyes, with the nine ways each is asked to look. Towards the nose is towards the middle of the drawing. */
export function bothEyes(): BodyDrawing {
  const [right, left, y, stepPx] = [102, 298, 140, 38];
  const eye = (side: 'right' | 'left', x: number): Spot[] => {
    const nose = side === 'right' ? 1 : -1;
    return gazes.map((gaze) => {
      const dx = gaze.includes('nose') ? nose : gaze.includes('temple') ? -nose : 0;
      const dy = gaze.includes('up') ? -1 : gaze.includes('down') ? 1 : 0;
      return oval({ kind: 'eye', side, gaze }, [x + dx * stepPx, y + dy * stepPx, 30, 30]);
    });
  };
  const whole = (side: 'right' | 'left', x: number) =>
    oval({ kind: 'eye', side, gaze: null }, [x, 262, 118, 34], { x, y: 262 });
  const lids = (x: number) =>
    `M${x - 94} ${y}Q${x} ${y - 150} ${x + 94} ${y}Q${x} ${y + 150} ${x - 94} ${y}Z`;
  const iris = (x: number) => `M${x} ${y - 61}a61 61 0 1 0 .1 0Z`;
  return {
    width: 400,
    height: 300,
    outline: [right, left].flatMap((x) => [
      { path: lids(x), stroke: 0 },
      { path: iris(x), stroke: 1 }
    ]),
    words: [
      { text: 'right', x: right, y: 36 },
      { text: 'left', x: left, y: 36 }
    ],
    spots: [...eye('right', right), ...eye('left', left), whole('right', right), whole('left', left)]
  };
}
