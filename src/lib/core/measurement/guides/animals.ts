import type { Point } from '../../raster/orientation';
import { angleAtDeg, between, distance, offLine, turnDeg } from '../geometry';
import { type Formula, type Guide, type Source, landmark, optional } from './guide';

type At = (key: string) => Point;

const olsson = {
  author: 'Olsson',
  year: 1961,
  title: 'Roentgen examination of the hip joints of German shepherd dogs'
};

const norberg = (side: 'right' | 'left', other: 'right' | 'left'): Formula => ({
  key: side,
  name: `Norberg angle, ${side}`,
  unit: 'deg',
  power: 0,
  needs: [`below.${side} head`, `below.${other} head`, `below.${side} rim`, `below.${other} rim`],
  of: (at) => {
    const [head, further] = [at(`below.${side} head`), at(`below.${other} head`)];
    const [rim, otherRim] = [at(`below.${side} rim`), at(`below.${other} rim`)];
    if (offLine(rim, head, further) * offLine(otherRim, head, further) <= 0)
      throw new RangeError('the two rims do not lie on the same side of the line of both heads');
    if (distance(rim, head) > distance(rim, further))
      throw new RangeError('the rim lies nearer to the other head than to its own: the sides are swapped');
    return angleAtDeg(further, head, rim);
  },
  source: olsson,
  normal: { low: 105, high: 180, source: olsson },
  mind: 'A pelvis turned about its length opens one side and closes the other: compare both halves of the pelvis first.'
});

const tomlinson = {
  author: 'Tomlinson and Johnson',
  year: 2000,
  title:
    'Quantification of measurement of femoral head coverage and Norberg angle within and among four breeds of dogs',
  fromMemory: true as const
};

/**
 * Share of the head's disc that the socket's upper rim covers: what lies inwards of the chord between the two places where
 * the rim crosses the head's outline. Worked value: a chord through the middle covers 50 %.
 */
const coverShare = (side: 'right' | 'left', other: 'right' | 'left'): Formula => {
  const [head, edge, front, back] = ['head', 'head edge', 'rim in front', 'rim behind'].map(
    (key) => `below.${side} ${key}`
  );
  return {
    key: `${side} cover`,
    name: `Head under cover, ${side}`,
    unit: '%',
    power: 0,
    needs: [head, edge, front, back, `below.${other} head`],
    of: (at) => {
      const radius = distance(at(head), at(edge));
      const inwards = Math.sign(offLine(at(`below.${other} head`), at(front), at(back)));
      const off = (inwards * offLine(at(head), at(front), at(back))) / radius;
      if (Math.abs(off) >= 1) throw new RangeError('the rim does not cross the outline of the head');
      return 100 * (1 - (Math.acos(off) - off * Math.sqrt(1 - off * off)) / Math.PI);
    },
    source: tomlinson,
    normal: { low: 50, high: 100, source: tomlinson }
  };
};

/** Hip cover angle: between the line of both heads and the line to the front rim of the socket. */
export const hipCover: Guide = {
  key: 'hip-cover',
  version: 2,
  name: 'Hip cover (Norberg)',
  trade: 'animals',
  views: [
    {
      key: 'below',
      name: 'Pelvis, lying on the back, hind legs stretched',
      lines: [
        ['right head', 'left head'],
        ['right head', 'right rim'],
        ['left head', 'left rim'],
        ['right rim in front', 'right rim behind'],
        ['left rim in front', 'left rim behind']
      ],
      sharpens: [
        { kind: 'round', landmark: 'right head' },
        { kind: 'round', landmark: 'left head' }
      ],
      landmarks: (['right', 'left'] as const).flatMap((side) => {
        const x = side === 'right' ? 0.3 : 0.7;
        return [
          landmark(`${side} head`, `Head, ${side}`, 'Middle of the round head of the thigh bone', x, 0.6),
          landmark(
            `${side} rim`,
            `Rim, ${side}`,
            'Outermost front edge of the socket',
            x + (side === 'right' ? -0.03 : 0.03),
            0.48
          ),
          ...(
            [
              [
                'head edge',
                'Outline of the head',
                'Any point on the round outline of the head, away from the socket',
                -0.068,
                0.615
              ],
              [
                'rim in front',
                'Upper rim, in front',
                'Where the upper rim of the socket crosses the outline of the head, in front',
                0.015,
                0.54
              ],
              [
                'rim behind',
                'Upper rim, behind',
                'Where the upper rim of the socket crosses the outline of the head, behind',
                0.02,
                0.66
              ]
            ] as const
          ).map(([key, name, where, dx, y]) =>
            optional(
              landmark(`${side} ${key}`, `${name}, ${side}`, where, x + (side === 'right' ? dx : -dx), y)
            )
          )
        ];
      })
    }
  ],
  formulas: [
    norberg('right', 'left'),
    norberg('left', 'right'),
    coverShare('right', 'left'),
    coverShare('left', 'right')
  ]
};

