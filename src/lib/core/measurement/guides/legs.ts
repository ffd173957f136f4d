import { angleAtDeg, distance, middleOf, offLine } from '../geometry';
import type { Point } from '../../raster/orientation';
import { type Formula, type Guide, landmark } from './guide';

const paley = { author: 'Paley', year: 2002, title: 'Principles of Deformity Correction' };
const sabharwal = {
  author: 'Sabharwal and Kumar',
  year: 2008,
  title: 'Methods for assessing leg length discrepancy'
};

type At = (key: string) => Point;
const sides = ['right', 'left'] as const;
const x = { right: 0.3, left: 0.7 };
const out = { right: -1, left: 1 };

const joints = sides.flatMap((side) => [
  landmark(`${side} hip`, `Hip, ${side}`, 'Middle of the round head of the thigh bone', x[side], 0.06),
  landmark(`${side} ankle`, `Ankle, ${side}`, 'Middle of the upper surface of the ankle bone', x[side], 0.95)
]);

/** The middles of both heads are told by their outlines. */
const heads = sides.map((side) => ({ kind: 'round' as const, landmark: `${side} hip` }));

const legLength = (side: string) => (at: At) =>
  distance(at(`standing.${side} hip`), at(`standing.${side} ankle`));

/** Leg length difference on a standing view of both legs: hip to ankle. */
export const legLengthDifference: Guide = {
  key: 'leg-length',
  version: 1,
  name: 'Leg length difference',
  trade: 'bones',
  views: [
    {
      key: 'standing',
      name: 'Both legs, standing, from the front',
      lines: sides.map((side) => [`${side} hip`, `${side} ankle`] as const),
      sharpens: heads,
      landmarks: joints
    }
  ],
  formulas: [
    ...sides.map((side): Formula => ({
      key: `${side} length`,
      name: `Length of the ${side} leg`,
      unit: 'mm',
      power: 1,
      needs: [`standing.${side} hip`, `standing.${side} ankle`],
      of: legLength(side),
      source: sabharwal
    })),
    {
      key: 'difference',
      name: 'Difference, left minus right',
      unit: 'mm',
      power: 1,
      needs: ['standing.right hip', 'standing.right ankle', 'standing.left hip', 'standing.left ankle'],
      of: (at) => legLength('left')(at) - legLength('right')(at),
      source: sabharwal,
      sign: 'Above 0 the left leg is longer.',
      mind: 'A knee that does not stretch fully makes its leg look shorter.'
    }
  ]
};

const axes = (side: 'right' | 'left'): Formula[] => {
  const p = (name: string) => `standing.${side} ${name}`;
  const knee = (at: At) => at(p('knee'));
  return [
    {
      key: `${side} hka`,
      name: `Hip-knee-ankle, ${side}`,
      unit: 'deg',
      power: 0,
      needs: [p('hip'), p('knee'), p('ankle'), p('condyle outer'), p('condyle inner')],
      of: (at) => {
        const angle = angleAtDeg(at(p('hip')), knee(at), at(p('ankle')));
        const bow = offLine(knee(at), at(p('hip')), at(p('ankle')));
        // In clear knock-knees both condyles lie inside of the line: which way is out they tell against each other.
        const outwards =
          offLine(at(p('condyle outer')), at(p('hip')), at(p('ankle'))) -
          offLine(at(p('condyle inner')), at(p('hip')), at(p('ankle')));
        return bow * outwards > 0 ? angle : 360 - angle;
      },
      source: paley,
      normal: { low: 178, high: 180, source: paley },
      sign: 'On the inner side of the knee: below 180 bow-legged (varus), above 180 knock-kneed (valgus).',
      mind: 'A leg turned in or out, or a bent knee, changes it.'
    },
    {
      key: `${side} mldfa`,
      name: `mLDFA, ${side}`,
      unit: 'deg',
      power: 0,
      needs: [p('hip'), p('knee'), p('condyle outer'), p('condyle inner')],
      of: (at) => {
        const [outer, inner] = [at(p('condyle outer')), at(p('condyle inner'))];
        const toHip = { x: at(p('hip')).x - knee(at).x, y: at(p('hip')).y - knee(at).y };
        const origin = { x: 0, y: 0 };
        return angleAtDeg(toHip, origin, { x: outer.x - inner.x, y: outer.y - inner.y });
      },
      source: paley,
      normal: { low: 85, high: 90, source: paley }
    },
    {
      key: `${side} mpta`,
      name: `MPTA, ${side}`,
      unit: 'deg',
      power: 0,
      needs: [p('ankle'), p('plateau outer'), p('plateau inner')],
      of: (at) => {
        const [outer, inner] = [at(p('plateau outer')), at(p('plateau inner'))];
        const middle = middleOf(outer, inner);
        const down = { x: at(p('ankle')).x - middle.x, y: at(p('ankle')).y - middle.y };
        return angleAtDeg(down, { x: 0, y: 0 }, { x: inner.x - outer.x, y: inner.y - outer.y });
      },
      source: paley,
      normal: { low: 85, high: 90, source: paley }
    }
  ];
};

/** Mechanical axes of the leg: hip-knee-ankle, and how the joint lines of the knee stand to the axes. */
export const legAxes: Guide = {
  key: 'leg-axes',
  version: 1,
  name: 'Mechanical axes of the legs',
  trade: 'bones',
  views: [
    {
      key: 'standing',
      name: 'Both legs, standing, from the front',
      lines: sides.flatMap((side) => [
        [`${side} hip`, `${side} knee`] as const,
        [`${side} knee`, `${side} ankle`] as const,
        [`${side} condyle outer`, `${side} condyle inner`] as const,
        [`${side} plateau outer`, `${side} plateau inner`] as const
      ]),
      sharpens: heads,
      landmarks: [
        ...joints,
        ...sides.flatMap((side) => [
          landmark(`${side} knee`, `Knee, ${side}`, 'Middle of the notch between the condyles', x[side], 0.5),
          landmark(
            `${side} condyle outer`,
            `Outer condyle, ${side}`,
            'Lowest point of the thigh bone on the outer side',
            x[side] + 0.06 * out[side],
            0.51
          ),
          landmark(
            `${side} condyle inner`,
            `Inner condyle, ${side}`,
            'Lowest point of the thigh bone on the inner side',
            x[side] - 0.06 * out[side],
            0.51
          ),
          landmark(
            `${side} plateau outer`,
            `Outer plateau, ${side}`,
            'Outer end of the shin bone’s upper surface',
            x[side] + 0.07 * out[side],
            0.53
          ),
          landmark(
            `${side} plateau inner`,
            `Inner plateau, ${side}`,
            'Inner end of the shin bone’s upper surface',
            x[side] - 0.07 * out[side],
            0.53
          )
        ])
      ]
    }
  ],
  formulas: sides.flatMap(axes)
};
