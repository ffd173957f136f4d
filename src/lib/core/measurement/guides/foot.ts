import type { Point } from '../../raster/orientation';
import { angleAtDeg, between, middleOf, offLine, turnDeg } from '../geometry';
import { type Guide, landmark } from './guide';

type At = (key: string) => Point;

const boehler = {
  author: 'Böhler',
  year: 1931,
  title: 'Diagnosis, pathology, and treatment of fractures of the os calcis',
  fromMemory: true as const
};

/** The heel bone from the side: how far its joint surface stands above the line of both ends. */
export const heelBone: Guide = {
  key: 'heel-bone',
  version: 1,
  name: 'Heel bone (Böhler)',
  trade: 'bones',
  views: [
    {
      key: 'side',
      name: 'Foot or ankle from the side',
      lines: [
        ['tuber', 'facet'],
        ['facet', 'front']
      ],
      landmarks: [
        landmark(
          'tuber',
          'Heel, highest point',
          'The highest point at the back of the heel bone',
          0.82,
          0.42
        ),
        landmark(
          'facet',
          'Joint surface, highest point',
          'The highest point of the heel bone’s joint surface under the ankle bone',
          0.52,
          0.33
        ),
        landmark(
          'front',
          'Front, highest point',
          'The highest point of the front end of the heel bone',
          0.3,
          0.46
        )
      ]
    }
  ],
  formulas: [
    {
      key: 'angle',
      name: 'Böhler’s angle',
      unit: 'deg',
      power: 0,
      needs: ['side.tuber', 'side.facet', 'side.front'],
      of: (at) => {
        const [tuber, facet, front] = [at('side.tuber'), at('side.facet'), at('side.front')];
        const angle = 180 - angleAtDeg(tuber, facet, front);
        // Which side of the line is above depends on which way the foot looks.
        const above = offLine(facet, tuber, front) * (tuber.x < front.x ? -1 : 1);
        return above < 0 ? -angle : angle;
      },
      source: boehler,
      normal: { low: 20, high: 40, source: boehler },
      sign: 'Below 0 the joint surface lies under the line of both ends.',
      mind: 'A foot that is turned about its length flattens it; compare with the other side.'
    }
  ]
};

const hardy = {
  author: 'Hardy and Clapham',
  year: 1951,
  title: 'Observations on hallux valgus based on a controlled series',
  fromMemory: true as const
};
/** Positive where the second direction leans away from the midline of the body, towards the other toes. */
const towardsToes = (at: At, from: Point, to: Point): number => {
  const first = middleOf(at('above.first base'), at('above.first head'));
  const second = middleOf(at('above.second base'), at('above.second head'));
  const way = Math.sign(
    turnDeg(between(at('above.first base'), at('above.first head')), between(first, second))
  );
  if (way === 0) throw new RangeError('both metatarsals lie on one line');
  return way * turnDeg(from, to);
};
const bone = (at: At, name: string) => between(at(`above.${name} base`), at(`above.${name} head`));
const axisOf = (key: string, name: string, x: number, base: number, head: number) => [
  landmark(`${key} base`, `${name}, near end`, `Middle of its shaft, just above the near joint`, x, base),
  landmark(
    `${key} head`,
    `${name}, far end`,
    `Middle of its shaft, just before the far joint`,
    x - 0.02,
    head
  )
];

/** The great toe from above: how far it leans to the others, and how far the first two metatarsals spread. */
export const greatToe: Guide = {
  key: 'great-toe',
  version: 1,
  name: 'Great toe (hallux)',
  trade: 'bones',
  views: [
    {
      key: 'above',
      name: 'Foot, standing, from above',
      lines: [
        ['first base', 'first head'],
        ['toe base', 'toe head'],
        ['second base', 'second head']
      ],
      landmarks: [
        ...axisOf('first', 'First metatarsal', 0.28, 0.6, 0.4),
        ...axisOf('toe', 'First bone of the great toe', 0.26, 0.28, 0.17),
        ...axisOf('second', 'Second metatarsal', 0.45, 0.58, 0.35)
      ]
    }
  ],
  formulas: [
    {
      key: 'hallux valgus',
      name: 'Hallux valgus angle',
      unit: 'deg',
      power: 0,
      needs: ['first base', 'first head', 'toe base', 'toe head', 'second base', 'second head'].map(
        (key) => `above.${key}`
      ),
      of: (at) => towardsToes(at, bone(at, 'first'), bone(at, 'toe')),
      source: hardy,
      normal: { low: null, high: 15, source: hardy },
      sign: 'Above 0 the great toe leans to the other toes.',
      mind: 'A foot without load shows less of it.'
    },
    {
      key: 'between metatarsals',
      name: 'First to second metatarsal',
      unit: 'deg',
      power: 0,
      needs: ['first base', 'first head', 'second base', 'second head'].map((key) => `above.${key}`),
      of: (at) => towardsToes(at, bone(at, 'first'), bone(at, 'second')),
      source: hardy,
      normal: { low: null, high: 9, source: hardy },
      sign: 'Above 0 they spread towards the toes.'
    }
  ]
};