const buchanan = {
  author: 'Buchanan and Bucheler',
  year: 1995,
  title: 'Vertebral scale system to measure canine heart size in radiographs'
};

/** Front edges of vertebrae from T4 backwards: as many are placed as the heart is long. */
const scaleEdges = [...Array.from({ length: 10 }, (_, i) => `T${i + 4} front`), 'L1 front'];
const leastEdges = 4;

const placedEdges = (at: (key: string) => Point | undefined): string[] => {
  const missing = scaleEdges.findIndex((key) => !at(`side.${key}`));
  return (missing < 0 ? scaleEdges : scaleEdges.slice(0, missing)).map((key) => `side.${key}`);
};

/** A length laid along the vertebrae from the front edge of T4, in vertebrae, to a tenth and finer. NaN beyond the last. */
function inVertebrae(at: At, edges: readonly string[], length: number): number {
  let gone = 0;
  for (let i = 1; i < edges.length; i++) {
    const step = distance(at(edges[i - 1]), at(edges[i]));
    if (gone + step >= length) return i - 1 + (length - gone) / step;
    gone += step;
  }
  return NaN;
}

const long = ['side.carina', 'side.apex'];
const short = ['side.heart front', 'side.heart back'];

const litster = {
  author: 'Litster and Buchanan',
  year: 2000,
  title: 'Vertebral scale system to measure heart size in radiographs of cats',
  fromMemory: true as const
};

/** Heart size against the vertebrae above it. */
const heartOf = (key: string, name: string, source: Source, normal: Formula['normal'] & object): Guide => ({
  key,
  version: 1,
  name,
  trade: 'animals',
  views: [
    {
      key: 'side',
      name: 'Chest from the side',
      lines: [
        ['carina', 'apex'],
        ['heart front', 'heart back']
      ],
      landmarks: [
        landmark(
          'carina',
          'Fork of the windpipe',
          'Lower edge of the round shadow where the windpipe divides',
          0.42,
          0.42
        ),
        landmark('apex', 'Tip of the heart', 'The lowest point of the heart’s outline', 0.5, 0.8),
        landmark(
          'heart front',
          'Front of the heart',
          'Where the widest line square to the first meets the front edge',
          0.3,
          0.6
        ),
        landmark('heart back', 'Back of the heart', 'Where the same line meets the back edge', 0.56, 0.55),
        ...scaleEdges.map((key, i) => {
          const [name] = key.split(' ');
          const place = landmark(
            key,
            `${name}, front edge`,
            `Front end of the lower edge of ${name}’s body`,
            0.3 + 0.06 * i,
            0.14
          );
          return i < leastEdges ? place : optional(place);
        })
      ]
    }
  ],
  formulas: [],
  further: (placed) => {
    const edges = placedEdges(placed);
    if (edges.length < leastEdges) return [];
    const score: Formula = {
      key: 'score',
      name: 'Vertebral heart score',
      unit: '',
      power: 0,
      needs: [...long, ...short, ...edges],
      of: (at) =>
        inVertebrae(at, edges, distance(at(long[0]), at(long[1]))) +
        inVertebrae(at, edges, distance(at(short[0]), at(short[1]))),
      source,
      normal,
      sign: 'Long and short axis of the heart, each in vertebrae from T4 on, added up. Breeds differ.',
      mind: 'As many vertebrae as the heart is long have to be placed; with fewer there is no score.'
    };
    return [score];
  }
});

export const heartScore = heartOf('heart-score', 'Heart size against vertebrae (VHS)', buchanan, {
  low: 8.5,
  high: 10.5,
  source: buchanan
});
export const heartOfCats = heartOf('heart-score-cat', 'Heart size of a cat (VHS)', litster, {
  low: 6.7,
  high: 8.1,
  source: litster
});

const slocum = {
  author: 'Slocum and Slocum',
  year: 1993,
  title: 'Tibial plateau leveling osteotomy for repair of cranial cruciate ligament rupture in the canine'
};
const reif = {
  author: 'Reif and Probst',
  year: 2003,
  title:
    'Comparison of tibial plateau angles in normal and cranial cruciate deficient stifles of Labrador retrievers'
};

const osmond = {
  author: 'Osmond, Marcellin-Little, Harrysson and Kidd',
  year: 2006,
  title:
    'Morphometric assessment of the proximal portion of the tibia in dogs with and without cranial cruciate ligament rupture',
  fromMemory: true as const
};
const dennler = {
  author: 'Dennler, Kipfer, Tepic, Hassig and Montavon',
  year: 2006,
  title:
    'Inclination of the patellar ligament in relation to flexion angle in stifle joints of dogs without degenerative joint disease',
  fromMemory: true as const
};

/** Tibial plateau angle: slope of the plateau against square to the shin bone's axis. */
export const plateauAngle: Guide = {
  key: 'plateau-angle',
  version: 2,
  name: 'Tibial plateau angle',
  trade: 'animals',
  views: [
    {
      key: 'side',
      name: 'Stifle and ankle from the side',
      lines: [
        ['plateau front', 'plateau back'],
        ['eminence', 'ankle'],
        ['shaft upper', 'shaft lower'],
        ['patella lower', 'tuberosity']
      ],
      sharpens: [
        { kind: 'edge', ends: ['plateau front', 'plateau back'] },
        { kind: 'shaft', ends: ['shaft upper', 'shaft lower'] }
      ],
      landmarks: [
        landmark(
          'plateau front',
          'Plateau, front',
          'Front end of the inner half of the joint surface',
          0.4,
          0.3
        ),
        landmark(
          'plateau back',
          'Plateau, back',
          'Back end of the inner half of the joint surface',
          0.62,
          0.36
        ),
        landmark(
          'eminence',
          'Middle of the eminence',
          'Middle between the two small peaks of the joint surface',
          0.5,
          0.28
        ),
        landmark('ankle', 'Middle of the ankle', 'Middle of the round outline of the ankle bone', 0.55, 0.95),
        optional(
          landmark(
            'shaft upper',
            'Shaft, upper',
            'Middle of the shin bone’s shaft where it begins to be even',
            0.47,
            0.58
          )
        ),
        optional(
          landmark(
            'shaft lower',
            'Shaft, lower',
            'Middle of the shin bone’s shaft before it widens again',
            0.515,
            0.8
          )
        ),
        optional(
          landmark(
            'patella lower',
            'Knee cap, front of its lower end',
            'Where the ligament of the knee cap begins',
            0.245,
            0.215
          )
        ),
        optional(
          landmark(
            'tuberosity',
            'Tuberosity of the shin bone',
            'Where the ligament of the knee cap ends',
            0.325,
            0.36
          )
        )
      ]
    }
  ],
  formulas: [
    {
      key: 'angle',
      name: 'Tibial plateau angle',
      unit: 'deg',
      power: 0,
      needs: ['side.plateau front', 'side.plateau back', 'side.eminence', 'side.ankle'],
      of: (at) =>
        90 -
        Math.abs(
          turnDeg(
            between(at('side.plateau front'), at('side.plateau back')),
            between(at('side.eminence'), at('side.ankle'))
          )
        ),
      source: slocum,
      normal: { low: 18, high: 28, source: reif },
      sign: 'Above 0 the back end of the plateau lies nearer to the ankle; below 0, as after a correction, the front end.',
      mind: 'Condyles that do not lie over each other change it by a degree and more.'
    },
    {
      key: 'anatomical',
      name: 'Plateau against the shaft’s own axis',
      unit: 'deg',
      power: 0,
      needs: ['side.plateau front', 'side.plateau back', 'side.shaft upper', 'side.shaft lower'],
      of: (at) =>
        90 -
        Math.abs(
          turnDeg(
            between(at('side.plateau front'), at('side.plateau back')),
            between(at('side.shaft upper'), at('side.shaft lower'))
          )
        ),
      source: osmond,
      sign: 'The same slope against the middle line of the shaft: larger where the upper shin bone bows backwards.'
    },
    {
      key: 'ligament',
      name: 'Ligament of the knee cap against the plateau',
      unit: 'deg',
      power: 0,
      needs: ['side.plateau front', 'side.plateau back', 'side.patella lower', 'side.tuberosity'],
      of: (at) =>
        Math.abs(
          turnDeg(
            between(at('side.plateau front'), at('side.plateau back')),
            between(at('side.tuberosity'), at('side.patella lower'))
          )
        ),
      source: dennler,
      sign: 'About 90° the joint is pushed neither forwards nor backwards; more, and the shin bone is pushed forwards.',
      mind: 'It changes with how far the stifle is bent: 135° is usual.'
    }
  ]
};
